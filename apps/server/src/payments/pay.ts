import { isUnderWay } from '@ruta/core/payments';
import type { Db } from '../base/db';
import type { LiveServices } from '../funnel/live';
import { type ChargeRow, chargesOf, firstPaymentOf, loadOrder, type OrderRow, orderOfCart, type PaymentRow, paymentsOf, wasPaid } from '../orders/store';
import { type NewOrder, openOrder } from '../orders/write';
import type { Tracked } from '../tracking/recorder';
import { accountForPayment, type Paying } from './accounts';
import { beginCharge, cancelUnconfirmed, takeMoney } from './charging';
import { markPaid } from './fulfil';
import { keepMethod } from './methods';
import { recordForOrder } from './recordForOrder';

/** How a try to pay ended, for the buyer. */
export type PayOutcome = PayState & {
  /** The addition that it was about; missing for an order's first payment. */
  addition?: PaymentRow;
};

type PayState =
  | { state: 'paid'; order: OrderRow }
  /** The processor has not said yet; the buyer waits on a page that asks again. */
  | { state: 'waiting'; order: OrderRow }
  /** The buyer must confirm on the processor's own page. */
  | { state: 'confirm'; order: OrderRow; url: string }
  | { state: 'declined'; order: OrderRow; reason: string };

type Needs = Tracked & Paying & LiveServices;

const payingNow = new Map<string, Promise<PayOutcome>>();

/**
 * Pays a cart. However often and however fast this is called for one cart, it is charged once: a cart has one order,
 * its first payment has at most one charge under way, and calls that arrive meanwhile share its outcome.
 * @param token stands for the card at the processor; empty for an order of value 0
 */
export function payCart(services: Needs, input: NewOrder, token: string, returnUrl: (order: OrderRow) => string): Promise<PayOutcome> {
  const under = payingNow.get(input.cartId);
  if (under) return under;
  const running = attempt(services, input, token, returnUrl).finally(() => payingNow.delete(input.cartId));
  payingNow.set(input.cartId, running);
  return running;
}

async function attempt(services: Needs, input: NewOrder, token: string, returnUrl: (order: OrderRow) => string): Promise<PayOutcome> {
  const { db } = services;
  await giveUpUnconfirmed(services, input.cartId);
  const account = accountForPayment(services, input.mode, input.cartId, input.quote.dueToday);
  // What is due later is charged to a card the processor keeps. One that it will not keep is told before anything is charged.
  let method: { id: string; reference: string } | null = null;
  if (input.quote.plans.length > 0 && !isCartUnderWay(db, input.cartId)) {
    const kept = await keepMethod(services, account, token);
    if (kept.state !== 'kept') return refused(services, input, kept.state === 'declined' ? kept.reason : 'unavailable');
    method = kept;
  }
  const begun = db.transaction((tx) => {
    const known = orderOfCart(tx, input.cartId);
    // While a charge may have gone through, the order stays as it was quoted and no second charge begins.
    if (known && (wasPaid(known.state) || isOrderUnderWay(tx, known.id))) return { order: known, charge: null };
    const { order, payment } = openOrder(tx, services, input, method?.id ?? null);
    if (payment.amount === 0) {
      markPaid(tx, services, order, payment);
      return { order: loadOrder(tx, order.id), charge: null };
    }
    if (!account) return { order, charge: null };
    recordForOrder(services, order, 'payment.given', { provider: account.provider, value: payment.amount });
    return { order, charge: beginCharge(tx, services, order, payment, account) };
  });
  const { order, charge } = begun;
  if (!charge && !account && !wasPaid(order.state) && !isOrderUnderWay(db, order.id)) return refused(services, input, 'unavailable');
  if (!charge || !account) return outcomeOf(db, order.id);

  // What is kept before stands for the card already; else it is kept with the charge, if offers may follow.
  const source = method === null ? { token, keep: input.keeps ?? false } : { method: method.reference };
  const told = await takeMoney(services, { account, order, charge, source, returnUrl: returnUrl(order) });
  if (told === null) return { state: 'waiting', order };
  return told.confirmUrl === null ? outcomeOf(db, order.id) : { state: 'confirm', order, url: told.confirmUrl };
}

/** Writes down that nothing could be charged. */
function refused(services: Needs, input: NewOrder, reason: string): PayOutcome {
  const { order } = services.db.transaction((tx) => openOrder(tx, services, input));
  recordForOrder(services, order, 'payment.failed', { reason });
  return { state: 'declined', order, reason };
}

/**
 * Whether nobody knows yet what became of a charge of an order, and no call here is about to say. Until it is known,
 * nothing else may be told of its cart.
 */
export function isUnknown(db: Db, order: OrderRow): boolean {
  return !payingNow.has(order.cartId) && lastCharge(db, order.id)?.state === 'pending';
}

/** Whether a charge of an order may have gone through, so that nothing new may begin. */
function isOrderUnderWay(db: Db, orderId: string): boolean {
  return paymentsOf(db, orderId).some((payment) => chargesOf(db, payment.id).some((charge) => isUnderWay(charge.state)));
}

function isCartUnderWay(db: Db, cartId: string): boolean {
  const order = orderOfCart(db, cartId);
  return order !== undefined && (wasPaid(order.state) || isOrderUnderWay(db, order.id));
}

/** The last try of an order's first payment. */
function lastCharge(db: Db, orderId: string): ChargeRow | undefined {
  const payment = firstPaymentOf(db, orderId);
  return payment && chargesOf(db, payment.id).at(-1);
}

/** A buyer who comes back from the confirmation page and pays anew gives up the payment that still waits there. */
async function giveUpUnconfirmed(services: Needs, cartId: string): Promise<void> {
  const order = orderOfCart(services.db, cartId);
  const last = order && lastCharge(services.db, order.id);
  if (last) await cancelUnconfirmed(services, last);
}

/** Where an order's first payment stands now. */
export function outcomeOf(db: Db, orderId: string): PayOutcome {
  const order = loadOrder(db, orderId);
  if (wasPaid(order.state)) return { state: 'paid', order };
  const last = lastCharge(db, orderId);
  if (last?.failure === 'sold-out') return { state: 'declined', order, reason: 'sold-out' };
  if (last && (last.state === 'declined' || last.state === 'failed')) return { state: 'declined', order, reason: last.failure ?? 'declined' };
  return { state: 'waiting', order };
}
