import { CountSchema } from '@ruta/core/lists';
import {
  NewOrderNoteSchema,
  OrderAddressSchema,
  OrderDetailSchema,
  OrderListQuerySchema,
  OrderNoteSchema,
  OrderPageSchema,
  QueuedSchema,
  SettledSchema,
} from '@ruta/core/orders';
import { and, eq, or } from 'drizzle-orm';
import { z } from 'zod';
import type { Api } from '../base/api';
import { sendAgain } from '../base/outbox/outbox';
import { outboxWords } from '../base/outbox/registry';
import { outbox } from '../base/outbox/tables';
import { sendInParts } from '../base/sendFile';
import type { Services } from '../base/services';
import { funnelNames } from '../funnel/store';
import { currentUser } from '../team/access';
import { storyOf } from '../tracking/story';
import { events } from '../tracking/tables';
import { orderAddress } from './address';
import { listOrders } from './list';
import { addNote, correctAddress, notesOf, removeNote } from './notes';
import { proofOf, settleProof } from './proofs';
import { refundsOf } from './refunded';
import { chargesOfOrder, linesOf, loadOrder, openTroubles, paymentsOf } from './store';

export function orderRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/orders', summary: 'Paid orders, page by page', query: OrderListQuerySchema, response: OrderPageSchema }, ({ query }) =>
    listOrders(db, query),
  );
  api.on(
    { method: 'get', path: '/orders/count', summary: 'How many orders a list has', query: OrderListQuerySchema, response: CountSchema },
    async ({ query }) => ({
      count: await services.reading.ask<number>('countOrders', query),
    }),
  );
  api.on({ method: 'get', path: '/orders/export', summary: 'The orders of a list as CSV', query: OrderListQuerySchema }, ({ query, response }) =>
    sendInParts(response, 'orders.csv', (after) => services.reading.ask<{ csv: string; next: string | null }>('ordersCsv', { ...query, after })),
  );
  api.on(
    { method: 'post', path: '/orders/:id/notes', summary: 'Write something down about an order', body: NewOrderNoteSchema, response: z.array(OrderNoteSchema) },
    ({ params, body, request }) => {
      const { id } = loadOrder(db, params.id ?? '');
      addNote(services, id, body.text, currentUser(services, request)?.id ?? null);
      return notesOf(db, id);
    },
  );
  api.on({ method: 'delete', path: '/orders/:id/notes/:noteId', summary: 'Remove a note', response: z.array(OrderNoteSchema) }, ({ params }) => {
    removeNote(db, params.id ?? '', params.noteId ?? '');
    return notesOf(db, params.id ?? '');
  });
  api.on(
    {
      method: 'put',
      path: '/orders/:id/address',
      summary: 'Correct the name and postal address of an order',
      body: OrderAddressSchema,
      response: OrderAddressSchema,
    },
    ({ params, body, request }) => {
      correctAddress(services, params.id ?? '', body, currentUser(services, request)?.id ?? null);
      return body;
    },
  );
  api.on({ method: 'get', path: '/orders/:id', summary: 'One order with its payments and its story', response: OrderDetailSchema }, ({ params }) => {
    const order = loadOrder(db, params.id ?? '');
    const charges = chargesOfOrder(db, order.id);
    const sent = db.select().from(outbox).where(eq(outbox.orderId, order.id)).all();
    // From the buyer's first step into the funnel on, not only from the payment.
    const ofBuyer = order.visitorId ? and(eq(events.visitorId, order.visitorId), eq(events.funnelId, order.funnelId)) : undefined;
    return {
      ...order,
      funnelName: funnelNames(db, [order.funnelId]).get(order.funnelId) ?? '',
      orderUrl: orderAddress(services, order.token),
      lines: linesOf(db, order.id).map((line) => ({
        ...line,
        isAtProcessor: charges.some((charge) => charge.paymentId === line.paymentId && charge.state === 'captured' && charge.accountId !== null),
      })),
      refunds: refundsOf(db, order.id),
      notes: notesOf(db, order.id),
      troubles: openTroubles(db, order.id),
      taxNumberProof: proofOf(db, order.id) ?? null,
      payments: paymentsOf(db, order.id).map((payment) => ({ ...payment, charges: charges.filter((charge) => charge.paymentId === payment.id) })),
      mails: sent.flatMap(({ kind, payload, ...row }) => {
        const words = outboxWords(kind, payload);
        return words ? [{ ...row, ...words }] : [];
      }),
      story: storyOf(services, or(eq(events.orderId, order.id), ofBuyer), eq(outbox.orderId, order.id)),
    };
  });
  api.on(
    {
      method: 'post',
      path: '/orders/:id/tax-number/settled',
      summary: 'Note that a number the register does not know was dealt with',
      response: SettledSchema,
    },
    ({ params }) => ({ settled: settleProof(db, loadOrder(db, params.id ?? '').id) }),
  );
  api.on({ method: 'post', path: '/outbox/:id/again', summary: 'Send something again that gave up', response: QueuedSchema }, ({ params }) => {
    sendAgain(services, params.id ?? '');
    return { queued: true };
  });
}
