import { and, eq, isNull } from 'drizzle-orm';
import type { LiveServices } from '../funnel/live';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import { settle } from './settle';
import { accounts } from './tables';

const HEARD_EVERY_MS = 10 * 60_000;
/** Asked for once more each time, since clocks differ. */
const OVERLAP_MS = 60 * 60_000;

/** Asks each processor what has changed of its charges since it was last asked: a webhook that told of it may have been lost. */
export async function hearOfRefunds(services: Tracked & Paying & LiveServices): Promise<void> {
  const { db, clock } = services;
  const now = clock.now();
  for (const row of db.select().from(accounts).where(isNull(accounts.closedAt)).all()) {
    if (row.heardUntil !== null && row.heardUntil <= now && row.heardUntil > now - HEARD_EVERY_MS) continue;
    const account = accountOf(services, row.id);
    if (!account) continue;
    const changed = await providerOf(services, account).changedSince(account, Math.min(row.heardUntil ?? row.createdAt, now) - OVERLAP_MS);
    // One that does not answer is asked again, from the same moment on.
    if (changed === null) continue;
    for (const { idempotencyKey, answer } of changed) {
      const charge = db
        .select()
        .from(charges)
        .where(and(eq(charges.idempotencyKey, idempotencyKey), eq(charges.accountId, row.id)))
        .get();
      if (charge) settle(services, charge.id, answer);
    }
    db.update(accounts).set({ heardUntil: now }).where(eq(accounts.id, row.id)).run();
  }
}
