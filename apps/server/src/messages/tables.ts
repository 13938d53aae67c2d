import type { EventKind } from '@ruta/core/tracking';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

/** One message to one receiver outside: what was said and what was answered. Trying is the outbox's matter. */
export const messages = sqliteTable(
  'messages',
  {
    id: text().primaryKey(),
    /** The webhook, or the rule of a conversion. */
    receiverId: text().notNull(),
    eventId: text().notNull(),
    event: text().$type<EventKind>().notNull(),
    at: integer().notNull(),
    /** Written when it is first sent, and the same from then on. */
    body: text(),
    attempts: integer().notNull(),
    status: integer(),
    answer: text(),
    sentAt: integer(),
    /** Kept for the log, and not to be sent for the reason in `answer`. */
    isWithheld: integer({ mode: 'boolean' }).notNull().default(false),
  },
  (table) => [index('messages_of').on(table.receiverId, table.at), uniqueIndex('messages_once').on(table.receiverId, table.eventId)],
);
