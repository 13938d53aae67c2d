/** Who somebody is on a page of another site, and the word by which the shop knows them when they arrive. */
export interface Elsewhere {
  /** The word for one way to the shop; null where none has come yet. A further one is asked for at once. */
  takeWord: () => string | null;
}

const KEY = 'ruta visitor';
const CARRIED = /^(utm_\w+|\w*click(_id)?|partner)$/;

/** What the shop's scripts on one page share, however many of them there are. */
interface Shared {
  /** One question after the other, so that a later one comes with the id that the first was given. */
  asking: Promise<void>;
  word: string | null;
}
type Host = Window & { rutaElsewhere?: Record<string, Shared> };

/**
 * Makes somebody known to a shop from another site: all of the shop's scripts on a page know the same visitor.
 * @param funnel the address of the funnel in which the view counts; null for a page that is nobody's way into one
 */
export function elsewhere(shop: string, funnel: string | null): Elsewhere {
  const host = window as Host;
  host.rutaElsewhere ??= {};
  host.rutaElsewhere[shop] ??= { asking: Promise.resolve(), word: null };
  const shared = host.rutaElsewhere[shop];
  const ask = (count: boolean) => {
    shared.asking = shared.asking
      .then(() => question(shop, funnel, count))
      .then((given) => {
        shared.word = given;
      })
      .catch(() => {
        // A lost count must never disturb a visitor; the campaign goes along all the same.
      });
  };
  ask(funnel !== null);
  return {
    takeWord: () => {
      const taken = shared.word;
      shared.word = null;
      ask(false);
      return taken;
    },
  };
}

async function question(shop: string, funnel: string | null, count: boolean): Promise<string> {
  const visitor = kept(KEY);
  const asked = new URLSearchParams({
    funnel: funnel ?? '',
    ...(visitor ? { visitor } : {}),
    ...(count ? { id: `evt_${randomId()}`, page: location.host + location.pathname, query: location.search } : {}),
  });
  const answer = await fetch(`${shop}/outside?${asked}`, { method: 'POST', keepalive: true, credentials: 'omit' });
  const said = (await answer.json()) as { visitor: string; word: string };
  keep(KEY, said.visitor);
  return said.word;
}

/** An address of the shop with the campaign and click ids of this page, and the word by which whoever opens it is known. */
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
