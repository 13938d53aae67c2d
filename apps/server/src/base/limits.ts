import { inArray } from 'drizzle-orm';
import { ipKeyGenerator, type Options, rateLimit, type Store } from 'express-rate-limit';
import type { Clock } from './clock';
import type { Db } from './db';
import type { Secrets } from './secrets';
import { limits } from './tables';

/** What somebody may do so often within a time. */
export interface Limit {
  /** Which it is, in the database. */
  name: string;
  most: number;
  windowMs: number;
}

interface Counted {
  count: number;
  until: number;
}

/** More people at once than this are a flood of made-up ones: the eldest are forgotten. */
const MOST_KEPT = 200_000;
const BATCH = 500;

/**
 * Counts what people may do so often only. Counts are kept in memory, since every request asks for them, and written down
 * every second, so that a restart forgets nobody.
 */
export class Limits {
  private readonly kept = new Map<string, Counted>();
  private readonly changed = new Set<string>();

  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
    private readonly secrets: Pick<Secrets, 'sign'>,
  ) {
    for (const { id, count, until } of db.select().from(limits).all()) this.kept.set(id, { count, until });
  }

  /** Counts once more. @returns how often it was within its time, this one included */
  count(limit: Limit, who: string): number {
    return this.add(limit, who).count;
  }

  /** Whether somebody has done it as often as they may. */
  isReached(limit: Limit, who: string): boolean {
    return (this.find(this.idOf(limit.name, who), limit)?.count ?? 0) >= limit.most;
  }

  /** Counts once more, if it still may be. @returns whether it may */
  take(limit: Limit, who: string): boolean {
    if (this.isReached(limit, who)) return false;
    this.add(limit, who);
    return true;
  }

  /** Starts anew for somebody: they have shown who they are. */
  forget(limit: Limit, who: string): void {
    const id = this.idOf(limit.name, who);
    if (!this.kept.delete(id)) return;
    this.changed.add(id);
  }

  /** Middleware for requests, by the address of the computer that asks unless `options` say otherwise. */
  middleware({ name, most, windowMs }: Limit, options: Partial<Options>): ReturnType<typeof rateLimit> {
    const keyGenerator = (request: { ip?: string | undefined }) => personAt(request.ip);
    // The check looks for the helper's name in the text of the function, which does call it.
    const validate = { keyGeneratorIpFallback: false };
    return rateLimit({
      windowMs,
      limit: most,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      store: this.storeOf({ name, most, windowMs }),
      validate,
      keyGenerator,
      ...options,
    });
  }

  private storeOf(limit: Limit): Store {
    return {
      localKeys: true,
      increment: (who) => {
        const { count, until } = this.add(limit, who);
        return { totalHits: count, resetTime: new Date(until) };
      },
      decrement: (who) => {
        const id = this.idOf(limit.name, who);
        const found = this.find(id, limit);
        if (found) this.keep(id, { ...found, count: Math.max(0, found.count - 1) });
      },
      resetKey: (who) => this.forget(limit, who),
    };
  }

  /** Writes down what has changed, and forgets what is over. Where there is nothing, the database is not asked: it may be busy with something long. */
  async flush(): Promise<void> {
    const now = this.clock.now();
    for (const [id, { until }] of this.kept) {
      if (until > now) continue;
      this.kept.delete(id);
      this.changed.add(id);
    }
    const ids = [...this.changed];
    this.changed.clear();
    try {
      for (let from = 0; from < ids.length; from += BATCH) this.write(ids.slice(from, from + BATCH));
    } catch (error) {
      for (const id of ids) this.changed.add(id);
      throw error;
    }
  }

  private write(ids: string[]): void {
    this.db.transaction((tx) => {
      tx.delete(limits).where(inArray(limits.id, ids)).run();
      const rows = ids.flatMap((id) => {
        const counted = this.kept.get(id);
        return counted ? [{ id, ...counted }] : [];
      });
      if (rows.length > 0) tx.insert(limits).values(rows).run();
    });
  }

  private add(limit: Limit, who: string): Counted {
    const id = this.idOf(limit.name, who);
    const before = this.find(id, limit);
    const counted = { count: (before?.count ?? 0) + 1, until: before?.until ?? this.clock.now() + limit.windowMs };
    this.keep(id, counted);
    return counted;
  }

  private keep(id: string, counted: Counted): void {
    if (this.kept.size >= MOST_KEPT && !this.kept.has(id)) {
      const [eldest] = this.kept.keys();
      if (eldest) {
        this.kept.delete(eldest);
        this.changed.add(eldest);
      }
    }
    this.kept.set(id, counted);
    this.changed.add(id);
  }

  /** What is counted and not over yet. A clock that was set back does not make anybody wait longer than the time it is for. */
  private find(id: string, { windowMs }: Limit): Counted | undefined {
    const found = this.kept.get(id);
    const now = this.clock.now();
    return found && found.until > now && found.until <= now + windowMs ? found : undefined;
  }

  // Addresses of people and their computers are nobody's business once they are only counted.
  private idOf(name: string, who: string): string {
    return `${name} ${this.secrets.sign(`limit ${who}`).slice(0, 16)}`;
  }
}

/** The person behind an address: of the long ones a household has a whole range. */
export const personAt = (address: string | null | undefined): string => (address ? ipKeyGenerator(address) : 'nobody');
