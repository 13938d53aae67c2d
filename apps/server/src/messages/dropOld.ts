import { sql } from 'drizzle-orm';
import type { Services } from '../base/services';

const DAY_MS = 24 * 60 * 60 * 1000;
/** The log of what was told outside goes back so far. */
const KEPT_MS = 90 * DAY_MS;
const EVERY_MS = 60 * 60 * 1000;
/** So many are dropped before others may write. */
const AT_ONCE = 1000;

/** Drops what is too old from the logs of webhooks and conversions, once an hour; what still waits to be sent stays. */
export function dropOldMessages({ db, clock }: Pick<Services, 'db' | 'clock'>): () => Promise<void> {
  let next = 0;
  return async () => {
    const now = clock.now();
    // A clock that was set back is no reason to wait for it.
    if (now < next && next - now <= EVERY_MS) return;
    next = now + EVERY_MS;
    const until = now - KEPT_MS;
    for (const { id } of db.all<{ id: string }>(sql`SELECT DISTINCT receiver_id AS id FROM messages`)) {
      for (let dropped = AT_ONCE; dropped === AT_ONCE; ) {
        dropped = db.transaction(
          (tx) => {
            const old = tx.all<{ id: string }>(
              sql`SELECT m.id FROM messages m LEFT JOIN outbox o ON o.idempotency_key = 'message ' || m.id
                  WHERE m.receiver_id = ${id} AND m.at < ${until} AND (o.id IS NULL OR o.sent_at IS NOT NULL OR o.failed_at IS NOT NULL) LIMIT ${AT_ONCE}`,
            );
            const ids = JSON.stringify(old.map((row) => row.id));
            tx.run(sql`DELETE FROM outbox WHERE idempotency_key IN (SELECT 'message ' || value FROM json_each(${ids}))`);
            tx.run(sql`DELETE FROM messages WHERE id IN (SELECT value FROM json_each(${ids}))`);
            return old.length;
          },
          { behavior: 'immediate' },
        );
        await new Promise((resolve) => setImmediate(resolve));
      }
    }
  };
}
