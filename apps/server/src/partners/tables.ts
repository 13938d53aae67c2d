import type { Partner, Program, Rate } from '@ruta/core/partners';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { orderLines, orders } from '../orders/tables';

/** The terms on which partners earn; one row. */
export const partnerProgram = sqliteTable('partner_program', {
  id: integer().primaryKey(),
  program: text({ mode: 'json' }).$type<Program>().notNull(),
});

/** Partners. What is said of one is one document; the code is the key by which links find them. */
export const partners = sqliteTable('partners', {
  id: text().primaryKey(),
  code: text().notNull().unique(),
  /** Out of the document, for lists that sort and search. */
  name: text().notNull(),
  email: text().notNull(),
  document: text({ mode: 'json' }).$type<Partner>().notNull(),
  createdAt: integer().notNull(),
});

/** What a line of an order earns somebody, at the rate of its day. The amount is reckoned anew when something is given back. */
export const commissions = sqliteTable(
  'commissions',
  {
    id: text().primaryKey(),
    partnerId: text()
      .notNull()
      .references(() => partners.id),
    /** 1 for whoever brought the buyer, 2 for whoever recruited that partner. */
    tier: integer().$type<1 | 2>().notNull(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    paymentId: text().notNull(),
    lineId: text()
      .notNull()
      .references(() => orderLines.id),
    rate: text({ mode: 'json' }).$type<Rate>().notNull(),
    /** Minor units, of what is left of the line now. */
    amount: integer().notNull(),
    /** How much of it was paid out; more than the amount once something is given back after that. */
    paidOut: integer().notNull().default(0),
    at: integer().notNull(),
    /** Until then it waits for refunds. */
    heldUntil: integer().notNull(),
  },
  (table) => [
    uniqueIndex('commissions_line').on(table.lineId, table.tier),
    index('commissions_partner').on(table.partnerId, table.at),
    index('commissions_order').on(table.orderId),
    index('commissions_payment').on(table.paymentId),
  ],
);

/** What was paid out to all partners at once. */
export const payouts = sqliteTable('payouts', {
  id: text().primaryKey(),
  at: integer().notNull(),
  total: integer().notNull(),
});

/** What of it one partner got. */
export const payoutParts = sqliteTable(
  'payout_parts',
  {
    payoutId: text()
      .notNull()
      .references(() => payouts.id),
    partnerId: text()
      .notNull()
      .references(() => partners.id),
    amount: integer().notNull(),
  },
  (table) => [uniqueIndex('payout_parts_once').on(table.payoutId, table.partnerId), index('payout_parts_partner').on(table.partnerId)],
);
