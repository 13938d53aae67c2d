import { ModeSchema, QuoteSchema } from '@ruta/core';
import { and, desc, eq, isNotNull, or, type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { findContact } from '../contacts/store';
import { contacts } from '../contacts/tables';
import { funnels, steps } from '../funnel/tables';
import type { Api } from '../http/api';
import { notFound } from '../http/problem';
import { type OutboxRow, sendAgain } from '../outbox/outbox';
import { outbox } from '../outbox/tables';
import type { Services } from '../services';
import { orderAddress } from '../site/links';
import { received } from '../site/orderView';
import { events } from '../tracking/tables';
import { chargesOf, grantsOf, loadOrder } from './store';
import { orders } from './tables';

const OrderRowSchema = z.object({
  id: z.string(),
  number: z.int().nullable().describe('Null for a gift'),
  paidAt: z.int(),
  firstName: z.string(),
  email: z.string(),
  goods: z.string(),
  funnelName: z.string(),
  total: z.int(),
  currency: z.string(),
  mode: ModeSchema,
});
export type OrderListRow = z.infer<typeof OrderRowSchema>;

const StoryEntrySchema = z.object({ at: z.int(), kind: z.string(), detail: z.record(z.string(), z.unknown()) });

const OrderDetailSchema = z.object({
  id: z.string(),
  number: z.int().nullable(),
  state: z.enum(['open', 'paid']),
  mode: ModeSchema,
  paidAt: z.int().nullable(),
  createdAt: z.int(),
  buyer: z.object({
    email: z.string(),
    firstName: z.string(),
    lastName: z.string(),
    country: z.string(),
    region: z.string().optional(),
    taxNumber: z.string().optional(),
    address: z.object({ street: z.string(), postcode: z.string(), city: z.string() }).optional(),
  }),
  contactId: z.string().nullable(),
  funnelId: z.string(),
  funnelName: z.string(),
  campaign: z.record(z.string(), z.string()).nullable(),
  quote: QuoteSchema,
  orderUrl: z.string(),
  charges: z.array(
    z.object({
      id: z.string(),
      state: z.string(),
      amount: z.int(),
      provider: z.string(),
      providerChargeId: z.string().nullable(),
      cardLast4: z.string().nullable(),
      failure: z.string().nullable(),
      createdAt: z.int(),
    }),
  ),
  keys: z.array(z.object({ value: z.string(), from: z.string() })),
  links: z.array(z.object({ words: z.string(), url: z.string(), from: z.string() })),
  files: z.array(z.object({ id: z.string(), name: z.string(), downloads: z.int(), maxDownloads: z.int().nullable() })),
  mails: z.array(
    z.object({
      id: z.string(),
      to: z.string(),
      subject: z.string(),
      sentAt: z.int().nullable(),
      failedAt: z.int().nullable(),
      lastError: z.string().nullable(),
    }),
  ),
  story: z.array(StoryEntrySchema),
});

const ContactRowSchema = z.object({
  id: z.string(),
  email: z.string(),
  firstName: z.string(),
  lastName: z.string(),
  country: z.string().nullable(),
  createdAt: z.int(),
  orders: z.int(),
  paid: z.int(),
});
const ContactDetailSchema = ContactRowSchema.extend({
  answers: z.record(z.string(), z.string()),
  campaign: z.record(z.string(), z.string()).nullable(),
  orderList: z.array(OrderRowSchema),
  story: z.array(StoryEntrySchema),
});

const LIST_LIMIT = 5000;

/** Orders, contacts and what was sent to them. */
export function salesRoutes(api: Api, services: Services): void {
  const { db } = services;

  const listed = () =>
    db
      .select({ order: orders, funnelName: funnels.name })
      .from(orders)
      .innerJoin(funnels, eq(funnels.id, orders.funnelId))
      .orderBy(desc(orders.paidAt))
      .$dynamic();
  const toRow = ({ order, funnelName }: { order: typeof orders.$inferSelect; funnelName: string }): OrderListRow => ({
    id: order.id,
    number: order.number,
    paidAt: order.paidAt ?? 0,
    firstName: order.buyer.firstName,
    email: order.buyer.email,
    goods: order.quote.lines.map((line) => line.name).join(', '),
    funnelName,
    total: order.total,
    currency: order.currency,
    mode: order.mode,
  });

  api.on({ method: 'get', path: '/orders', summary: 'Paid orders, newest first, without gifts', response: z.array(OrderRowSchema) }, () =>
    listed()
      .where(and(isNotNull(orders.paidAt), isNotNull(orders.number)))
      .limit(LIST_LIMIT)
      .all()
      .map(toRow),
  );

  api.on({ method: 'get', path: '/orders/:id', summary: 'One order with its story', response: OrderDetailSchema }, ({ params }) => {
    const order = loadOrder(db, params.id ?? '');
    const funnel = db.select().from(funnels).where(eq(funnels.id, order.funnelId)).get();
    const mails = db.select().from(outbox).where(eq(outbox.orderId, order.id)).all();
    return {
      ...order,
      funnelName: funnel?.name ?? '',
      orderUrl: orderAddress(services, order.token),
      charges: chargesOf(db, order.id),
      files: grantsOf(db, [order.id]).map(({ id, name, downloads, maxDownloads }) => ({ id, name, downloads, maxDownloads })),
      ...received(services, order),
      mails: mails
        .filter((row) => row.kind === 'mail' || row.kind === 'course')
        .map((row) => ({
          id: row.id,
          to: String(row.kind === 'mail' ? row.payload.to : row.payload.email),
          subject: row.kind === 'mail' ? String(row.payload.subject) : `Enrolment in the course ${String(row.payload.courseId)}`,
          sentAt: row.sentAt,
          failedAt: row.failedAt,
          lastError: row.lastError,
        })),
      story: withMails(
        // From the buyer's first step into the funnel on, not only from the payment.
        storyOf(
          or(eq(events.orderId, order.id), order.visitorId ? and(eq(events.visitorId, order.visitorId), eq(events.funnelId, order.funnelId)) : undefined),
        ),
        mails,
      ),
    };
  });

  api.on(
    { method: 'post', path: '/outbox/:id/again', summary: 'Send a mail again that gave up', response: z.object({ queued: z.boolean() }) },
    ({ params }) => {
      sendAgain(services, params.id ?? '');
      return { queued: true };
    },
  );

  const contactRows = () =>
    db
      .select({
        contact: contacts,
        orders: sql<number>`count(case when ${orders.state} = 'paid' and ${orders.total} > 0 then 1 end)`,
        paid: sql<number>`coalesce(sum(case when ${orders.state} = 'paid' then ${orders.total} end), 0)`,
      })
      .from(contacts)
      .leftJoin(orders, eq(orders.contactId, contacts.id))
      .groupBy(contacts.id)
      .orderBy(desc(contacts.createdAt))
      .$dynamic();
  type ContactRow = ReturnType<ReturnType<typeof contactRows>['all']>[number];
  const toContact = ({ contact, orders: count, paid }: ContactRow) => ({ ...contact, orders: count, paid });

  api.on({ method: 'get', path: '/contacts', summary: 'Contacts, newest first', response: z.array(ContactRowSchema) }, () =>
    contactRows()
      .limit(LIST_LIMIT)
      .all()
      .map((row) => {
        const { answers: _answers, campaign: _campaign, ...rest } = toContact(row);
        return rest;
      }),
  );

  api.on({ method: 'get', path: '/contacts/:id', summary: 'Everything one person did', response: ContactDetailSchema }, ({ params }) => {
    const id = params.id ?? '';
    if (!findContact(db, id)) throw notFound('This contact');
    const row = contactRows().where(eq(contacts.id, id)).get() as ContactRow;
    return {
      ...toContact(row),
      orderList: listed()
        .where(and(eq(orders.contactId, id), isNotNull(orders.paidAt)))
        .all()
        .map(toRow),
      story: withMails(storyOf(eq(events.contactId, id)), db.select().from(outbox).where(eq(outbox.contactId, id)).all()),
    };
  });

  /** Events in order, each with the name of the stop it happened at. */
  function storyOf(where: SQL | undefined) {
    return db
      .select({ at: events.at, kind: events.kind, data: events.data, stepName: steps.name })
      .from(events)
      .leftJoin(steps, eq(steps.id, events.stepId))
      .where(where)
      .orderBy(events.at)
      .limit(500)
      .all()
      .map(({ at, kind, data, stepName }) => ({ at, kind, detail: { ...data, ...(stepName ? { stop: stepName } : {}) } }));
  }
}

/** A story with the mails that were sent, each at its time. */
function withMails(story: Array<z.infer<typeof StoryEntrySchema>>, mails: OutboxRow[]) {
  const sent = mails.flatMap((mail) =>
    mail.kind === 'mail' && mail.sentAt ? [{ at: mail.sentAt, kind: 'mail.sent', detail: { subject: mail.payload.subject, to: mail.payload.to } }] : [],
  );
  return [...story, ...sent].sort((a, b) => a.at - b.at);
}
