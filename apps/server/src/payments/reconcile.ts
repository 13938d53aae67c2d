import { isUnderWay } from '@ruta/core/payments';
import { eq, inArray } from 'drizzle-orm';
import { type ChargeRow, chargesOfOrder } from '../orders/store';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import type { ChargeAnswer } from './provider';
import { settle } from './settle';

type Needs = Tracked & Paying;

/** A charge younger than this may still be on its way to the processor. */
const ON_ITS_WAY_MS = 60_000;

/** Asks the processor of a charge's account after it. */
async function ask(services: Needs, charge: ChargeRow): Promise<ChargeAnswer> {
  const account = accountOf(services, charge.accountId);
  return account ? providerOf(services, account).find(account, charge.idempotencyKey) : { state: 'no-answer' };
}

/**
 * Asks the processor about every charge whose outcome is not known and finishes it: after a crash between charge and
 * order, a time-out, or a buyer who confirmed and never came back.
 * @param atStart nothing can be on its way when the server has just started, so what the processor does not know never arrived
 */
export async function reconcile(services: Needs, atStart = false): Promise<void> {
  const { db, clock } = services;
  const open = db
    .select()
    .from(charges)
    .where(inArray(charges.state, ['pending', 'needs-confirmation']))
    .all();
  for (const charge of open) {
    const answer = await ask(services, charge);
    if (answer.state === 'unknown-charge' && !atStart && clock.now() - charge.createdAt < ON_ITS_WAY_MS) continue;
    settle(services, charge.id, answer);
  }
}

/** Asks the processor about one order's unsettled charges now, for a buyer who is waiting. */
export async function reconcileOrder(services: Needs, orderId: string): Promise<void> {
  for (const charge of chargesOfOrder(services.db, orderId)) {
    if (!isUnderWay(charge.state)) continue;
    const answer = await ask(services, charge);
    if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
  }
}

/** Settles the charge that a webhook tells of, by asking the processor itself. @returns false if the key is not ours */
export async function settleByKey(services: Needs, idempotencyKey: string): Promise<boolean> {
  const charge = services.db.select().from(charges).where(eq(charges.idempotencyKey, idempotencyKey)).get();
  if (!charge) return false;
  const answer = await ask(services, charge);
  if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
  return true;
}
