const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', '#39': "'", nbsp: ' ' };

/** A rich description as plain words in one line, for mails, search engines and lists. */
export function descriptionText(html: string): string {
  return html
    .replace(/<(br|\/p|\/li|\/h[1-6])\s*\/?>/g, ' ')
    .replace(/<[^>]*>/g, '')
    .replace(/&(#39|[a-z]+);/g, (whole, name: string) => ENTITIES[name] ?? whole)
    .replace(/\s+/g, ' ')
    .trim();
}
