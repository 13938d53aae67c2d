import type { Database } from 'better-sqlite3';
import type { Db } from './db';
import type { Services } from './services';

const EVERY_MS = 60 * 60 * 1000;

/** Keeps up what SQLite knows of how much there is of everything, once an hour and within its bounds (`analysis_limit`). */
export function keepStatistics({ db, clock }: Pick<Services, 'db' | 'clock'>): () => Promise<void> {
  let keptAt = clock.now();
  return async () => {
    const now = clock.now();
    // A clock that was set back counts as no time gone by, and is no reason to wait for it either.
    if (now >= keptAt && now - keptAt < EVERY_MS) return;
    keptAt = now;
    (db as Db & { $client: Database }).$client.pragma('optimize');
  };
}
