import type { ArmTag } from '@ruta/core/experiments';
import type { Campaign } from '@ruta/core/facts';
import type { Buyer, TaxNumberProof } from '@ruta/core/orders';
import type { PaymentKind } from '@ruta/core/payments';
import type { QuoteLine, StoredQuote } from '@ruta/core/pricing';
import type { Mode } from '@ruta/core/shop';
import { and, eq, ne } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId, newToken } from '../base/ids';
import type { Services } from '../base/services';
import { additionOf, chargesOf, firstPaymentOf, loadPayment, type OrderRow, orderOfCart, type PaymentRow, wasPaid } from './store';
import { orderLines, orders, payments, taxNumberProofs } from './tables';

type Needs = Pick<Services, 'clock'>;

export interface NewOrder {
  funnelId: string;
  stepId: string;
  /** What was published when it was bought. */
  publicationId?: string;
  cartId: string;
  /** As whom the figures count the buyer; null for nobody counted. */
  visitorId: string | null;
  /** The browser it is bought in; null for one that keeps nothing. */
  browserId?: string | null;
  mode: Mode;
  quote: StoredQuote;
  /** The code that was used; null for none. */
  codeId: string | null;
  /** Ids of the bumps that stand on the checkout. */
  offered?: string[];
  /** Offers may follow, so that the method that pays is kept for them. */
  keeps?: boolean;
  buyer: Buyer;
  campaign: Campaign | null;
  /** The partner who brought the buyer; null for nobody. */
  partnerId?: string | null;
  /** The arms of running tests that it is begun in. */
  arms?: ArmTag[];
  /** What the register said of the buyer's tax number, where tax is left to them. */
  taxNumberProof?: TaxNumberProof;
}

/** What an order comes to, out of the quote of its first payment. */
function sumsOf(quote: StoredQuote) {
  return { total: quote.dueToday, tax: quote.tax, netGoods: quote.lines.reduce((sum, line) => sum + line.net, 0) };
}

/** Names of what is bought, for lists and searches; a bundle's parts are told where its lines are. */
const goodsOf = (quote: StoredQuote): string =>
  quote.lines
    .filter((line) => line.part !== 'set-up fee')
    .map((line) => line.name)
    .join(', ');

/**
 * Writes an open order with its first payment, or brings those of the cart up to date while they are still open. A paid
 * order is left as it is.
 */
export function openOrder(
  tx: Db,
  services: Needs,
  { quote, keeps: _keeps, taxNumberProof, ...input }: NewOrder,
  methodId: string | null = null,
): { order: OrderRow; payment: PaymentRow } {
  const { clock } = services;
  const values = {
    ...input,
    ...sumsOf(quote),
    state: 'open' as const,
    currency: quote.currency,
    email: input.buyer.email,
    firstName: input.buyer.firstName,
    goods: goodsOf(quote),
  };
  const known = orderOfCart(tx, input.cartId);
  if (known && wasPaid(known.state)) return { order: known, payment: firstPayment(tx, known.id) };
  const keepProof = (orderId: string) => {
    tx.delete(taxNumberProofs).where(eq(taxNumberProofs.orderId, orderId)).run();
    if (taxNumberProof)
      tx.insert(taxNumberProofs)
        .values({ ...taxNumberProof, orderId })
        .run();
  };
  if (known) {
    keepProof(known.id);
    const order = tx.update(orders).set(values).where(eq(orders.id, known.id)).returning().get() as OrderRow;
    const payment = firstPayment(tx, known.id);
    // What was tried stays what it was tried for: a late word of it must not pay for another cart.
    if (chargesOf(tx, payment.id).length > 0 && !isForTheSame(payment.quote, quote)) {
      tx.update(payments).set({ state: 'cancelled' }).where(eq(payments.id, payment.id)).run();
      return { order, payment: addPayment(tx, services, { orderId: order.id, kind: 'first', quote, methodId }) };
    }
    tx.update(payments).set({ amount: quote.dueToday, quote, methodId }).where(eq(payments.id, payment.id)).run();
    return { order, payment: loadPayment(tx, payment.id) };
  }
  const order = tx
    .insert(orders)
    .values({ ...values, id: newId(clock, 'order'), number: null, contactId: null, token: newToken(), createdAt: clock.now(), paidAt: null })
    .returning()
    .get();
  keepProof(order.id);
  return { order, payment: addPayment(tx, services, { orderId: order.id, kind: 'first', quote, methodId }) };
}

export interface NewPayment {
  orderId: string;
  kind: PaymentKind;
  quote: StoredQuote;
  methodId: string | null;
  /** For an addition: the stop and the offer it is taken by. */
  stepId?: string;
  offerId?: string;
}

/** Writes a payment that is owed from now on. */
export function addPayment(tx: Db, { clock }: Needs, { quote, ...values }: NewPayment): PaymentRow {
  const now = clock.now();
  const row = tx
    .insert(payments)
    .values({ ...values, id: newId(clock, 'payment'), state: 'open', due: now, amount: quote.dueToday, quote, createdAt: now, paidAt: null })
    .returning()
    .get();
  return { ...row, quote };
}

/** Whether two quotes are of the same goods at the same price; dates of later charges move by themselves. */
export function isForTheSame(one: StoredQuote, other: StoredQuote): boolean {
  const sold = ({ dueToday, lines, code }: StoredQuote) =>
    JSON.stringify([
      dueToday,
      code?.applied ? code.code : null,
      lines.map((line) => [line.id, line.productId, line.editionId, line.priceId, line.quantity, line.total]),
    ]);
  return sold(one) === sold(other);
}

/**
 * Takes up a payment that turns out to be paid: the order is then for what this payment was quoted at, and whatever else
 * was asked for instead is given up.
 */
export function takeUp(tx: Db, order: OrderRow, payment: PaymentRow): OrderRow {
  const { quote } = payment;
  const codeId = quote.code?.applied ? order.codeId : null;
  tx.update(payments)
    .set({ state: 'cancelled' })
    .where(and(eq(payments.orderId, order.id), eq(payments.kind, 'first'), ne(payments.id, payment.id)))
    .run();
  return tx
    .update(orders)
    .set({ ...sumsOf(quote), goods: goodsOf(quote), codeId })
    .where(eq(orders.id, order.id))
    .returning()
    .get() as OrderRow;
}

function firstPayment(tx: Db, orderId: string): PaymentRow {
  const payment = firstPaymentOf(tx, orderId);
  if (!payment) throw new Error(`The order ${orderId} has no payment.`);
  return payment;
}

/**
 * Opens the payment of something that is added by one click, or takes up the one that is open. What was tried at another
 * price stays what it was tried for, and is given up.
 * @returns the payment; one that is paid already stays as it is
 */
export function openAddition(tx: Db, services: Needs, input: NewPayment & { offerId: string; stepId: string }): PaymentRow {
  const known = additionOf(tx, input.orderId, input.offerId);
  if (!known || known.state === 'paid') return known ?? addPayment(tx, services, input);
  if (chargesOf(tx, known.id).length > 0 && !isForTheSame(known.quote, input.quote)) {
    tx.update(payments).set({ state: 'cancelled' }).where(eq(payments.id, known.id)).run();
    return addPayment(tx, services, input);
  }
  const { quote, methodId, stepId } = input;
  tx.update(payments).set({ amount: quote.dueToday, quote, methodId, stepId }).where(eq(payments.id, known.id)).run();
  return loadPayment(tx, known.id);
}

/** Counts what was added to an order in its sums, and in the names of what was bought. */
export function addToOrder(tx: Db, order: OrderRow, quote: StoredQuote): OrderRow {
  const { total, tax, netGoods } = sumsOf(quote);
  const sums = { total: order.total + total, tax: order.tax + tax, netGoods: order.netGoods + netGoods };
  return tx
    .update(orders)
    .set({ ...sums, goods: [order.goods, goodsOf(quote)].filter(Boolean).join(', ') })
    .where(eq(orders.id, order.id))
    .returning()
    .get() as OrderRow;
}

/** A line of goods that was written, with what it is of: what has to be delivered. */
export interface BoughtLine {
  lineId: string;
  productId: string;
  editionId: string | null;
  priceId: string | null;
  quantity: number;
}

/**
 * Writes the lines that a paid payment brings: goods, set-up fees, a bundle's parts without money, and shipping.
 * @returns what has to be delivered
 */
export function writeLines(tx: Db, services: Needs, payment: PaymentRow): BoughtLine[] {
  const { quote } = payment;
  const delivered = quote.lines.flatMap((line) => writeLine(tx, services, payment, line));
  const { shipping } = quote;
  if (shipping) {
    insert(tx, services, payment, { ...BARE, role: 'shipping', name: shipping.zone, quantity: 1, ...sums(shipping), rate: shipping.rate });
  }
  return delivered;
}

const BARE = { part: 'whole', productId: null, editionId: null, priceId: null, partOf: null, taxClass: null, rate: 0, refunded: 0 };
const sums = ({ total, tax, net }: { total: number; tax: number; net: number }) => ({ total, tax, net });

function writeLine(tx: Db, services: Needs, payment: PaymentRow, line: QuoteLine): BoughtLine[] {
  const own = { productId: line.productId, editionId: line.editionId ?? null, priceId: line.priceId ?? null, quantity: line.quantity };
  const lineId = insert(tx, services, payment, {
    ...BARE,
    ...own,
    ...sums(line),
    role: line.role,
    part: line.part,
    name: line.name,
    taxClass: line.taxShares.length > 1 ? null : line.taxClass,
    rate: line.rate,
  });
  if (line.part === 'set-up fee') return [];
  const parts = (line.parts ?? []).map((part): BoughtLine => {
    const of = { productId: part.productId, editionId: part.editionId ?? null, priceId: null, quantity: part.quantity * line.quantity };
    const values = { ...BARE, ...of, role: line.role, partOf: lineId, name: part.name, taxClass: part.taxClass, total: 0, tax: 0, net: 0 };
    return { ...of, lineId: insert(tx, services, payment, values) };
  });
  return [{ ...own, lineId }, ...parts];
}

type LineValues = Omit<typeof orderLines.$inferInsert, 'id' | 'orderId' | 'paymentId'>;

function insert(tx: Db, { clock }: Needs, payment: PaymentRow, values: LineValues): string {
  const id = newId(clock, 'line');
  tx.insert(orderLines)
    .values({ ...values, id, orderId: payment.orderId, paymentId: payment.id })
    .run();
  return id;
}
