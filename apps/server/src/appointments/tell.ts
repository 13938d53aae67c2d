import { calendarFile, momentWords } from '@ruta/core/appointments';
import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import type { LiveServices } from '../funnel/live';
import { bookingMail } from '../mail/bookingMail';
import { mayWriteTo } from '../mail/fewMails';
import { letterhead } from '../mail/letterhead';
import { loadShop } from '../shop/store';
import type { BookingRow } from './store';

const MINUTE = 60_000;

/** Tells both who meet that an appointment is booked, or that it is not any more, each with a file for their calendar. */
export function tellBoth(
  tx: Db,
  services: LiveServices,
  booking: Pick<BookingRow, 'id' | 'stepId' | 'contactId' | 'subject' | 'place' | 'startAt' | 'endAt'>,
  attendee: { name: string; email: string },
  what: 'booked' | 'cancelled',
): void {
  const { clock, config, live } = services;
  const { timeZone, name, contactEmail } = loadShop(tx).settings;
  const { id, subject, place, startAt, endAt } = booking;
  for (const to of ['buyer', 'seller'] as const) {
    const calendar = calendarFile({
      uid: `${id}@${new URL(config.siteUrl).hostname}`,
      start: startAt,
      end: endAt,
      at: clock.now(),
      subject,
      place,
      description: '',
      organiser: { name, email: contactEmail },
      // Who booked may have typed anybody's address: what is mailed there carries none of their words.
      attendee: to === 'buyer' ? { ...attendee, name: '' } : attendee,
      isCancelled: what === 'cancelled',
    });
    if (to === 'buyer' && what === 'booked' && !mayWriteTo(services, attendee.email)) continue;
    enqueue(tx, services, mail, {
      payload: bookingMail(letterhead(services, to === 'buyer' ? (live.step(booking.stepId)?.publication.funnelId ?? null) : null), {
        to,
        what,
        at: momentWords(startAt, timeZone),
        minutes: Math.round((endAt - startAt) / MINUTE),
        subject,
        place,
        attendee,
        calendar,
      }),
      idempotencyKey: `${what === 'booked' ? 'booking' : 'booking cancelled'} ${id} ${to}`,
      contactId: booking.contactId,
    });
  }
}
