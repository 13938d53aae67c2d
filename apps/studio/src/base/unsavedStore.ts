/** What belongs to every entry that the server does not have yet. */
export interface Kept {
  /** Why it cannot be sent by itself; null while it can. */
  problem: string | null;
  windowId: string;
  at: number;
}

/** What was changed in this browser and that the server does not have yet, of one kind. */
export interface UnsavedStore<Draft> {
  /** Keeps a draft until the server has it; what was kept of the same before is replaced. */
  keep: (draft: Draft & { problem?: string | null }) => void;
  /** Whether this is still what is kept of its subject, and nothing newer was set aside since it was read. */
  isNewest: (entry: Draft & Kept) => boolean;
  /** Forgets what a window kept of a subject, because the server has it or somebody decided against it. */
  forget: (subject: string, windowId?: string) => void;
  /** What this window has to send: its own, and what windows that are gone have left. The latest first. */
  all: (now?: number) => ReadonlyArray<Draft & Kept>;
  /** The latest of a subject that the server does not have; undefined if it has everything. */
  find: (subject: string) => (Draft & Kept) | undefined;
  /** What this window itself has kept of a subject. */
  own: (subject: string) => (Draft & Kept) | undefined;
  /** Calls back whenever something is kept or forgotten. @returns ends it */
  subscribe: (listener: () => void) => () => void;
  /** Everything kept as of the last change: the same list until something changes. */
  seen: () => ReadonlyArray<Draft & Kept>;
}

/** What another window set aside is taken up once that window has had time to send it itself. */
const OTHERS_AFTER_MS = 60_000;
const WINDOW_KEY = 'ruta.window';

/** The same for a window through all its reloads. */
const ownWindowId = (() => {
  const known = sessionStorage.getItem(WINDOW_KEY);
  const id = known ?? crypto.randomUUID();
  sessionStorage.setItem(WINDOW_KEY, id);
  return id;
})();

/**
 * Keeps drafts in the browser's own storage, so that leaving, a reload, a server that is away and an ended sign-in lose
 * nothing.
 * @param prefix of its keys in the storage
 * @param subjectOf what a draft is of; one is kept for each subject and window
 */
export function unsavedStore<Draft extends object>(prefix: string, subjectOf: (draft: Draft) => string): UnsavedStore<Draft> {
  type Entry = Draft & Kept;
  const listeners = new Set<() => void>();
  /** What does not fit into the browser's storage is kept as long as the window is open. */
  const inMemory = new Map<string, Entry>();
  const keyFor = (subject: string, windowId: string) => `${prefix}${subject}.${windowId}`;
  const keyOf = (entry: Entry) => keyFor(subjectOf(entry), entry.windowId);
  const read = (): readonly Entry[] => {
    const stored = Object.keys(localStorage)
      .filter((key) => key.startsWith(prefix))
      .flatMap((key) => {
        try {
          return [JSON.parse(localStorage.getItem(key) ?? '') as Entry];
        } catch {
          return [];
        }
      });
    return [...stored, ...inMemory.values()];
  };
  let seen = read();
  const tell = () => {
    seen = read();
    for (const listener of listeners) listener();
  };
  addEventListener('storage', (event) => {
    if (event.key?.startsWith(prefix)) tell();
  });
  const all = (now = Date.now()) => seen.filter((entry) => entry.windowId === ownWindowId || now - entry.at > OTHERS_AFTER_MS).toSorted((a, b) => b.at - a.at);
  return {
    keep(draft) {
      const entry: Entry = { ...draft, problem: draft.problem ?? null, windowId: ownWindowId, at: Date.now() };
      const key = keyOf(entry);
      try {
        localStorage.setItem(key, JSON.stringify(entry));
        inMemory.delete(key);
      } catch {
        inMemory.set(key, entry);
      }
      tell();
    },
    isNewest: (entry) => read().some((other) => keyOf(other) === keyOf(entry) && other.at === entry.at),
    forget(subject, windowId = ownWindowId) {
      const key = keyFor(subject, windowId);
      if (localStorage.getItem(key) === null && !inMemory.has(key)) return;
      localStorage.removeItem(key);
      inMemory.delete(key);
      tell();
    },
    all,
    find: (subject) => all().find((entry) => subjectOf(entry) === subject),
    own: (subject) => seen.find((entry) => entry.windowId === ownWindowId && subjectOf(entry) === subject),
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    seen: () => seen,
  };
}
