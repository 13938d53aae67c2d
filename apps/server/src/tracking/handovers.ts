import { randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { elsewhereVisitors } from './tables';

/** A redirect or a pressed link arrives within this; whatever comes later was passed on. */
const KEPT_MS = 30 * 1000;
const MOST = 20_000;

/** Who is on the way, and to which page alone. */
interface Waiting {
  from: string;
  isFromElsewhere: boolean;
  /** Origin and path of the page that they were led to. */
  to: string;
  until: number;
}

/**
 * Visitors on their way from pages elsewhere, or from one domain of the shop to another: each with a word that is good
 * once, within seconds, on the one page it was made for. It says as whom somebody counts in the figures and nothing else:
 * what was typed, carts, orders and cards on file belong to the browser that made them, and no link brings them along.
 * Words are kept in memory; who is lost by a restart is a new visitor.
 */
export class Handovers {
  private readonly waiting = new Map<string, Waiting>();

  constructor(private readonly db: Db) {}

  /** @returns the word by which somebody from elsewhere is counted as the same visitor at this address */
  give(elsewhereId: string, address: string, now: number): string {
    return this.keep({ from: elsewhereId, isFromElsewhere: true, to: pageOf(address), until: now + KEPT_MS }, now);
  }

  /** The same for a visitor of the shop who is led to another of its domains. */
  giveVisitor(countedId: string, address: string, now: number): string {
    return this.keep({ from: countedId, isFromElsewhere: false, to: pageOf(address), until: now + KEPT_MS }, now);
  }

  private keep(waiting: Waiting, now: number): string {
    const word = randomBytes(12).toString('base64url');
    this.waiting.set(word, waiting);
    for (const [oldest, { until }] of this.waiting) {
      if (this.waiting.size <= MOST && until > now) break;
      this.waiting.delete(oldest);
    }
    return word;
  }

  /**
   * As which visitor somebody counts who has arrived at an address; undefined for a word that was used, is too old, was
   * never given or is for another page, and for who has arrived from elsewhere before.
   */
  take(word: string, address: string, now: number): string | undefined {
    const found = this.waiting.get(word);
    this.waiting.delete(word);
    if (!found || found.until <= now || found.to !== pageOf(address)) return undefined;
    if (!found.isFromElsewhere) return found.from;
    const known = this.db.select().from(elsewhereVisitors).where(eq(elsewhereVisitors.id, found.from)).get();
    if (!known || known.arrivedAt !== null) return undefined;
    this.db.update(elsewhereVisitors).set({ arrivedAt: now }).where(eq(elsewhereVisitors.id, known.id)).run();
    return known.visitorId;
  }
}

/** Origin and path of an address, whatever is asked there. */
function pageOf(address: string): string {
  const { origin, pathname } = new URL(address);
  return origin + pathname;
}
