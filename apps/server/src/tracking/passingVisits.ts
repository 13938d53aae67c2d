import { createHash, randomBytes } from 'node:crypto';
import type { Clock } from '../base/clock';
import { newId } from '../base/ids';

/** After so much quiet another visit begins. */
const QUIET_MS = 30 * 60_000;
const DAY_MS = 24 * 60 * 60_000;
const MOST = 200_000;

interface Passing {
  countedId: string;
  lastAt: number;
}

/**
 * Visits of browsers in which nothing is kept: the views of one visit are known by where they come from, under a fingerprint that
 * nobody can make again once the day is over. In memory only. It says as whom a visit counts and nothing else: two people
 * behind one address may be one visit, so that carts, orders and what was typed never go by it.
 */
export class PassingVisits {
  private readonly visits = new Map<string, Passing>();
  private salt = randomBytes(32);
  private saltedAt = 0;

  /** As which visitor somebody counts while their visit lasts. */
  of(clock: Clock, address: string | null, agent: string): string {
    const now = clock.now();
    const key = this.keyOf(address, agent, now);
    const known = this.visits.get(key);
    const isOn = known && now - known.lastAt < QUIET_MS && known.lastAt <= now;
    const visit = { countedId: isOn ? known.countedId : newId(clock, 'visitor'), lastAt: now };
    this.keep(key, visit, now);
    return visit.countedId;
  }

  /** Who was led here from another domain counts as who they were there, as long as this visit lasts. */
  goesOnAs(clock: Clock, address: string | null, agent: string, countedId: string): void {
    const now = clock.now();
    this.keep(this.keyOf(address, agent, now), { countedId, lastAt: now }, now);
  }

  private keep(key: string, visit: Passing, now: number): void {
    this.visits.delete(key);
    this.visits.set(key, visit);
    // The oldest come first: a map keeps the order in which its keys were set.
    for (const [oldest, { lastAt }] of this.visits) {
      if (this.visits.size <= MOST && now - lastAt < QUIET_MS) break;
      this.visits.delete(oldest);
    }
  }

  private keyOf(address: string | null, agent: string, now: number): string {
    if (now - this.saltedAt >= DAY_MS || now < this.saltedAt) {
      // Visits under way end with it: nobody can be followed from one day to the next.
      this.salt = randomBytes(32);
      this.saltedAt = now;
      this.visits.clear();
    }
    return createHash('sha256').update(this.salt).update(`${address}\n${agent}`).digest('base64url');
  }
}
