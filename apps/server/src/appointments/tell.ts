import { calendarFile, momentWords, zoneWords } from '@ruta/core/appointments';
import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import type { LiveServices } from '../funnel/live';
import { type BookingNews, bookingMail } from '../mail/bookingMail';
import { mayWriteTo } from '../mail/fewMails';
import { letterhead } from '../mail/letterhead';
import { loadShop } from '../shop/store';
import { bookingAddress } from './address';
import type { BookingRow } from './store';

const MINUTE = 60_000;

/** Tells both who meet that an appointment is booked, moved or cancelled, each by their own clock and with a file for their calendar. */
export function tellBoth(
  tx: Db,
  services: LiveServices,
  booking: Pick<BookingRow, 'id' | 'stepId' | 'contactId' | 'subject' | 'place' | 'startAt' | 'endAt' | 'zone' | 'changes'>,
  attendee: { name: string; email: string },
  what: BookingNews,
  by: 'buyer' | 'seller' = 'buyer',
): void {
  const { clock, config, live } = services;
  const { timeZone, name, contactEmail } = loadShop(tx).settings;
  const { id, subject, place, startAt, endAt, zone, changes } = booking;
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
      changes,
    });
    if (to === 'buyer' && what === 'booked' && !mayWriteTo(services, attendee.email)) continue;
    enqueue(tx, services, mail, {
      payload: bookingMail(letterhead(services, to === 'buyer' ? (live.step(booking.stepId)?.publication.funnelId ?? null) : null), {
        to,
        what,
        by,
        at: momentWords(startAt, to === 'buyer' ? (zone ?? timeZone) : timeZone),
        zone: zoneWords(to === 'buyer' ? (zone ?? timeZone) : timeZone),
        changeUrl: to === 'buyer' && what !== 'cancelled' ? bookingAddress(services, id) : null,
        minutes: Math.round((endAt - startAt) / MINUTE),
        subject,
        place,
        attendee,
        calendar,
      }),
      idempotencyKey: `${what === 'booked' ? 'booking' : `booking ${what} ${changes}`} ${id} ${to}`,
      contactId: booking.contactId,
    });
  }
}
