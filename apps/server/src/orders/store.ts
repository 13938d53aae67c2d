import type { OrderState } from '@ruta/core/orders';
import { PAID_STATES } from '@ruta/core/orders';
import { readQuote, type StoredQuote } from '@ruta/core/pricing';
import type { Mode } from '@ruta/core/shop';
import { and, desc, eq, getTableColumns, inArray, isNotNull, isNull, ne, type SQL, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import { notFound } from '../base/problem';
import { charges, orderLines, orders, orderTroubles, payments } from './tables';

export type OrderRow = typeof orders.$inferSelect;
export type LineRow = typeof orderLines.$inferSelect;
export type ChargeRow = typeof charges.$inferSelect;
/** A payment with its quote as the present version has it. */
export type PaymentRow = Omit<typeof payments.$inferSelect, 'quote'> & { quote: StoredQuote };

/** Orders that were paid, in SQL. */
export const isPaid = inArray(orders.state, [...PAID_STATES]);
/** Whether a state is one in which an order was paid. */
export const wasPaid = (state: OrderState): boolean => (PAID_STATES as readonly OrderState[]).includes(state);

/** In the order in which they were written: a clock that was set back between two tries must not turn them round. */
const asMade = sql`rowid`;
const given = (name: string) => sql.placeholder(name);
const byId = builtOnce((db) =>
  db
    .select()
    .from(orders)
    .where(eq(orders.id, given('id')))
    .prepare(),
);
const byCart = builtOnce((db) =>
  db
    .select()
    .from(orders)
    .where(eq(orders.cartId, given('cartId')))
    .prepare(),
);
const paymentsByOrder = builtOnce((db) =>
  db
    .select()
    .from(payments)
    .where(eq(payments.orderId, given('orderId')))
    .orderBy(asMade)
    .prepare(),
);
const paymentById = builtOnce((db) =>
  db
    .select()
    .from(payments)
    .where(eq(payments.id, given('id')))
    .prepare(),
);
const chargesByPayment = builtOnce((db) =>
  db
    .select()
    .from(charges)
    .where(eq(charges.paymentId, given('paymentId')))
    .orderBy(asMade)
    .prepare(),
);
const chargeById = builtOnce((db) =>
  db
    .select()
    .from(charges)
    .where(eq(charges.id, given('id')))
    .prepare(),
);
const linesByOrder = builtOnce((db) =>
  db
    .select()
    .from(orderLines)
    .where(eq(orderLines.orderId, given('orderId')))
    .orderBy(asMade)
    .prepare(),
);

export const findOrder = (db: Db, id: string): OrderRow | undefined => byId(db).get({ id });

/** @throws Refusal 404 if there is no such order */
export function loadOrder(db: Db, id: string): OrderRow {
  const order = findOrder(db, id);
  if (!order) throw notFound('This order');
  return order;
}

export function findOrderByToken(db: Db, token: string): OrderRow | undefined {
  return db.select().from(orders).where(eq(orders.token, token)).get();
}

/** The order of a cart, paid or not. */
export const orderOfCart = (db: Db, cartId: string): OrderRow | undefined => byCart(db).get({ cartId });

/** The order of a cart, paid or not, for the browser whose cart it is; undefined if there is none or it is somebody else's. */
export function ownOrderOf(db: Db, cartId: string | undefined, browserId: string | null): OrderRow | undefined {
  const order = cartId ? orderOfCart(db, cartId) : undefined;
  return order && (order.browserId === null || order.browserId === browserId) ? order : undefined;
}

const latestOfBrowser = builtOnce((db) =>
  db
    .select()
    .from(orders)
    .where(and(eq(orders.browserId, sql.placeholder('browserId')), eq(orders.funnelId, sql.placeholder('funnelId')), isPaid))
    .orderBy(desc(asMade))
    .limit(1)
    .prepare(),
);

/** The latest order that was paid in a browser in a funnel; undefined if there is none. */
export function latestOrderOf(db: Db, browserId: string, funnelId: string): OrderRow | undefined {
  return latestOfBrowser(db).get({ browserId, funnelId });
}

/** The payments of an order, the first one first. */
export const paymentsOf = (db: Db, orderId: string): PaymentRow[] => paymentsByOrder(db).all({ orderId }).map(readPayment);

/**
 * The first payment of an order that counts: the one that was paid, else the latest that was asked for. Earlier ones were
 * given up when the cart changed after they had been tried.
 */
export function firstPaymentOf(db: Db, orderId: string): PaymentRow | undefined {
  const tried = paymentsOf(db, orderId).filter(({ kind }) => kind === 'first');
  return tried.find(({ state }) => state === 'paid') ?? tried.findLast(({ state }) => state === 'open') ?? tried.at(-1);
}

/** What an order was sold for: the quote of the first payment that counts, then those of everything added by one click. */
export function countedQuotes(db: Db, orderId: string): StoredQuote[] {
  const first = firstPaymentOf(db, orderId);
  return first ? [first.quote, ...additionsOf(db, orderId).map(({ quote }) => quote)] : [];
}

/** What was added to an order and paid, the earliest first. */
export function additionsOf(db: Db, orderId: string): PaymentRow[] {
  return paymentsOf(db, orderId).filter(({ kind, state }) => kind === 'addition' && state === 'paid');
}

/** The payment of an offer in an order that counts; undefined if nobody has said yes to it. */
export function additionOf(db: Db, orderId: string, offerId: string): PaymentRow | undefined {
  return paymentsOf(db, orderId).find((payment) => payment.offerId === offerId && payment.state !== 'cancelled');
}

export function loadPayment(db: Db, id: string): PaymentRow {
  const payment = paymentById(db).get({ id });
  if (!payment) throw notFound('This payment');
  return readPayment(payment);
}

const readPayment = (row: typeof payments.$inferSelect): PaymentRow => ({ ...row, quote: readQuote(row.quote) });

/** Everything that was tried to take the money of a payment, the first try first. */
export const chargesOf = (db: Db, paymentId: string): ChargeRow[] => chargesByPayment(db).all({ paymentId });

export const findCharge = (db: Db, id: string): ChargeRow | undefined => chargeById(db).get({ id });

/** Everything that was tried for an order. */
export function chargesOfOrder(db: Db, orderId: string): ChargeRow[] {
  return db.select().from(charges).where(eq(charges.orderId, orderId)).orderBy(asMade).all();
}

export const linesOf = (db: Db, orderId: string): LineRow[] => linesByOrder(db).all({ orderId });

/** The order by which a contact has received a free product; undefined if they have not. */
export function giftOrder(db: Db, contactId: string, productId: string): OrderRow | undefined {
  return db
    .select({ order: orders })
    .from(orders)
    .innerJoin(orderLines, eq(orderLines.orderId, orders.id))
    .where(and(eq(orders.contactId, contactId), isPaid, isNull(orders.number), eq(orderLines.productId, productId)))
    .get()?.order;
}

/** Lines that are still their buyer's: what was given back whole is not, nor the parts of a bundle that was. */
const isHeld = sql`NOT EXISTS (SELECT 1 FROM order_lines w WHERE w.id = coalesce(${orderLines.partOf}, ${orderLines.id}) AND w.total > 0 AND w.refunded >= w.total)`;

/** Whether an order is of a mode. The plus keeps SQLite from looking orders up by what nearly all of them have, instead of by their contact or code. */
export const isOfMode = (mode: unknown): SQL => sql`+${orders.mode} = ${mode}`;

/** Everything a contact has from orders of a mode, paid or given. */
export function purchasesOf(db: Db, contactId: string, mode: Mode): LineRow[] {
  return linesOfContact(db)
    .all({ contactId, mode })
    .map(({ line }) => line);
}
const linesOfContact = builtOnce((db) =>
  db
    .select({ line: orderLines })
    .from(orderLines)
    .innerJoin(orders, eq(orders.id, orderLines.orderId))
    .where(and(eq(orders.contactId, given('contactId')), isPaid, isOfMode(given('mode')), isHeld))
    .prepare(),
);

/** The latest paid order by which a contact has a product; undefined if there is none. */
export function orderWith(db: Db, contactId: string, productId: string, mode: Mode): OrderRow | undefined {
  return db
    .select({ order: orders })
    .from(orders)
    .innerJoin(orderLines, eq(orderLines.orderId, orders.id))
    .where(and(eq(orders.contactId, contactId), isPaid, isOfMode(mode), eq(orderLines.productId, productId), isHeld))
    .orderBy(desc(orders.paidAt))
    .limit(1)
    .get()?.order;
}

/** Whether a contact has bought in a browser: only then is it they who sit there, and not somebody who typed their address. */
export function hasBoughtHere(db: Db, contactId: string, browserId: string): boolean {
  const found = db
    .select({ id: orders.id })
    .from(orders)
    .where(and(eq(orders.contactId, contactId), eq(orders.browserId, browserId), isPaid, isNotNull(orders.number)))
    .limit(1)
    .get();
  return found !== undefined;
}

/** Whether a contact has bought a product in a mode, in any paid order but the one of a cart. */
export function ownsProduct(db: Db, contactId: string, productId: string, mode: Mode, exceptCartId: string): boolean {
  const found = db
    .select({ id: orderLines.id })
    .from(orderLines)
    .innerJoin(orders, eq(orders.id, orderLines.orderId))
    .where(and(eq(orders.contactId, contactId), isPaid, isOfMode(mode), eq(orderLines.productId, productId), ne(orders.cartId, exceptCartId), isHeld))
    .limit(1)
    .get();
  return found !== undefined;
}

/** The latest order that was paid, if there is any: for what is only asked whether there is one. */
export function hasSold(db: Db): boolean {
  return db.select({ id: orders.id }).from(orders).where(isNotNull(orders.paidAt)).orderBy(desc(orders.paidAt)).limit(1).get() !== undefined;
}

/** What payments of an order should have brought and could not yet; of all orders without an id. Of one that was refunded whole nothing is owed any more. */
export const openTroubles = (db: Db, orderId?: string) =>
  db
    .select(getTableColumns(orderTroubles))
    .from(orderTroubles)
    .innerJoin(orders, eq(orders.id, orderTroubles.orderId))
    .where(and(isNull(orderTroubles.mendedAt), ne(orders.state, 'refunded'), orderId === undefined ? undefined : eq(orderTroubles.orderId, orderId)))
    .orderBy(sql`${orderTroubles}.rowid`)
    .all();
