import { freeSlots, knownZone } from '@ruta/core/appointments';
import type { ElementOf } from '@ruta/core/elements';
import { EmailSchema } from '@ruta/core/shop';
import { takenBetween } from '../appointments/store';
import { bookings } from '../appointments/tables';
import { tellBoth } from '../appointments/tell';
import { whenWords } from '../appointments/when';
import { newId } from '../base/ids';
import { saveContact } from '../contacts/store';
import type { LiveServices, LiveStep } from '../funnel/live';
import { loadShop } from '../shop/store';
import type { Tracked, VisitorRow } from '../tracking/recorder';
import { makeEvent, placeOf } from '../tracking/visitor';

const DAY = 24 * 60 * 60 * 1000;
const MAX_NAME = 80;

export type Booked = { errors: Record<string, string>; values: Record<string, string> } | { at: string };

/**
 * Books a time, with a calendar file to both, all at once or not at all. Of two people who want one time, one gets it.
 * @returns when it is, in words; or what is wrong, field by field
 */
export function bookAppointment(
  services: Tracked & LiveServices,
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
  const { timeZone, mode } = loadShop(db).settings;
  const told = knownZone(body.zone);
  const zone = told === timeZone ? null : told;
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
    const booking = {
      id,
      stepId: live.step.id,
      elementId: element.id,
      contactId: contact.id,
      subject: element.subject,
      place: element.place,
      startAt: slot.start,
      endAt: slot.end,
      zone,
      changes: 0,
      mode,
      createdAt: now,
    };
    tx.insert(bookings).values(booking).run();
    const known = visitor ? { ...visitor, contactId: contact.id, typed: { ...visitor.typed, email: contact.email, firstName: values.firstName } } : null;
    if (known) recorder.saveVisitor(known);
    recorder.record(
      makeEvent(services, 'appointment.booked', mode, isCounted ? known : null, {
        ...placeOf(live),
        contactId: contact.id,
        data: { bookingId: id, at: slot.start },
      }),
    );
    tellBoth(tx, services, booking, { name: values.firstName ?? '', email: contact.email }, 'booked');
    return { at: whenWords(booking, timeZone) };
  });
}
