import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** What must happen outside, written in the same transaction as its cause and sent at least once. */
export const outbox = sqliteTable(
  'outbox',
  {
    id: text().primaryKey(),
    kind: text({ enum: ['mail', 'void-charge', 'course'] }).notNull(),
    payload: text({ mode: 'json' }).$type<Record<string, unknown>>().notNull(),
    idempotencyKey: text().notNull().unique(),
    orderId: text(),
    contactId: text(),
    attempts: integer().notNull(),
    nextAt: integer().notNull(),
    sentAt: integer(),
    /** Set when it gave up; it can be sent again by hand. */
    failedAt: integer(),
    lastError: text(),
    createdAt: integer().notNull(),
  },
  (table) => [index('outbox_due').on(table.sentAt, table.failedAt, table.nextAt)],
);
