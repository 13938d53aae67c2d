import {
  type AppointmentListQuery,
  AppointmentListQuerySchema,
  AppointmentPageSchema,
  type AppointmentRow,
  AppointmentRowSchema,
} from '@ruta/core/appointments';
import { CountSchema, type ListPage } from '@ruta/core/lists';
import { and, count, eq, gt, isNotNull, isNull, lte, sql } from 'drizzle-orm';
import { bookings } from '../appointments/tables';
import { tellBoth } from '../appointments/tell';
import type { Api } from '../base/api';
import type { Db } from '../base/db';
import { keyset, pageOf, searched } from '../base/list';
import { notFound, Refusal } from '../base/problem';
import type { LiveServices } from '../funnel/live';
import type { Tracked } from '../tracking/recorder';
import { makeEvent } from '../tracking/visitor';
import { contacts } from './tables';

const FIELDS = {
  id: bookings.id,
  subject: bookings.subject,
  place: bookings.place,
  startAt: bookings.startAt,
  endAt: bookings.endAt,
  cancelledAt: bookings.cancelledAt,
  mode: bookings.mode,
  contactId: bookings.contactId,
  firstName: contacts.firstName,
  lastName: contacts.lastName,
  email: contacts.email,
};

function wanted({ list, search }: Pick<AppointmentListQuery, 'list' | 'search'>, now: number) {
  const lists = {
    upcoming: and(isNull(bookings.cancelledAt), gt(bookings.endAt, now)),
    past: and(isNull(bookings.cancelledAt), lte(bookings.endAt, now)),
    cancelled: isNotNull(bookings.cancelledAt),
  };
  return and(lists[list], searched(search, [bookings.subject, contacts.firstName, contacts.lastName, contacts.email]));
}

const joined = (db: Db) => db.select(FIELDS).from(bookings).innerJoin(contacts, eq(contacts.id, bookings.contactId));

function listAppointments(db: Db, query: AppointmentListQuery, now: number): ListPage<AppointmentRow> {
  const asked = keyset({ columns: { start: bookings.startAt }, id: bookings.id }, query);
  const rows = joined(db)
    .where(and(wanted(query, now), asked.after))
    .orderBy(...asked.order)
    .limit(asked.limit)
    .all();
  return pageOf(rows, asked, (row) => row.startAt);
}

const countAppointments = (db: Db, query: AppointmentListQuery, now: number): number =>
  db.select({ rows: count() }).from(bookings).innerJoin(contacts, eq(contacts.id, bookings.contactId)).where(wanted(query, now)).get()?.rows ?? 0;

/**
 * Cancels an appointment: its time is free again, and both are told. Done twice it is done once.
 * @throws Refusal 404 if there is none, 409 if it is over
 */
export function cancelAppointment(services: Tracked & LiveServices, id: string, by: 'buyer' | 'seller' = 'seller'): AppointmentRow {
  const { db, clock, recorder } = services;
  const now = clock.now();
  const row = joined(db).where(eq(bookings.id, id)).get();
  if (!row) throw notFound('This appointment');
  if (row.cancelledAt !== null) return row;
  if (row.endAt <= now) throw new Refusal(409, 'This appointment is over. What has been cannot be cancelled.');
  const booking = db.select().from(bookings).where(eq(bookings.id, id)).get();
  db.transaction((tx) => {
    // Marked with its condition: pressed twice, it is done once.
    const unless = and(eq(bookings.id, id), isNull(bookings.cancelledAt));
    const changed = tx
      .update(bookings)
      .set({ cancelledAt: now, changes: sql`${bookings.changes} + 1` })
      .where(unless)
      .returning()
      .get();
    if (!changed) return;
    tellBoth(tx, services, changed, { name: row.firstName, email: row.email }, 'cancelled', by);
    recorder.record(
      makeEvent(services, 'appointment.cancelled', row.mode, null, {
        funnelId: (booking && services.live.step(booking.stepId)?.publication.funnelId) ?? null,
        stepId: booking?.stepId ?? null,
        contactId: row.contactId,
        data: { bookingId: id, at: row.startAt },
      }),
    );
  });
  return { ...row, cancelledAt: now };
}

export function appointmentRoutes(api: Api, services: Tracked & LiveServices): void {
  const { db, clock } = services;
  api.on(
    { method: 'get', path: '/appointments', summary: 'Appointments, page by page', query: AppointmentListQuerySchema, response: AppointmentPageSchema },
    ({ query }) => listAppointments(db, query, clock.now()),
  );
  api.on(
    { method: 'get', path: '/appointments/count', summary: 'How many appointments a list has', query: AppointmentListQuerySchema, response: CountSchema },
    ({ query }) => ({ count: countAppointments(db, query, clock.now()) }),
  );
  api.on({ method: 'post', path: '/appointments/:id/cancel', summary: 'Cancel an appointment', response: AppointmentRowSchema }, ({ params }) =>
    cancelAppointment(services, params.id ?? ''),
  );
}
