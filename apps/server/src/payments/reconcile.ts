import { isUnderWay } from '@ruta/core/payments';
import { and, eq, gt, inArray, lte } from 'drizzle-orm';
import type { LiveServices } from '../funnel/live';
import { type ChargeRow, chargesOfOrder } from '../orders/store';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import type { ChargeAnswer } from './provider';
import { settle } from './settle';

type Needs = Tracked & Paying & LiveServices;

/** A charge younger than this may still be on its way to the processor, also when the server was started anew meanwhile. */
const ON_ITS_WAY_MS = 60_000;
/** So long a charge that never arrived is asked after all the same, and so often. */
const LATE_WORD_MS = 24 * 60 * 60 * 1000;
const LATE_WORD_EVERY_MS = 10 * 60_000;

/** Asks the processor of a charge's account after it. */
async function ask(services: Needs, charge: ChargeRow): Promise<ChargeAnswer> {
  const account = accountOf(services, charge.accountId);
  return account ? providerOf(services, account).find(account, charge.idempotencyKey) : { state: 'no-answer' };
}

/**
 * Asks the processor about every charge whose outcome is not known and finishes it: after a crash between charge and
 * order, a time-out, or a buyer who confirmed and never came back. What was given up as never arrived is still asked
 * after for a day, since a processor may have been late in taking it.
 */
export async function reconcile(services: Needs): Promise<void> {
  const { db, clock } = services;
  const open = db
    .select()
    .from(charges)
    .where(inArray(charges.state, ['pending', 'needs-confirmation']))
    .all();
  for (const charge of open) {
    const answer = await ask(services, charge);
    if (answer.state === 'unknown-charge' && clock.now() - charge.createdAt < ON_ITS_WAY_MS) continue;
    settle(services, charge.id, answer);
  }
  const now = clock.now();
  const late = db
    .select()
    .from(charges)
    .where(
      and(
        eq(charges.state, 'failed'),
        eq(charges.failure, 'never-arrived'),
        gt(charges.createdAt, now - LATE_WORD_MS),
        lte(charges.updatedAt, now - LATE_WORD_EVERY_MS),
      ),
    )
    .all();
  for (const charge of late) {
    const answer = await ask(services, charge);
    if (answer.state === 'unknown-charge' || answer.state === 'no-answer') db.update(charges).set({ updatedAt: now }).where(eq(charges.id, charge.id)).run();
    else settle(services, charge.id, answer);
  }
}

/**
 * Asks the processor about one order's unsettled charges now, for a buyer who is waiting.
 * @returns where the buyer has to confirm a charge, if one waits for that; null otherwise
 */
export async function reconcileOrder(services: Needs, orderId: string): Promise<string | null> {
  let confirmUrl: string | null = null;
  for (const charge of chargesOfOrder(services.db, orderId)) {
    if (!isUnderWay(charge.state)) continue;
    const answer = await ask(services, charge);
    if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
    if (answer.state === 'needs-confirmation') confirmUrl = answer.confirmUrl;
  }
  return confirmUrl;
}

/** Settles the charge that a webhook tells of, by asking the processor itself. @returns false if the key is not ours */
export async function settleByKey(services: Needs, idempotencyKey: string): Promise<boolean> {
  const charge = services.db.select().from(charges).where(eq(charges.idempotencyKey, idempotencyKey)).get();
  if (!charge) return false;
  const answer = await ask(services, charge);
  if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
  return true;
}
