import { type Currency, formatMoney } from '@ruta/core/money';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { voidCharge } from '../base/outbox/kinds/voidCharge';
import { enqueue } from '../base/outbox/outbox';
import { releaseHolds } from '../catalog/availability';
import { placesLeft } from '../catalog/wanted';
import type { LiveServices } from '../funnel/live';
import { letterhead } from '../mail/letterhead';
import { refundMail } from '../mail/refundMail';
import { type ChargeRow, findCharge, loadOrder, loadPayment, type OrderRow, wasPaid } from '../orders/store';
import { charges } from '../orders/tables';
import { takeUp } from '../orders/write';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import { markAdded, markPaid } from './fulfil';
import { hearOfMoney } from './givenBack';
import { writeKept } from './methods';
import type { ChargeAnswer } from './provider';
import { recordForOrder } from './recordForOrder';

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
    if (charge.state === 'captured' && answer.state === 'captured') hearOfMoney(tx, services, charge, answer);
    // Undone at the processor by hand: all of it is back.
    if (charge.state === 'captured' && answer.state === 'voided') hearOfMoney(tx, services, charge, { refunded: charge.amount });
    if (charge.state === 'captured' || charge.state === 'voided' || charge.state === 'declined') return;
    const order = loadOrder(tx, charge.orderId);
    const change = (values: Partial<ChargeRow>) =>
      tx
        .update(charges)
        .set({ ...values, updatedAt: clock.now() })
        .where(eq(charges.id, charge.id))
        .run();
    const giveItBack = () => enqueue(tx, services, voidCharge, { payload: { chargeId: charge.id }, idempotencyKey: `void ${charge.id}`, orderId: order.id });
    switch (answer.state) {
      case 'captured': {
        change({ state: 'captured', providerChargeId: answer.providerChargeId, cardLast4: answer.last4, failure: null });
        if (answer.method) writeKept(tx, services, charge, answer.method, answer.last4);
        const payment = loadPayment(tx, charge.paymentId);
        // It pays for what its payment was quoted at, at that amount, once.
        const fits = payment.state !== 'paid' && payment.amount === charge.amount && (answer.amount ?? charge.amount) === charge.amount;
        // A place that was lost while the buyer was at their bank is somebody else's by now.
        const pays = fits && (payment.kind === 'first' ? !wasPaid(order.state) : payment.state === 'open');
        if (pays && !placesLeft({ db: tx, clock }, payment.quote, order.cartId)) {
          change({ failure: 'sold-out' });
          tellSoldOut(tx, services, order, charge);
          giveItBack();
        } else if (pays && payment.kind === 'first') markPaid(tx, services, takeUp(tx, order, payment), payment);
        // What was given up when its price changed is not sold at the old one by a late word.
        else if (pays && payment.kind === 'addition') markAdded(tx, services, order, payment);
        else giveItBack();
        return;
      }
      case 'declined':
        change({ state: 'declined', providerChargeId: answer.providerChargeId, cardLast4: answer.last4, failure: answer.reason });
        // Who said no to their bank has not left; who has no other card gets no place.
        if (answer.reason !== 'not-confirmed') releaseHolds(tx, order.cartId);
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

/** Tells a buyer whose place was sold while their bank was asked that their money is on its way back. */
function tellSoldOut(tx: Db, services: Tracked, order: OrderRow, charge: ChargeRow): void {
  const amount = formatMoney(charge.amount, charge.currency as Currency);
  const why = `${order.goods} was sold out while your payment was on its way, so nothing was bought. What was taken, ${amount}, goes back to you.`;
  enqueue(tx, services, mail, {
    payload: refundMail(letterhead(services), { order, amount, goods: [], isNoted: false, why }),
    idempotencyKey: `sold out ${charge.id}`,
    orderId: order.id,
  });
}

/** Gives back a captured charge that pays for nothing. @throws Error if the processor did not, so that it is tried again */
export async function giveBack(services: Paying, chargeId: string): Promise<void> {
  const { db, clock } = services;
  const charge = findCharge(db, chargeId);
  const account = charge && accountOf(services, charge.accountId);
  if (!charge || charge.state === 'voided') return;
  if (!charge.providerChargeId || !account)
    throw new Error('The account that took this money is not connected any more. Connect it again, or give the money back there.');
  const provider = providerOf(services, account);
  if (!(await provider.void(account, charge.providerChargeId))) {
    // What is settled cannot be voided any more, but given back whole it can.
    const refund = { providerChargeId: charge.providerChargeId, amount: charge.amount, idempotencyKey: `void-${charge.id}` };
    const answer = await provider.refund(account, refund);
    if (answer.state !== 'refunded') throw new Error(answer.state === 'refused' ? `The processor says: ${answer.reason}` : 'The processor did not answer.');
  }
  db.update(charges).set({ state: 'voided', updatedAt: clock.now() }).where(eq(charges.id, charge.id)).run();
}
