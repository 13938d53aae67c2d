import { randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { elsewhereVisitors } from './tables';

/** For so long somebody may be on their way from a page elsewhere. */
const KEPT_MS = 30 * 60 * 1000;
const MOST = 20_000;

/**
 * Visitors on their way here from pages elsewhere, or from one domain of the shop to another: each with a word that is good once, so that a link that is passed on
 * afterwards makes nobody else of whoever opens it. Who has arrived once does so never again: what they typed here since is
 * shown in their own browser only. Words are kept in memory; who is lost by a restart is a new visitor.
 */
export class Handovers {
  private readonly waiting = new Map<string, { from: string; until: number; isKnown: boolean }>();

  constructor(private readonly db: Db) {}

  /** @returns the word by which somebody from elsewhere is known on arrival */
  give(elsewhereId: string, now: number): string {
    return this.keep({ from: elsewhereId, until: now + KEPT_MS, isKnown: false }, now);
  }

  /** The same for a visitor of the shop who goes on to another of its domains. */
  giveVisitor(visitorId: string, now: number): string {
    return this.keep({ from: visitorId, until: now + KEPT_MS, isKnown: true }, now);
  }

  private keep(waiting: { from: string; until: number; isKnown: boolean }, now: number): string {
    const word = randomBytes(12).toString('base64url');
    this.waiting.set(word, waiting);
    for (const [oldest, { until }] of this.waiting) {
      if (this.waiting.size <= MOST && until > now) break;
      this.waiting.delete(oldest);
    }
    return word;
  }

  /** Which visitor has arrived; undefined for a word that was used, is too old or was never given, and for who was here before. */
  take(word: string, now: number): string | undefined {
    const found = this.waiting.get(word);
    this.waiting.delete(word);
    if (!found || found.until <= now) return undefined;
    if (found.isKnown) return found.from;
    const known = this.db.select().from(elsewhereVisitors).where(eq(elsewhereVisitors.id, found.from)).get();
    if (!known || known.arrivedAt !== null) return undefined;
    this.db.update(elsewhereVisitors).set({ arrivedAt: now }).where(eq(elsewhereVisitors.id, known.id)).run();
    return known.visitorId;
  }
}
