import { eq } from 'drizzle-orm';
import { voidCharge } from '../base/outbox/kinds/voidCharge';
import { enqueue } from '../base/outbox/outbox';
import type { LiveServices } from '../funnel/live';
import { type ChargeRow, findCharge, loadOrder, loadPayment, wasPaid } from '../orders/store';
import { charges } from '../orders/tables';
import { takeUp } from '../orders/write';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import { markAdded, markPaid, recordForOrder } from './fulfil';
import { writeKept } from './methods';
import type { ChargeAnswer } from './provider';

/**
 * Writes down what the processor said of a charge, once: whoever brings the news first (the answer itself, a webhook,
 * the reconciler) settles it, later news of the same changes nothing. A captured charge whose payment was already paid
 * by another, or whose amount is not what the payment asked for, is voided, so that no money is kept that pays for nothing.
 */
export function settle(services: Tracked & LiveServices, chargeId: string, answer: ChargeAnswer): void {
  const { db, clock } = services;
  db.transaction((tx) => {
    const charge = findCharge(tx, chargeId);
    if (!charge) throw new Error(`There is no charge ${chargeId}.`);
    if (charge.state === 'captured' || charge.state === 'voided' || charge.state === 'declined') return;
    const order = loadOrder(tx, charge.orderId);
    const change = (values: Partial<ChargeRow>) =>
      tx
        .update(charges)
        .set({ ...values, updatedAt: clock.now() })
        .where(eq(charges.id, charge.id))
        .run();
    switch (answer.state) {
      case 'captured': {
        change({ state: 'captured', providerChargeId: answer.providerChargeId, cardLast4: answer.last4, failure: null });
        if (answer.method) writeKept(tx, services, charge, answer.method, answer.last4);
        const payment = loadPayment(tx, charge.paymentId);
        // It pays for what its payment was quoted at, at that amount, once.
        const fits = payment.state !== 'paid' && payment.amount === charge.amount && (answer.amount ?? charge.amount) === charge.amount;
        if (fits && payment.kind === 'first' && !wasPaid(order.state)) markPaid(tx, services, takeUp(tx, order, payment), payment);
        // What was given up when its price changed is not sold at the old one by a late word.
        else if (fits && payment.kind === 'addition' && payment.state === 'open') markAdded(tx, services, order, payment);
        else enqueue(tx, services, voidCharge, { payload: { chargeId: charge.id }, idempotencyKey: `void ${charge.id}`, orderId: order.id });
        return;
      }
      case 'declined':
        change({ state: 'declined', providerChargeId: answer.providerChargeId, cardLast4: answer.last4, failure: answer.reason });
        recordForOrder(services, order, 'payment.failed', { reason: answer.reason });
        return;
      case 'voided':
        change({ state: 'voided', providerChargeId: answer.providerChargeId });
        return;
      case 'needs-confirmation':
        change({ state: 'needs-confirmation', providerChargeId: answer.providerChargeId, cardLast4: answer.last4 });
        return;
      case 'unavailable':
        change({ state: 'failed', failure: 'unavailable' });
        recordForOrder(services, order, 'payment.failed', { reason: 'unavailable' });
        return;
      case 'unknown-charge':
        change({ state: 'failed', failure: 'never-arrived' });
        recordForOrder(services, order, 'payment.failed', { reason: 'never-arrived' });
        return;
      case 'no-answer':
        // Stays pending: it may have gone through, and the reconciler asks until it knows.
        return;
      default:
        answer satisfies never;
    }
  });
}

/** Gives back a captured charge that pays for nothing. @throws Error if the processor did not, so that it is tried again */
export async function giveBack(services: Paying, chargeId: string): Promise<void> {
  const { db, clock } = services;
  const charge = findCharge(db, chargeId);
  const account = charge && accountOf(services, charge.accountId);
  if (!charge?.providerChargeId || !account) return;
  if (!(await providerOf(services, account).void(account, charge.providerChargeId))) throw new Error('The processor did not void this charge.');
  db.update(charges).set({ state: 'voided', updatedAt: clock.now() }).where(eq(charges.id, charge.id)).run();
}
