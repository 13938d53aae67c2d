import { type DataLayerEntry, momentEntry } from '@ruta/core/tracking';
import type { Happening } from './happening';

/** For so long a browser may yet hear of what happened. */
const KEPT_MS = 30 * 60 * 1000;
const MOST_BROWSERS = 5000;
const MOST_EACH = 30;

interface Untold {
  at: number;
  entries: DataLayerEntry[];
}

/**
 * What happened on the server and is still to be told to the browser of whoever did it, for the data layer there. Kept in
 * memory only: what a restart forgets was recorded and sent by the server all the same.
 */
export class UntoldMoments {
  private readonly byBrowser = new Map<string, Untold>();

  constructor(private readonly currency: () => string | undefined) {}

  /** Notes an event that was recorded. */
  note(event: Happening): void {
    // Told to the browser it happened in, never to another that counts as the same visitor.
    const { browserId, at, kind } = event;
    // Views are by far the most, and are told with their own answer.
    if (kind === 'page.viewed' || !browserId) return;
    const currency = this.currency();
    const entry = currency && momentEntry(event, currency);
    if (!entry) return;
    const untold = this.byBrowser.get(browserId) ?? { at, entries: [] };
    this.byBrowser.delete(browserId);
    this.byBrowser.set(browserId, { at, entries: [...untold.entries, entry].slice(-MOST_EACH) });
    // The oldest come first: a map keeps the order in which its keys were set.
    for (const [id, kept] of this.byBrowser) {
      if (this.byBrowser.size <= MOST_BROWSERS && at - kept.at < KEPT_MS) break;
      this.byBrowser.delete(id);
    }
  }

  /** What a browser has not heard of; told once. */
  take(browserId: string, now: number): DataLayerEntry[] {
    const untold = this.byBrowser.get(browserId);
    if (!untold) return [];
    this.byBrowser.delete(browserId);
    return now - untold.at < KEPT_MS ? untold.entries : [];
  }
}
