import type { Campaign, LineRole, Mode, Quote } from '@ruta/core';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
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

/** What a cart keeps for its buyer for some minutes while they pay: places of an edition, or a use of a code. */
export const holds = sqliteTable(
  'holds',
  {
    cartId: text().notNull(),
    kind: text().$type<'stock' | 'code'>().notNull(),
    /** Id of the edition or the code. */
    subjectId: text().notNull(),
    quantity: integer().notNull(),
    /** Who a code is held for. */
    email: text(),
    until: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.cartId, table.kind, table.subjectId] }), index('holds_subject').on(table.subjectId, table.until)],
);

/** Who bought, as they said it at the checkout. */
export interface Buyer {
  email: string;
  firstName: string;
  lastName: string;
  country: string;
  region?: string | undefined;
  taxNumber?: string | undefined;
  /** Where parcels go; missing where nothing is sent. */
  address?: { street: string; city: string; postcode: string } | undefined;
}

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
    buyer: text({ mode: 'json' }).$type<Buyer>().notNull(),
    /** The code that was used, by its id; null for none. */
    codeId: text(),
    /** What stands for the buyer's card at the processor, for later charges; null if there are none. */
    paymentMethod: text(),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    /** Stands for the right to see this order; never shown to others. */
    token: text().notNull().unique(),
    createdAt: integer().notNull(),
    paidAt: integer(),
  },
  (table) => [
    index('orders_paid').on(table.paidAt),
    index('orders_funnel').on(table.funnelId, table.paidAt),
    index('orders_contact').on(table.contactId),
    index('orders_code').on(table.codeId),
  ],
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
    /** Which edition and price was sold; null for what was sold before products had them. */
    editionId: text(),
    priceId: text(),
    /** The line of the bundle that a part came with; its money is on that line. */
    partOf: text(),
    name: text().notNull(),
    role: text().$type<LineRole>().notNull(),
    quantity: integer().notNull(),
    total: integer().notNull(),
    tax: integer().notNull(),
    net: integer().notNull(),
  },
  (table) => [index('order_lines_order').on(table.orderId), index('order_lines_product').on(table.productId), index('order_lines_edition').on(table.editionId)],
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
    /** Null is without limit. */
    maxDownloads: integer(),
    /** Unix time in milliseconds after which it is not handed out any more; null is without limit. */
    until: integer(),
  },
  (table) => [index('grants_order').on(table.orderId)],
);
