import { CountSchema } from '@ruta/core/lists';
import { OrderDetailSchema, OrderListQuerySchema, OrderPageSchema, QueuedSchema } from '@ruta/core/orders';
import { and, eq, or } from 'drizzle-orm';
import type { Api } from '../base/api';
import { sendAgain } from '../base/outbox/outbox';
import { outboxWords } from '../base/outbox/registry';
import { outbox } from '../base/outbox/tables';
import type { Services } from '../base/services';
import { funnelNames } from '../funnel/store';
import { storyOf } from '../tracking/story';
import { events } from '../tracking/tables';
import { orderAddress } from './address';
import { refundsOf } from './refunded';
import { chargesOfOrder, countOrders, linesOf, listOrders, loadOrder, paymentsOf } from './store';

export function orderRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/orders', summary: 'Paid orders, page by page', query: OrderListQuerySchema, response: OrderPageSchema }, ({ query }) =>
    listOrders(db, query),
  );
  api.on({ method: 'get', path: '/orders/count', summary: 'How many orders a list has', query: OrderListQuerySchema, response: CountSchema }, ({ query }) => ({
    count: countOrders(db, query),
  }));
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
      payments: paymentsOf(db, order.id).map((payment) => ({ ...payment, charges: charges.filter((charge) => charge.paymentId === payment.id) })),
      mails: sent.flatMap(({ kind, payload, ...row }) => {
        const words = outboxWords(kind, payload);
        return words ? [{ ...row, ...words }] : [];
      }),
      story: storyOf(services, or(eq(events.orderId, order.id), ofBuyer), eq(outbox.orderId, order.id)),
    };
  });
  api.on({ method: 'post', path: '/outbox/:id/again', summary: 'Send something again that gave up', response: QueuedSchema }, ({ params }) => {
    sendAgain(services, params.id ?? '');
    return { queued: true };
  });
}
