import { readyForms } from './fieldErrors';

/**
 * Counts the view of a page, once it is really shown: a page that is only fetched ahead of a click does not count.
 * The id is made here, so that the same view sent twice is recorded once.
 */
function randomId(): string {
  const alphabet = '0123456789abcdefghjkmnpqrstvwxyz';
  return Array.from(crypto.getRandomValues(new Uint8Array(20)), (byte) => alphabet[byte % 32]).join('');
}

function send(): void {
  const id = `evt_${randomId()}`;
  // There where the seller's own code runs; a tag manager is told with the very id that the server keeps.
  const data = (window as { rutaData?: unknown[] }).rutaData;
  data?.push({ event: 'page_viewed', id });
  const view = new URLSearchParams({ id, path: location.pathname, query: location.search, ...(data ? { tell: '1' } : {}) });
  fetch(`/e?${view}`, { method: 'POST', keepalive: true, credentials: 'same-origin' })
    .then(async (answer) => {
      // What happened since the last page: each with the id that the server keeps.
      if (data && answer.status === 200) for (const moment of (await answer.json()) as unknown[]) data.push(moment);
    })
    .catch(() => {
      // A lost count must never disturb a visitor; there is nobody here to tell.
    });
}

const page = document as Document & { prerendering?: boolean };
if (page.prerendering) document.addEventListener('prerenderingchange', send, { once: true });
else send();

readyForms();
