/**
 * Counts the view of a page, once it is really shown: a page that is only fetched ahead of a click does not count.
 * The id is made here, so that the same view sent twice is recorded once.
 */
function randomId(): string {
  const alphabet = '0123456789abcdefghjkmnpqrstvwxyz';
  return Array.from(crypto.getRandomValues(new Uint8Array(20)), (byte) => alphabet[byte % 32]).join('');
}

function send(): void {
  const view = new URLSearchParams({ id: `evt_${randomId()}`, path: location.pathname, query: location.search });
  fetch(`/e?${view}`, { method: 'POST', keepalive: true, credentials: 'same-origin' }).catch(() => {
    // A lost count must never disturb a visitor; there is nobody here to tell.
  });
}

const page = document as Document & { prerendering?: boolean };
if (page.prerendering) document.addEventListener('prerenderingchange', send, { once: true });
else send();
