/** Who somebody is on a page of another site, and the word by which the shop counts them as the same when they arrive. */
export interface Elsewhere {
  /** Asks for a word for a page of the shop that is about to be opened. */
  prepare: (href: string) => void;
  /** The word that was asked for; null where it has not come by now. */
  readyWord: (href: string) => string | null;
  /** The same, waited for a moment. */
  takeWord: (href: string) => Promise<string | null>;
}

const KEY = 'ruta visitor';
const CARRIED = /^(utm_\w+|\w*click(_id)?|partner)$/;
/** A word is good for half a minute; one that is older is asked for anew. */
const FRESH_MS = 20_000;
/** Nobody waits longer for being counted. */
const PATIENCE_MS = 800;

interface Asked {
  at: number;
  word: string | null;
  coming: Promise<string | null>;
}
/** What the shop's scripts on one page share, however many of them there are. */
interface Shared {
  /** One question after the other, so that a later one comes with the id that the first was given. */
  asking: Promise<unknown>;
  words: Map<string, Asked>;
}
type Host = Window & { rutaElsewhere?: Record<string, Shared> };

/**
 * Makes somebody known to a shop from another site: all of the shop's scripts on a page know the same visitor.
 * @param funnel the address of the funnel in which the view counts; null for a page that is nobody's way into one
 */
export function elsewhere(shop: string, funnel: string | null): Elsewhere {
  const host = window as Host;
  host.rutaElsewhere ??= {};
  host.rutaElsewhere[shop] ??= { asking: Promise.resolve(), words: new Map() };
  const shared = host.rutaElsewhere[shop];
  const ask = (count: boolean, to?: string): Promise<string | null> => {
    // A lost count must never disturb a visitor; the campaign goes along all the same.
    const answer = shared.asking.then(() => question(shop, funnel, count, to)).catch(() => null);
    shared.asking = answer;
    return answer;
  };
  if (funnel !== null) ask(true);
  const askedFor = (href: string): Asked => {
    const known = shared.words.get(href);
    if (known && performance.now() - known.at < FRESH_MS) return known;
    const asked: Asked = { at: performance.now(), word: null, coming: ask(false, href) };
    asked.coming.then((word) => {
      asked.word = word;
    });
    shared.words.set(href, asked);
    return asked;
  };
  return {
    prepare: askedFor,
    readyWord: (href) => {
      const { word } = askedFor(href);
      if (word) shared.words.delete(href);
      return word;
    },
    takeWord: async (href) => {
      const { coming } = askedFor(href);
      shared.words.delete(href);
      return Promise.race([coming, new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS))]);
    },
  };
}

async function question(shop: string, funnel: string | null, count: boolean, to: string | undefined): Promise<string | null> {
  const visitor = kept(KEY);
  const asked = new URLSearchParams({
    funnel: funnel ?? '',
    ...(visitor ? { visitor } : {}),
    ...(to === undefined ? {} : { to }),
    ...(count ? { id: `evt_${randomId()}`, page: location.host + location.pathname, query: location.search } : {}),
  });
  const answer = await fetch(`${shop}/outside?${asked}`, { method: 'POST', keepalive: true, credentials: 'omit' });
  const said = (await answer.json()) as { visitor: string | null; word: string | null };
  keep(KEY, said.visitor);
  return said.word;
}

/** The link of a page that a press or a key is on its way to. */
export const linkOf = ({ target }: Event, selector: string): HTMLAnchorElement | null =>
  target instanceof Element ? target.closest<HTMLAnchorElement>(selector) : null;

/** Asks for words as soon as somebody is about to press one of the links, so that they do not wait for it. */
export function prepareOn(selector: string, shop: string, visitor: Elsewhere): void {
  for (const kind of ['pointerover', 'touchstart', 'focusin'] as const) {
    document.addEventListener(
      kind,
      (event) => {
        const link = linkOf(event, selector);
        if (link?.origin === shop) visitor.prepare(link.href);
      },
      { capture: true, passive: true },
    );
  }
}

/** An address of the shop with the campaign and click ids of this page, and the word by which whoever opens it is counted. */
export function carried(href: string, word: string | null): URL {
  const to = new URL(href);
  for (const [name, value] of new URLSearchParams(location.search)) if (CARRIED.test(name) && !to.searchParams.has(name)) to.searchParams.set(name, value);
  if (word) to.searchParams.set('ruta_from', word);
  return to;
}

function kept(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** Keeps a value; null forgets what was kept: the shop asks first, and nobody can be asked here. */
function keep(key: string, value: string | null): void {
  try {
    if (value === null) localStorage.removeItem(key);
    else localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing: then every view is somebody's first.
  }
}

function randomId(): string {
  const alphabet = '0123456789abcdefghjkmnpqrstvwxyz';
  return Array.from(crypto.getRandomValues(new Uint8Array(20)), (byte) => alphabet[byte % 32]).join('');
}
