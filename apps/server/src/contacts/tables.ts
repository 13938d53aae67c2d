import type { Campaign } from '@ruta/core/facts';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const contacts = sqliteTable(
  'contacts',
  {
    id: text().primaryKey(),
    email: text().notNull().unique(),
    firstName: text().notNull(),
    lastName: text().notNull(),
    country: text(),
    /** Answers to form questions, by the question's label. */
    answers: text({ mode: 'json' }).$type<Record<string, string>>().notNull(),
    funnelId: text(),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    /** Paid orders in live mode without gifts, and what they came to: kept beside the orders for lists. */
    orders: integer().notNull().default(0),
    paid: integer().notNull().default(0),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('contacts_created').on(table.createdAt, table.id), index('contacts_paid').on(table.paid, table.id)],
);
