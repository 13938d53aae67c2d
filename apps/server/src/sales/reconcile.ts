import { eq, inArray } from 'drizzle-orm';
import type { PaymentProvider } from '../payments/provider';
import type { Services } from '../services';
import { settle } from './pay';
import { charges } from './tables';

/** A charge younger than this may still be on its way to the processor. */
const ON_ITS_WAY_MS = 60_000;

/**
 * Asks the processor about every charge whose outcome is not known and finishes it: after a crash between charge and
 * order, a time-out, or a buyer who confirmed and never came back.
 * @param atStart nothing can be on its way when the server has just started, so what the processor does not know never arrived
 */
export async function reconcile(services: Services, provider: PaymentProvider, atStart = false): Promise<void> {
  const { db, clock } = services;
  const open = db
    .select()
    .from(charges)
    .where(inArray(charges.state, ['pending', 'needs-confirmation']))
    .all();
  for (const charge of open) {
    const answer = await provider.find(charge.mode, charge.idempotencyKey);
    if (answer.state === 'unknown-charge' && !atStart && clock.now() - charge.createdAt < ON_ITS_WAY_MS) continue;
    settle(services, charge.id, answer);
  }
}

/** Asks the processor about one order's unsettled charges now, for a buyer who is waiting. */
export async function reconcileOrder(services: Services, provider: PaymentProvider, orderId: string): Promise<void> {
  const open = services.db.select().from(charges).where(eq(charges.orderId, orderId)).all();
  for (const charge of open) {
    if (charge.state !== 'pending' && charge.state !== 'needs-confirmation') continue;
    const answer = await provider.find(charge.mode, charge.idempotencyKey);
    if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
  }
}

/** Settles the charge that a webhook tells of, by asking the processor itself. @returns false if the key is not ours */
export async function settleByKey(services: Services, provider: PaymentProvider, idempotencyKey: string): Promise<boolean> {
  const charge = services.db.select().from(charges).where(eq(charges.idempotencyKey, idempotencyKey)).get();
  if (!charge) return false;
  const answer = await provider.find(charge.mode, idempotencyKey);
  if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
  return true;
}
