import { calendarFile, freeSlots, momentWords } from '@ruta/core/appointments';
import type { ElementOf } from '@ruta/core/elements';
import { EmailSchema } from '@ruta/core/shop';
import { takenBetween } from '../appointments/store';
import { bookings } from '../appointments/tables';
import { newId } from '../base/ids';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import { saveContact } from '../contacts/store';
import type { LiveStep } from '../funnel/live';
import { bookingMail } from '../mail/bookingMail';
import { letterhead } from '../mail/letterhead';
import { loadShop } from '../shop/store';
import type { Tracked, VisitorRow } from '../tracking/recorder';
import { makeEvent } from '../tracking/visitor';

const DAY = 24 * 60 * 60 * 1000;
const MAX_NAME = 80;

export type Booked = { errors: Record<string, string>; values: Record<string, string> } | { at: string };

/**
 * Books a time, with a calendar file to both, all at once or not at all. Of two people who want one time, one gets it.
 * @returns when it is, in words; or what is wrong, field by field
 */
export function bookAppointment(
  services: Tracked,
  live: LiveStep,
  element: ElementOf<'appointment'>,
  body: Record<string, unknown>,
  visitor: VisitorRow | null,
  isCounted: boolean,
): Booked {
  const { db, clock, recorder } = services;
  const values = Object.fromEntries(
    ['slot', 'firstName', 'email'].map((name) => [name, typeof body[name] === 'string' ? (body[name] as string).trim().slice(0, 300) : '']),
  );
  const errors: Record<string, string> = {};
  if (!values.firstName) errors.firstName = 'Please fill this in.';
  else if (values.firstName.length > MAX_NAME) errors.firstName = `Keep this under ${MAX_NAME} characters.`;
  const email = EmailSchema.safeParse(values.email);
  if (!email.success) errors.email = values.email ? (email.error.issues[0]?.message ?? 'Enter an e-mail address.') : 'Please fill this in.';
  if (!values.slot) errors.slot = 'Choose a time.';
  if (Object.keys(errors).length > 0 || !email.success) return { errors, values };
  const shop = loadShop(db);
  const { timeZone, mode, name, contactEmail } = shop.settings;
  const now = clock.now();
  recorder.flush();
  return db.transaction((tx): Booked => {
    const taken = takenBetween(tx, now, now + (element.daysAhead + 2) * DAY, mode);
    const slot = freeSlots(element, { now, timeZone, taken }).find(({ start }) => String(start) === values.slot);
    if (!slot) return { errors: { slot: 'This time has just been taken. Choose another one.' }, values: { ...values, slot: '' } };
    const contact = saveContact(tx, services, {
      email: email.data,
      firstName: values.firstName,
      funnelId: live.publication.funnelId,
      campaign: visitor?.lastCampaign ?? null,
      isOwner: false,
    });
    const id = newId(clock, 'booking');
    const { start, end } = slot;
    tx.insert(bookings)
      .values({
        id,
        stepId: live.step.id,
        elementId: element.id,
        contactId: contact.id,
        subject: element.subject,
        place: element.place,
        startAt: start,
        endAt: end,
        mode,
        createdAt: now,
      })
      .run();
    const known = visitor ? { ...visitor, contactId: contact.id, typed: { ...visitor.typed, email: contact.email, firstName: values.firstName } } : null;
    if (known) recorder.saveVisitor(known);
    recorder.record(
      makeEvent(services, 'appointment.booked', mode, isCounted ? known : null, {
        funnelId: live.publication.funnelId,
        stepId: live.step.id,
        contactId: contact.id,
        data: { bookingId: id, at: start },
      }),
    );
    const at = momentWords(start, timeZone);
    const attendee = { name: values.firstName ?? '', email: contact.email };
    // Who booked may have typed anybody's address: what is mailed there carries none of their words.
    const calendarFor = (to: 'buyer' | 'seller') =>
      calendarFile({
        uid: `${id}@${new URL(services.config.siteUrl).hostname}`,
        start,
        end,
        at: now,
        subject: element.subject,
        place: element.place,
        description: '',
        organiser: { name, email: contactEmail },
        attendee: to === 'buyer' ? { ...attendee, name: '' } : attendee,
      });
    for (const to of ['buyer', 'seller'] as const) {
      enqueue(tx, services, mail, {
        payload: bookingMail(letterhead(services, to === 'buyer' ? live.publication.funnelId : null), {
          to,
          at,
          minutes: element.minutes,
          subject: element.subject,
          place: element.place,
          attendee,
          calendar: calendarFor(to),
        }),
        idempotencyKey: `booking ${id} ${to}`,
        contactId: contact.id,
      });
    }
    return { at };
  });
}
