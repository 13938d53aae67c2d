import { mergedQuote } from '@ruta/core/pricing';
import type { OrderView, PageContext } from '@ruta/pages';
import { and, eq, isNull } from 'drizzle-orm';
import type { Services } from '../base/services';
import { refundsOf } from '../orders/refunded';
import { countedQuotes, isPaid, type OrderRow } from '../orders/store';
import { orders } from '../orders/tables';
import { formatBytes } from './formatBytes';
import { downloadLink } from './links';
import { received } from './received';
import { grantsOf } from './store';

/** An order as its buyer sees it, with fresh links to its files and to those of gifts from the same funnel. */
export function orderView(services: Services, order: OrderRow): Pick<PageContext, 'order' | 'buyer'> {
  const { db } = services;
  const gifts = order.contactId
    ? db
        .select({ id: orders.id })
        .from(orders)
        .where(and(eq(orders.contactId, order.contactId), eq(orders.funnelId, order.funnelId), isPaid, isNull(orders.number)))
        .all()
        .map(({ id }) => id)
    : [];
  const view: OrderView = {
    number: order.number === null ? '' : String(order.number),
    test: order.mode === 'test',
    quote: mergedQuote(countedQuotes(db, order.id)),
    refunded: refundsOf(db, order.id).reduce((sum, { state, amount }) => (state === 'done' ? sum + amount : sum), 0),
    downloads: grantsOf(db, [...new Set([order.id, ...gifts])])
      // What has ended, or was taken back with its money, is not held out any more.
      .filter(({ until }) => until === null || until > services.clock.now())
      // What was just bought stands first, gifts after it.
      .sort((a, b) => Number(b.orderId === order.id) - Number(a.orderId === order.id))
      .map((grant) => ({ name: grant.name, size: formatBytes(grant.bytes), url: downloadLink(services, grant.id, 'page'), from: grant.from })),
    ...received(services, order),
  };
  return { order: view, buyer: { firstName: order.buyer.firstName } };
}
