/** Text made safe to stand in HTML. */
export function escapeHtml(value: unknown): string {
  return String(value).replace(/[&<>"']/g, (character) => `&#${character.charCodeAt(0)};`);
}

/** A plain page of the stand-ins, in a look of its own so that nobody takes it for the shop or for Ruta. */
export function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(title)}</title>
<style>body{font:15px/1.5 system-ui,sans-serif;margin:0;background:#eef0f4;color:#1d2433}main{max-width:980px;margin:0 auto;padding:24px}
h1{font-size:22px}h2{font-size:17px;margin-top:32px}table{border-collapse:collapse;width:100%;background:#fff}th,td{text-align:left;padding:7px 10px;border-bottom:1px solid #dde1e9;vertical-align:top}
td,th{font-variant-numeric:tabular-nums}a{color:#1c4fa0}button{font:600 15px system-ui;padding:10px 18px;border-radius:5px;border:1px solid #33405c;background:#33405c;color:#fff;cursor:pointer}
button.second{background:#fff;color:#33405c}iframe{width:100%;height:70vh;border:1px solid #c9cfdb;background:#fff}.note{color:#4c566b}</style></head><body><main>${body}</main></body></html>`;
}

/** Rows of a table, every cell escaped unless it is marked as made HTML. */
export function table(heads: string[], rows: Array<Array<unknown | { html: string }>>): string {
  const cell = (value: unknown) =>
    `<td>${typeof value === 'object' && value !== null && 'html' in value ? (value as { html: string }).html : escapeHtml(value)}</td>`;
  if (rows.length === 0) return '<p class="note">Nothing yet.</p>';
  return `<table><thead><tr>${heads.map((head) => `<th scope="col">${escapeHtml(head)}</th>`).join('')}</tr></thead><tbody>${rows
    .map((row) => `<tr>${row.map(cell).join('')}</tr>`)
    .join('')}</tbody></table>`;
}
