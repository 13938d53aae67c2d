import { isElementOf } from '@ruta/core/elements';
import { findElement, type PageDocument } from '@ruta/core/page';
import express, { Router } from 'express';
import { appointmentsOn } from '../appointments/shown';
import { whoOf } from '../facts/who';
import { type LiveServices, stepPath } from '../funnel/live';
import { renderStep } from '../site/renderStep';
import { seenBy } from '../site/seenPage';
import type { Tracked } from '../tracking/recorder';
import { counts, giveVisitorId, visitorOf } from '../tracking/visitor';
import { bookAppointment } from './bookAppointment';

/** Booking writes two mails, so that few are allowed. */
const BOOKINGS_PER_MINUTE = 10;

/** Booking a time on a page. */
export function appointmentSite(services: Tracked & LiveServices): Router {
  const router = Router();
  const limit = services.limits.middleware(
    { name: 'bookings', most: BOOKINGS_PER_MINUTE, windowMs: 60_000 },
    { message: 'Too many bookings in a short time. Wait a minute, then try again.' },
  );
  router.post('/go/:stepId/appointment', limit, express.urlencoded({ extended: false, limit: '32kb' }), (request, response, next) => {
    const elementOn = (page: PageDocument) => findElement(page, String(request.body?._appointment))?.element;
    const live = services.live.stepHaving(String(request.params.stepId), whoOf(services, request), (page) => elementOn(page) !== undefined);
    const element = live && elementOn(live.page);
    if (!live || !element || !isElementOf(element, 'appointment')) return next();
    giveVisitorId(services, request, response, true);
    const visitor = visitorOf(services, request);
    // A filled decoy is a machine: it is told what everybody is told, and nothing is kept.
    if (typeof request.body.website === 'string' && request.body.website !== '') return response.redirect(303, stepPath(live));
    const result = bookAppointment(services, live, element, request.body, visitor, counts(services, request));
    const actionUrl = `/go/${live.step.id}/appointment`;
    const shown = appointmentsOn(services, live.page, actionUrl);
    const own = shown[element.id];
    if (own) shown[element.id] = 'at' in result ? { ...own, booked: `Booked: ${result.at}` } : { ...own, ...result };
    return response
      .status('at' in result ? 200 : 422)
      .set('cache-control', 'no-store')
      .type('html')
      .send(renderStep(services, seenBy(services, live, { visitor, acceptLanguage: request.get('accept-language') }), { appointments: shown }));
  });
  return router;
}
