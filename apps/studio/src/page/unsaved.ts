import type { PictureInfo } from '@ruta/core/catalog';
import type { PageDocument } from '@ruta/core/page';

/**
 * Pages that were changed in this browser and that the server does not have yet. They are kept in the browser's own
 * storage, so that leaving, a reload, a server that is away and an ended sign-in lose nothing.
 */
export interface Unsaved {
  stepId: string;
  place: PagePlace;
  /** The server's revision that the changes were made on. */
  revision: number;
  page: PageDocument;
  pictures: Record<string, PictureInfo>;
  /** What was on its way when this was set aside: it may have arrived or not. */
  sending: PageDocument | null;
  /** Why it cannot be sent by itself; null while it can. */
  problem: string | null;
  windowId: string;
  at: number;
}

/** Where a page belongs: its funnel, and its stop's name. */
export interface PagePlace {
  funnelId: string;
  name: string;
}

const PREFIX = 'ruta.unsaved.';
/** What another window set aside is taken up once that window has had time to send it itself. */
const OTHERS_AFTER_MS = 60_000;
const WINDOW_KEY = 'ruta.window';

/** The same for a window through all its reloads. */
const windowId = (() => {
  const known = sessionStorage.getItem(WINDOW_KEY);
  const id = known ?? crypto.randomUUID();
  sessionStorage.setItem(WINDOW_KEY, id);
  return id;
})();

const listeners = new Set<() => void>();
const tell = () => {
  seen = read();
  for (const listener of listeners) listener();
};

/** What does not fit into the browser's storage is kept as long as the window is open. */
const inMemory = new Map<string, Unsaved>();

function read(): readonly Unsaved[] {
  const stored = Object.keys(localStorage)
    .filter((key) => key.startsWith(PREFIX))
    .flatMap((key) => {
      try {
        return [JSON.parse(localStorage.getItem(key) ?? '') as Unsaved];
      } catch {
        return [];
      }
    });
  return [...stored, ...inMemory.values()];
}

let seen: readonly Unsaved[] = read();
addEventListener('storage', (event) => {
  if (event.key?.startsWith(PREFIX)) tell();
});

const keyOf = ({ stepId, windowId: owner }: Pick<Unsaved, 'stepId' | 'windowId'>) => `${PREFIX}${stepId}.${owner}`;

/** Keeps a changed page until the server has it; what was kept of it before is replaced. */
export function keepUnsaved(draft: Omit<Unsaved, 'windowId' | 'at' | 'problem'> & { problem?: string | null }): void {
  const entry: Unsaved = { problem: null, ...draft, windowId, at: Date.now() };
  const key = keyOf(entry);
  try {
    localStorage.setItem(key, JSON.stringify(entry));
    inMemory.delete(key);
  } catch {
    inMemory.set(key, entry);
  }
  tell();
}

/** Whether this is still what is kept of its page, and nothing newer was set aside since it was read. */
export const isNewest = (entry: Unsaved): boolean => read().some((other) => keyOf(other) === keyOf(entry) && other.at === entry.at);

/** Forgets what was kept of a page, because the server has it or somebody decided against it. */
export function forgetUnsaved(entry: Pick<Unsaved, 'stepId' | 'windowId'>): void {
  localStorage.removeItem(keyOf(entry));
  inMemory.delete(keyOf(entry));
  tell();
}

/** Forgets what this window has kept of a page. */
export const forgetOwn = (stepId: string): void => forgetUnsaved({ stepId, windowId });

/** Pages that this window has to send: its own, and those of windows that are gone. The latest first. */
export function allUnsaved(now = Date.now()): readonly Unsaved[] {
  return seen.filter((entry) => entry.windowId === windowId || now - entry.at > OTHERS_AFTER_MS).toSorted((a, b) => b.at - a.at);
}

/** The latest of a page that the server does not have; undefined if it has everything. */
export const findUnsaved = (stepId: string): Unsaved | undefined => allUnsaved().find((entry) => entry.stepId === stepId);

/** Calls back whenever something is kept or forgotten. @returns ends it */
export function onUnsaved(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Everything kept as of the last change: the same list until something changes. */
export const unsavedNow = (): readonly Unsaved[] => seen;
