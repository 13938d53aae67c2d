import { type DataLayerEntry, momentEntry, type TrackedEvent } from '@ruta/core/tracking';

/** For so long a browser may yet hear of what happened. */
const KEPT_MS = 30 * 60 * 1000;
const MOST_VISITORS = 5000;
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
  private readonly byVisitor = new Map<string, Untold>();

  constructor(private readonly currency: () => string | undefined) {}

  /** Notes an event that was recorded. */
  note(event: TrackedEvent): void {
    const { visitorId, at, kind } = event;
    // Views are by far the most, and are told with their own answer.
    if (kind === 'page.viewed' || !visitorId) return;
    const currency = this.currency();
    const entry = currency && momentEntry(event, currency);
    if (!entry) return;
    const untold = this.byVisitor.get(visitorId) ?? { at, entries: [] };
    this.byVisitor.delete(visitorId);
    this.byVisitor.set(visitorId, { at, entries: [...untold.entries, entry].slice(-MOST_EACH) });
    // The oldest come first: a map keeps the order in which its keys were set.
    for (const [id, kept] of this.byVisitor) {
      if (this.byVisitor.size <= MOST_VISITORS && at - kept.at < KEPT_MS) break;
      this.byVisitor.delete(id);
    }
  }

  /** What a visitor has not heard of; told once. */
  take(visitorId: string, now: number): DataLayerEntry[] {
    const untold = this.byVisitor.get(visitorId);
    if (!untold) return [];
    this.byVisitor.delete(visitorId);
    return now - untold.at < KEPT_MS ? untold.entries : [];
  }
}
