/**
 * For pages on other sites that lead to the shop: counts their views, and takes visitor, campaign and click ids along to the
 * shop. `<script src="https://shop.example/embed/outside.js" data-funnel="moon-month" async></script>`
 */
const own = document.currentScript;
if (own instanceof HTMLScriptElement) start(new URL(own.src).origin, own.dataset.funnel ?? '');

function start(shop: string, funnel: string): void {
  const KEY = 'ruta visitor';
  const CARRIED = /^(utm_\w+|\w*click(_id)?)$/;
  /** Good for one way to the shop. */
  let word: string | null = null;

  const ask = async (count: boolean) => {
    const known = kept(KEY);
    const asked = new URLSearchParams({
      funnel,
      ...(known ? { visitor: known } : {}),
      ...(count ? { id: `evt_${randomId()}`, page: location.host + location.pathname, query: location.search } : {}),
    });
    const answer = await fetch(`${shop}/outside?${asked}`, { method: 'POST', keepalive: true, credentials: 'omit' });
    const said = (await answer.json()) as { visitor: string; word: string };
    keep(KEY, said.visitor);
    word = said.word;
  };
  const lost = () => {
    // A lost count must never disturb a visitor; the campaign goes along all the same.
  };
  ask(true).catch(lost);

  document.addEventListener(
    'click',
    ({ target }) => {
      const link = target instanceof Element ? target.closest<HTMLAnchorElement>('a[href]') : null;
      if (!link || link.origin !== shop) return;
      const to = new URL(link.href);
      for (const [name, value] of new URLSearchParams(location.search)) if (CARRIED.test(name) && !to.searchParams.has(name)) to.searchParams.set(name, value);
      if (word) to.searchParams.set('ruta_from', word);
      word = null;
      link.href = to.href;
      ask(false).catch(lost);
    },
    true,
  );
}

function kept(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing: then every view is somebody's first.
  }
}

function randomId(): string {
  const alphabet = '0123456789abcdefghjkmnpqrstvwxyz';
  return Array.from(crypto.getRandomValues(new Uint8Array(20)), (byte) => alphabet[byte % 32]).join('');
}

// A module of its own, so that its names are.
export {};
