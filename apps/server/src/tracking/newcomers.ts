import { personAt } from '../base/limits';

/** More who come for the first time from one computer, or one household, than a class or an office has. */
const MOST = 300;
const WINDOW_MS = 10 * 60_000;
const MOST_KEPT = 200_000;

/**
 * Counts who comes for the first time by where from, so that nobody makes up visitors. In memory only, and nothing of it is
 * written down: every visitor is counted here once, and what a restart forgets costs nobody anything.
 */
export class Newcomers {
  private readonly from = new Map<string, { count: number; until: number }>();

  /** Whether one more may come from an address; counts it if so. */
  take(address: string | null, now: number): boolean {
    const person = personAt(address);
    const known = this.from.get(person);
    if (known && known.until > now && known.until <= now + WINDOW_MS) {
      if (known.count >= MOST) return false;
      known.count++;
      return true;
    }
    this.from.delete(person);
    this.from.set(person, { count: 1, until: now + WINDOW_MS });
    // The oldest come first: a map keeps the order in which its keys were set.
    for (const [oldest, { until }] of this.from) {
      if (this.from.size <= MOST_KEPT && until > now) break;
      this.from.delete(oldest);
    }
    return true;
  }
}
