import type { Campaign, LineRole, Mode, Quote } from '@ruta/core';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { contacts } from '../contacts/tables';
import { files } from '../files/tables';

/** A checkout somebody began: kept as soon as there is an address. */
export const carts = sqliteTable(
  'carts',
  {
    id: text().primaryKey(),
    visitorId: text(),
    funnelId: text().notNull(),
    stepId: text().notNull(),
    values: text({ mode: 'json' }).$type<Record<string, string>>().notNull(),
    paidOrderId: text(),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('carts_visitor').on(table.visitorId, table.stepId)],
);

export type OrderState = 'open' | 'paid';

export const orders = sqliteTable(
  'orders',
  {
    id: text().primaryKey(),
    /** Given when the order is paid, without gaps. */
    number: integer().unique(),
    state: text().$type<OrderState>().notNull(),
    mode: text().$type<Mode>().notNull(),
    funnelId: text().notNull(),
    stepId: text().notNull(),
    cartId: text().notNull().unique(),
    contactId: text().references(() => contacts.id),
    visitorId: text(),
    currency: text().notNull(),
    total: integer().notNull(),
    tax: integer().notNull(),
    /** Goods without tax and shipping, minor units. */
    netGoods: integer().notNull(),
    quote: text({ mode: 'json' }).$type<Quote>().notNull(),
    buyer: text({ mode: 'json' }).$type<{ email: string; firstName: string; lastName: string; country: string }>().notNull(),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    /** Stands for the right to see this order; never shown to others. */
    token: text().notNull().unique(),
    createdAt: integer().notNull(),
    paidAt: integer(),
  },
  (table) => [index('orders_paid').on(table.paidAt), index('orders_funnel').on(table.funnelId, table.paidAt), index('orders_contact').on(table.contactId)],
);

export const orderLines = sqliteTable(
  'order_lines',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    chargeId: text(),
    productId: text().notNull(),
    name: text().notNull(),
    role: text().$type<LineRole>().notNull(),
    quantity: integer().notNull(),
    total: integer().notNull(),
    tax: integer().notNull(),
    net: integer().notNull(),
  },
  (table) => [index('order_lines_order').on(table.orderId), index('order_lines_product').on(table.productId)],
);

export type ChargeState = 'pending' | 'needs-confirmation' | 'captured' | 'declined' | 'failed' | 'voided';

/** Every try to take money, with its own record. */
export const charges = sqliteTable(
  'charges',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
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
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('charges_order').on(table.orderId), index('charges_state').on(table.state)],
);

/** A buyer's right to fetch a file. */
export const grants = sqliteTable(
  'grants',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    lineId: text()
      .notNull()
      .references(() => orderLines.id),
    fileId: text()
      .notNull()
      .references(() => files.id),
    downloads: integer().notNull(),
    maxDownloads: integer().notNull(),
  },
  (table) => [index('grants_order').on(table.orderId)],
);
