import { sql } from 'drizzle-orm';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** What must happen outside, written in the same transaction as its cause and sent at least once. */
export const outbox = sqliteTable(
  'outbox',
  {
    id: text().primaryKey(),
    /** By the name of its record in `kinds.ts`. */
    kind: text().notNull(),
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
  (table) => [
    index('outbox_failed').on(table.failedAt).where(sql`failed_at is not null`),
    index('outbox_due').on(table.sentAt, table.failedAt, table.nextAt),
    index('outbox_order').on(table.orderId),
    index('outbox_contact').on(table.contactId),
  ],
);
