import type { Span } from '@ruta/core/appointments';
import type { Mode } from '@ruta/core/shop';
import { and, asc, eq, gt, isNull, lt, ne } from 'drizzle-orm';
import type { Db } from '../base/db';
import { bookings } from './tables';

export type BookingRow = typeof bookings.$inferSelect;

/** What is taken between two moments (Unix time in milliseconds), whichever page it was booked on; by all bookings but one that is to be moved. */
export function takenBetween(db: Db, from: number, until: number, mode: Mode, butFor = ''): Span[] {
  return db
    .select({ start: bookings.startAt, end: bookings.endAt })
    .from(bookings)
    .where(and(gt(bookings.endAt, from), lt(bookings.startAt, until), eq(bookings.mode, mode), isNull(bookings.cancelledAt), ne(bookings.id, butFor)))
    .all();
}

/** Somebody's bookings, soonest first. */
export const bookingsOf = (db: Db, contactId: string): BookingRow[] =>
  db.select().from(bookings).where(eq(bookings.contactId, contactId)).orderBy(asc(bookings.startAt)).all();
