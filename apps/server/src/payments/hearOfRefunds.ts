import { eq, isNull } from 'drizzle-orm';
import { whyUnwritten } from '../base/writes';
import type { LiveServices } from '../funnel/live';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import { settle } from './settle';
import { accounts } from './tables';
import { noteUnknown } from './unknownCharges';

const HEARD_EVERY_MS = 10 * 60_000;
/** Asked for once more each time, since clocks differ. */
const OVERLAP_MS = 60 * 60_000;

/** Accounts that were asked since this server was started: what is read of a backup that was just put back may say that it was just now. */
const askedSinceStart = new WeakMap<object, Set<string>>();

/** Asks each processor what has changed of its charges since it was last asked: a webhook that told of it may have been lost. */
export async function hearOfRefunds(services: Tracked & Paying & LiveServices): Promise<void> {
  const { db, clock } = services;
  const now = clock.now();
  const asked = askedSinceStart.get(db) ?? new Set<string>();
  askedSinceStart.set(db, asked);
  for (const row of db.select().from(accounts).where(isNull(accounts.closedAt)).all()) {
    if (asked.has(row.id) && row.heardUntil !== null && row.heardUntil <= now && row.heardUntil > now - HEARD_EVERY_MS) continue;
    const account = accountOf(services, row.id);
    if (!account) continue;
    let isWhole = true;
    const changed = await providerOf(services, account).changedSince(account, Math.min(row.heardUntil ?? row.createdAt, now) - OVERLAP_MS);
    // One that does not answer is asked again, from the same moment on.
    if (changed === null) continue;
    asked.add(row.id);
    for (const { idempotencyKey, answer } of changed) {
      const charge = db.select().from(charges).where(eq(charges.idempotencyKey, idempotencyKey)).get();
      try {
        // One that was written down without its account, or with another one, is known all the same.
        if (charge?.accountId === row.id) settle(services, charge.id, answer);
        else if (!charge) noteUnknown(services, row, idempotencyKey, answer);
      } catch (error) {
        if (whyUnwritten(error)) throw error;
        // One that cannot be written down holds up no other, and is asked for again.
        services.log.error({ err: error, charge: charge?.id }, 'what changed of a charge could not be written down');
        isWhole = false;
      }
    }
    if (!isWhole) continue;
    db.update(accounts).set({ heardUntil: now }).where(eq(accounts.id, row.id)).run();
  }
}
