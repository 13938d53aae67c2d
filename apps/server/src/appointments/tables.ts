import type { Mode } from '@ruta/core/shop';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Times that somebody has booked; one person takes them all, whichever page they were booked on. */
export const bookings = sqliteTable(
  'bookings',
  {
    id: text().primaryKey(),
    stepId: text().notNull(),
    elementId: text().notNull(),
    contactId: text().notNull(),
    subject: text().notNull(),
    place: text().notNull(),
    startAt: integer().notNull(),
    endAt: integer().notNull(),
    mode: text().$type<Mode>().notNull(),
    cancelledAt: integer(),
    /** The visitor's own time zone, by their browser; null where it is the shop's, or was not told. */
    zone: text(),
    /** How often it was moved or cancelled. */
    changes: integer().notNull().default(0),
    createdAt: integer().notNull(),
  },
  (table) => [index('bookings_start').on(table.startAt), index('bookings_contact').on(table.contactId)],
);
