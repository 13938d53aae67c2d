import { type ElementOf, isElementOf, words } from '@ruta/core/elements';
import { findElement, PAGE_VERSION, type PageDocument } from '@ruta/core/page';
import { buildSection, header, headlinePart, one, part, type SectionPlan, textPart } from '@ruta/core/sections';
import { eq } from 'drizzle-orm';
import express, { type Request, type Response, Router } from 'express';
import { bookingPath, isBookingAddress } from '../appointments/address';
import { appointmentsOn } from '../appointments/shown';
import type { BookingRow } from '../appointments/store';
import { bookings } from '../appointments/tables';
import { whenWords } from '../appointments/when';
import { newId } from '../base/ids';
import { cancelAppointment } from '../contacts/appointments';
import { whoOf } from '../facts/who';
import type { LiveServices } from '../funnel/live';
import { loadShop } from '../shop/store';
import { renderMessage } from '../site/renderMessage';
import { renderOwnPage } from '../site/renderStep';
import { scriptUrl } from '../site/scripts';
import type { Tracked } from '../tracking/recorder';
import { moveAppointment } from './moveAppointment';

/** The page of an appointment for whoever booked it, by the link in their mail: it is moved and cancelled there. */
export function ownAppointmentSite(services: Tracked & LiveServices): Router {
  const router = Router();
  const { db, clock } = services;
  const limit = services.limits.middleware(
    { name: 'bookings', most: 10, windowMs: 60_000 },
    { message: 'Too many changes in a short time. Wait a minute, then try again.' },
  );
  const bodies = express.urlencoded({ extended: false, limit: '8kb' });
  const at = '/go/appointment/:id/:signature';

  const say = (response: Response, status: number, title: string, message: string) =>
    response
      .status(status)
      .set('cache-control', 'private, no-store')
      .type('html')
      .send(renderMessage(services, title, message));

  /** The booking that an address stands for, as long as something can be done about it; otherwise it is told why not. */
  function open(request: Request, response: Response): BookingRow | undefined {
    const { id, signature } = request.params as { id: string; signature: string };
    const booking = isBookingAddress(services, id, signature) ? db.select().from(bookings).where(eq(bookings.id, id)).get() : undefined;
    if (!booking) say(response, 404, 'There is no appointment at this address', 'Check that the link from your email was copied in full.');
    else if (booking.cancelledAt !== null)
      say(response, 410, 'This appointment was cancelled', 'Its time is free again. You can book another one at any time.');
    else if (booking.endAt <= clock.now()) say(response, 410, 'This appointment is over', 'What has been can be neither moved nor cancelled.');
    else return booking;
    return undefined;
  }

  /** What the appointment was booked on, if that can still be booked. */
  function elementOf(request: Request, { stepId, elementId }: BookingRow): ElementOf<'appointment'> | null {
    const elementOn = (page: PageDocument) => findElement(page, elementId)?.element;
    const live = services.live.stepHaving(stepId, whoOf(services, request), (page) => elementOn(page) !== undefined);
    const element = live && elementOn(live.page);
    return element && isElementOf(element, 'appointment') ? element : null;
  }

  function show(request: Request, response: Response, booking: BookingRow, { error = '', moved = false } = {}) {
    const element = elementOf(request, booking);
    const { timeZone } = loadShop(db).settings;
    const path = bookingPath(services, booking.id);
    const plan: SectionPlan = {
      name: 'Appointment',
      width: 'narrow',
      columns: one(
        headlinePart(1, 'medium', words(moved ? 'Your appointment was moved' : booking.subject)),
        textPart('lead', words(`${whenWords(booking, timeZone)}${booking.place ? `. ${booking.place}` : ''}`)),
        part('button', { words: words('Cancel the appointment'), style: 'quiet' }),
      ),
    };
    const make = (kind: Parameters<typeof newId>[1]) => newId(clock, kind);
    const section = buildSection(plan, make);
    if (element) section.columns[0]?.elements.push(element);
    const page: PageDocument = {
      version: PAGE_VERSION,
      title: booking.subject,
      description: '',
      indexed: false,
      sections: [buildSection(header(), make), section],
    };
    const appointments = element ? appointmentsOn(services, page, `${path}/move`, booking.id) : {};
    const own = element && appointments[element.id];
    if (own) Object.assign(own, { isMove: true, errors: error ? { slot: error } : {} });
    return response
      .status(error ? 422 : 200)
      .set('cache-control', 'private, no-store')
      .type('html')
      .send(renderOwnPage(services, page, { appointments, sendsTo: `${path}/cancel` }, [scriptUrl(services.config, 'page')]));
  }

  router.get(at, (request, response) => {
    const booking = open(request, response);
    if (booking) show(request, response, booking);
  });
  router.post(`${at}/move`, limit, bodies, (request, response) => {
    const booking = open(request, response);
    if (!booking) return;
    const element = elementOf(request, booking);
    const result = element ? moveAppointment(services, element, booking, request.body) : { error: 'No other time can be booked just now.' };
    if ('error' in result) show(request, response, booking, { error: result.error });
    else show(request, response, result, { moved: true });
  });
  router.post(`${at}/cancel`, limit, (request, response) => {
    const booking = open(request, response);
    if (!booking) return;
    cancelAppointment(services, booking.id, 'buyer');
    say(response, 200, 'Your appointment is cancelled', 'We have been told as well, and its time is free again. You can book another one at any time.');
  });
  return router;
}
