import type { TaxClass } from '@ruta/core/catalog';
import type { ArmTag } from '@ruta/core/experiments';
import type { Campaign } from '@ruta/core/facts';
import type { Buyer, Consequence, OrderLineRole, OrderState, RefundState, RefundWay, TaxNumberProofState } from '@ruta/core/orders';
import type { ChargeState, PaymentKind, PaymentState } from '@ruta/core/payments';
import type { Mode } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import { index, integer, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { contacts } from '../contacts/tables';

/** That the register was asked before tax was left to a buyer, and what it said; asked again until it has answered. */
export const taxNumberProofs = sqliteTable(
  'tax_number_proofs',
  {
    orderId: text().primaryKey(),
    number: text().notNull(),
    state: text().$type<TaxNumberProofState>().notNull(),
    /** Whose number it is, as the register has it; empty where it does not say. */
    name: text().notNull(),
    address: text().notNull(),
    /** By which the register knows the question again. */
    reference: text().notNull(),
    askedAt: integer().notNull(),
  },
  (table) => [index('tax_number_proofs_state').on(table.state, table.askedAt)],
);

/** A sale: lines, the payments they came with, and under each payment the tries to take its money. */
export const orders = sqliteTable(
  'orders',
  {
    id: text().primaryKey(),
    /** Given when the order is paid, without gaps; null for gifts. Test orders are counted by themselves. */
    number: integer(),
    state: text().$type<OrderState>().notNull(),
    mode: text().$type<Mode>().notNull(),
    funnelId: text().notNull(),
    stepId: text().notNull(),
    publicationId: text(),
    cartId: text().notNull().unique(),
    contactId: text().references(() => contacts.id),
    /** Who bought, as the figures count them; null for nobody counted. */
    visitorId: text(),
    /** The browser in which it was bought, which may see it again; null for one that keeps nothing. */
    browserId: text(),
    currency: text().notNull(),
    /** Paid by all payments so far, or to be paid by the first; minor units, tax and shipping included. */
    total: integer().notNull(),
    tax: integer().notNull(),
    /** Goods without tax and shipping, minor units. */
    netGoods: integer().notNull(),
    buyer: text({ mode: 'json' }).$type<Buyer>().notNull(),
    /** Out of the buyer and the lines, for lists that sort and search. */
    email: text().notNull(),
    firstName: text().notNull(),
    goods: text().notNull(),
    /** The code that was used, by its id; null for none. */
    codeId: text(),
    /** The partner who brought the buyer, by their id; null for nobody. */
    partnerId: text(),
    /** Ids of the bumps that stood on the checkout when it was paid. */
    offered: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    /** The arms of running tests that it was begun in: its buyer stays in them, in whatever browser. */
    arms: text({ mode: 'json' }).$type<ArmTag[]>(),
    /** Stands for the right to see this order, until its link ends; never shown to others. Later links have tokens of their own. */
    token: text().notNull().unique(),
    createdAt: integer().notNull(),
    paidAt: integer(),
  },
  (table) => [
    uniqueIndex('orders_number').on(table.mode, table.number),
    index('orders_paid').on(table.paidAt, table.id),
    index('orders_total').on(table.total, table.id),
    index('orders_email').on(table.email, table.id),
    index('orders_funnel').on(table.funnelId, table.paidAt),
    index('orders_contact').on(table.contactId),
    index('orders_browser').on(table.browserId, table.funnelId).where(sql`browser_id is not null`),
    index('orders_visitor').on(table.visitorId).where(sql`visitor_id is not null`),
    index('orders_code').on(table.codeId),
    index('orders_partner').on(table.partnerId).where(sql`partner_id is not null`),
  ],
);

/** What a payment takes and why. Its quote is of the day; what a plan owes later has payments of its own. */
export const payments = sqliteTable(
  'payments',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    kind: text().$type<PaymentKind>().notNull(),
    state: text().$type<PaymentState>().notNull(),
    /** Unix time in milliseconds from which it is owed. */
    due: integer().notNull(),
    amount: integer().notNull(),
    /** Of whatever version it was quoted in; `store.ts` brings it up. */
    quote: text({ mode: 'json' }).$type<unknown>().notNull(),
    /** The kept method that pays it; null for one that is used once. */
    methodId: text(),
    /** For an addition: the stop and the offer it was taken by. */
    stepId: text(),
    offerId: text(),
    /** When it was first told in a receipt. */
    toldAt: integer(),
    createdAt: integer().notNull(),
    paidAt: integer(),
  },
  (table) => [
    index('payments_order').on(table.orderId),
    index('payments_due').on(table.state, table.due),
    index('payments_paid').on(table.paidAt),
    // An offer is taken once in an order, however often its yes arrives.
    uniqueIndex('payments_offer').on(table.orderId, table.offerId).where(sql`offer_id is not null and state <> 'cancelled'`),
  ],
);

export const orderLines = sqliteTable(
  'order_lines',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    /** The payment it came with. */
    paymentId: text()
      .notNull()
      .references(() => payments.id),
    role: text().$type<OrderLineRole>().notNull(),
    /** Which part of the price it is: whole, instalment, period, trial, set-up fee. */
    part: text().notNull(),
    /** Null for shipping. */
    productId: text(),
    /** Which edition and price was sold; null for what was sold before products had them. */
    editionId: text(),
    priceId: text(),
    /** The line of the bundle that a part came with; its money is on that line. */
    partOf: text(),
    name: text().notNull(),
    quantity: integer().notNull(),
    total: integer().notNull(),
    tax: integer().notNull(),
    net: integer().notNull(),
    /** Null for shipping, and for a bundle of several. */
    taxClass: text().$type<TaxClass>(),
    rate: real().notNull(),
    /** Given back so far, tax included, minor units. */
    refunded: integer().notNull(),
    /** Of it without tax, by the running total: kept beside it, so that every report and commission has the same. */
    refundedNet: integer().notNull().default(0),
  },
  (table) => [
    index('order_lines_order').on(table.orderId),
    index('order_lines_payment').on(table.paymentId),
    index('order_lines_product').on(table.productId),
    index('order_lines_edition').on(table.editionId),
  ],
);

/** Every try to take the money of a payment, with its own record. */
export const charges = sqliteTable(
  'charges',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    paymentId: text()
      .notNull()
      .references(() => payments.id),
    /** The account it was tried at; null for what was charged before shops had several. */
    accountId: text(),
    provider: text().notNull(),
    mode: text().$type<Mode>().notNull(),
    idempotencyKey: text().notNull().unique(),
    providerChargeId: text(),
    amount: integer().notNull(),
    currency: text().notNull(),
    state: text().$type<ChargeState>().notNull(),
    /** Why it was declined or failed: `no-funds`, `expired-card`, `stolen-card`, `not-confirmed`, `unavailable`, `never-arrived`. */
    failure: text(),
    cardLast4: text(),
    /** The buyer's bank asks for the money; null for no dispute. */
    dispute: text().$type<'open' | 'won' | 'lost'>(),
    /** How often its processor was asked after it without knowing more, and when it is asked again. */
    asks: integer().notNull().default(0),
    askAt: integer(),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('charges_order').on(table.orderId), index('charges_payment').on(table.paymentId), index('charges_state').on(table.state)],
);

/** Money given back, one row for each payment it is of. What is asked for counts on its lines at once, and no more if it is refused. */
export const refunds = sqliteTable(
  'refunds',
  {
    id: text().primaryKey(),
    /** Made by whoever asked: what is asked twice is done once. */
    askedId: text().notNull(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    paymentId: text()
      .notNull()
      .references(() => payments.id),
    /** The charge that gives it back; null for what was given back elsewhere. */
    chargeId: text(),
    way: text().$type<RefundWay>().notNull(),
    state: text().$type<RefundState>().notNull(),
    /** Minor units, tax included. */
    amount: integer().notNull(),
    tax: integer().notNull(),
    lines: text({ mode: 'json' }).$type<Array<{ id: string; amount: number }>>().notNull(),
    reason: text().notNull(),
    takesBack: integer({ mode: 'boolean' }).notNull(),
    tells: integer({ mode: 'boolean' }).notNull(),
    failure: text(),
    createdAt: integer().notNull(),
    doneAt: integer(),
  },
  (table) => [
    index('refunds_order').on(table.orderId),
    index('refunds_state').on(table.state),
    uniqueIndex('refunds_asked').on(table.askedId, table.paymentId),
  ],
);

/** What a payment should have brought and could not, while its money was taken: it stands at its order until it is done. */
export const orderTroubles = sqliteTable(
  'order_troubles',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    paymentId: text()
      .notNull()
      .references(() => payments.id),
    what: text().$type<Consequence>().notNull(),
    message: text().notNull(),
    at: integer().notNull(),
    mendedAt: integer(),
  },
  (table) => [index('order_troubles_open').on(table.orderId).where(sql`mended_at is null`)],
);

/** What people of the shop have written down about an order. */
export const orderNotes = sqliteTable(
  'order_notes',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    at: integer().notNull(),
    userId: text(),
    text: text().notNull(),
  },
  (table) => [index('order_notes_order').on(table.orderId, table.at)],
);

/** Links to an order that were mailed after its first one ended, or was about to. */
export const orderLinks = sqliteTable(
  'order_links',
  {
    token: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    /** Unix time in milliseconds since when it holds. */
    since: integer().notNull(),
  },
  (table) => [index('order_links_order').on(table.orderId, table.since)],
);
