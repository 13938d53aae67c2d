import { freeSlots, knownZone } from '@ruta/core/appointments';
import type { ElementOf } from '@ruta/core/elements';
import { and, eq, isNull } from 'drizzle-orm';
import { type BookingRow, takenBetween } from '../appointments/store';
import { bookings } from '../appointments/tables';
import { tellBoth } from '../appointments/tell';
import { findContact } from '../contacts/store';
import type { LiveServices } from '../funnel/live';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';

const DAY = 24 * 60 * 60 * 1000;

/**
 * Moves a booked time to another free one; both are told. Of two people who want one time, one gets it, and nobody
 * loses the time they have.
 * @returns the booking as it is now; or what is wrong with the chosen time
 */
export function moveAppointment(
  services: Tracked & LiveServices,
  element: ElementOf<'appointment'>,
  booking: BookingRow,
  body: Record<string, unknown>,
): BookingRow | { error: string } {
  const { db, clock } = services;
  const chosen = typeof body.slot === 'string' ? body.slot : '';
  if (chosen === '') return { error: 'Choose a time.' };
  const { timeZone, mode } = loadShop(db).settings;
  const now = clock.now();
  return db.transaction((tx): BookingRow | { error: string } => {
    const taken = takenBetween(tx, now, now + (element.daysAhead + 2) * DAY, mode, booking.id);
    const slot = freeSlots(element, { now, timeZone, taken }).find(({ start }) => String(start) === chosen);
    if (!slot) return { error: 'This time has just been taken. Choose another one.' };
    if (slot.start === booking.startAt) return booking;
    const zone = knownZone(body.zone) ?? booking.zone;
    const moved = tx
      .update(bookings)
      .set({ startAt: slot.start, endAt: slot.end, zone: zone === timeZone ? null : zone, changes: booking.changes + 1 })
      // Whatever became of it meanwhile, in another window or by the seller, is not undone.
      .where(and(eq(bookings.id, booking.id), isNull(bookings.cancelledAt), eq(bookings.changes, booking.changes)))
      .returning()
      .get();
    if (!moved) return { error: 'This appointment was changed meanwhile. Open the link in your email again.' };
    const contact = findContact(tx, booking.contactId);
    if (contact) tellBoth(tx, services, moved, { name: contact.firstName, email: contact.email }, 'moved');
    return moved;
  });
}
