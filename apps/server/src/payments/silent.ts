import { sql } from 'drizzle-orm';
import type { Services } from '../base/services';

const HOUR_MS = 60 * 60 * 1000;
/** So many of the latest charges are looked at. */
const LATEST = 200;
const UNANSWERED = new Set(['unavailable', 'never-arrived']);

/** Whether the latest charge of the last hour at some processor failed because it did not answer, so that nobody can pay by it. */
export function isProcessorSilent({ db, clock }: Pick<Services, 'db' | 'clock'>): boolean {
  const rows = db.all<{ provider: string; state: string; failure: string | null }>(
    sql`SELECT provider, state, failure FROM charges WHERE rowid > (SELECT max(rowid) FROM charges) - ${LATEST} AND mode = 'live' AND created_at >= ${clock.now() - HOUR_MS}
        ORDER BY rowid DESC`,
  );
  const latest = new Map<string, string | null>();
  // One that is still open says nothing of its processor yet.
  for (const { provider, state, failure } of rows) if (state !== 'pending' && !latest.has(provider)) latest.set(provider, failure);
  return [...latest.values()].some((failure) => failure !== null && UNANSWERED.has(failure));
}
