import { eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { newId } from '../ids';
import { enqueue } from '../outbox/outbox';
import type { ChargeAnswer, PaymentProvider } from '../payments/provider';
import type { Services } from '../services';
import { keepOpenOrder, markPaid, type NewOrder, recordForOrder } from './fulfil';
import { type ChargeRow, chargesOf, loadOrder, type OrderRow } from './store';
import { charges, orders } from './tables';

/** How a try to pay ended, for the buyer. */
export type PayOutcome =
  | { state: 'paid'; order: OrderRow }
  /** The processor has not said yet; the buyer waits on a page that asks again. */
  | { state: 'waiting'; order: OrderRow }
  /** The buyer must confirm on the processor's own page. */
  | { state: 'confirm'; order: OrderRow; url: string }
  | { state: 'declined'; order: OrderRow; reason: string };

const payingNow = new Map<string, Promise<PayOutcome>>();

/**
 * Pays a cart. However often and however fast this is called for one cart, it is charged once: a cart has one order,
 * an order has at most one charge under way, and calls that arrive meanwhile share its outcome.
 * @param token stands for the card at the processor; empty for an order of value 0
 */
export function payCart(
  services: Services,
  provider: PaymentProvider,
  input: NewOrder,
  token: string,
  returnUrl: (order: OrderRow) => string,
): Promise<PayOutcome> {
  const under = payingNow.get(input.cartId);
  if (under) return under;
  const running = attempt(services, provider, input, token, returnUrl).finally(() => payingNow.delete(input.cartId));
  payingNow.set(input.cartId, running);
  return running;
}

async function attempt(
  services: Services,
  provider: PaymentProvider,
  input: NewOrder,
  token: string,
  returnUrl: (order: OrderRow) => string,
): Promise<PayOutcome> {
  const { db, clock } = services;
  await giveUpUnconfirmed(services, provider, input.cartId);
  // What is due later is charged to a card the processor keeps. One that it will not keep is told before anything is charged.
  let method: string | null = null;
  if (input.quote.later.length > 0 && !isUnderWay(db, input.cartId)) {
    const kept = await provider.keepMethod(input.mode, token);
    if (kept.state !== 'kept') {
      const order = db.transaction((tx) => keepOpenOrder(tx, services, input));
      const reason = kept.state === 'declined' ? kept.reason : 'unavailable';
      recordForOrder(services, order, 'payment.failed', { reason });
      return { state: 'declined', order, reason };
    }
    method = kept.method;
  }
  const begun = db.transaction((tx) => {
    const earlier = tx.select().from(orders).where(eq(orders.cartId, input.cartId)).get();
    const last = earlier && chargesOf(tx, earlier.id).at(-1);
    // While a charge may have gone through, the order stays as it was quoted and no second charge begins.
    if (earlier && (earlier.state === 'paid' || last?.state === 'pending' || last?.state === 'needs-confirmation')) return { order: earlier, charge: null };
    const order = keepOpenOrder(tx, services, { ...input, paymentMethod: method });
    if (order.total === 0) {
      markPaid(tx, services, order, null);
      return { order: loadOrder(tx, order.id), charge: null };
    }
    const tries = chargesOf(tx, order.id).length;
    const now = clock.now();
    const charge = tx
      .insert(charges)
      .values({
        id: newId(clock, 'charge'),
        orderId: order.id,
        provider: 'quayside',
        mode: order.mode,
        idempotencyKey: `${order.id}-${tries + 1}`,
        amount: order.total,
        currency: order.currency,
        state: 'pending',
        createdAt: now,
        updatedAt: now,
      })
      .returning()
      .get();
    recordForOrder(services, order, 'payment.given', { provider: 'quayside', value: order.total });
    return { order, charge };
  });
  if (!begun.charge) return outcomeOf(db, begun.order.id);

  const { order, charge } = begun;
  const answer = await provider.charge(order.mode, {
    amount: charge.amount,
    currency: charge.currency,
    source: method === null ? { token } : { method },
    idempotencyKey: charge.idempotencyKey,
    reference: order.id,
    returnUrl: returnUrl(order),
  });
  settle(services, charge.id, answer);
  if (answer.state === 'needs-confirmation' && answer.confirmUrl) return { state: 'confirm', order, url: answer.confirmUrl };
  return outcomeOf(db, order.id);
}

/** Whether a cart is paid, or a charge for it may have gone through, so that nothing new may begin. */
function isUnderWay(db: Db, cartId: string): boolean {
  const order = db.select().from(orders).where(eq(orders.cartId, cartId)).get();
  const last = order && chargesOf(db, order.id).at(-1);
  return order?.state === 'paid' || last?.state === 'pending' || last?.state === 'needs-confirmation';
}

/** A buyer who comes back from the confirmation page and pays anew gives up the payment that still waits there. */
async function giveUpUnconfirmed(services: Services, provider: PaymentProvider, cartId: string): Promise<void> {
  const order = services.db.select().from(orders).where(eq(orders.cartId, cartId)).get();
  const last = order && chargesOf(services.db, order.id).at(-1);
  if (last?.state !== 'needs-confirmation' || !last.providerChargeId) return;
  const cancelled = await provider.cancel(last.mode, last.providerChargeId);
  const answer: ChargeAnswer = cancelled
    ? { state: 'voided', providerChargeId: last.providerChargeId, last4: last.cardLast4 }
    : await provider.find(last.mode, last.idempotencyKey);
  settle(services, last.id, answer);
}

/** Where an order's payment stands now. */
export function outcomeOf(db: Db, orderId: string): PayOutcome {
  const order = loadOrder(db, orderId);
  if (order.state === 'paid') return { state: 'paid', order };
  const last = chargesOf(db, orderId).at(-1);
  if (last && (last.state === 'declined' || last.state === 'failed')) return { state: 'declined', order, reason: last.failure ?? 'declined' };
  return { state: 'waiting', order };
}

/**
 * Writes down what the processor said of a charge, once: whoever brings the news first (the answer itself, a webhook,
 * the reconciler) settles it, later news of the same changes nothing. A captured charge whose order was already paid
 * by another is voided, so that no money is kept that pays for nothing.
 */
export function settle(services: Services, chargeId: string, answer: ChargeAnswer): void {
  const { db, clock } = services;
  db.transaction((tx) => {
    const charge = tx.select().from(charges).where(eq(charges.id, chargeId)).get() as ChargeRow;
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
        if (order.state === 'paid') {
          enqueue(tx, services, { kind: 'void-charge', payload: { chargeId: charge.id }, idempotencyKey: `void ${charge.id}`, orderId: order.id });
        } else {
          markPaid(tx, services, order, charge.id);
        }
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
    }
  });
}
