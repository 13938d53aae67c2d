import { type Condition, truthOf } from '@ruta/core/conditions';
import { and, eq, sql } from 'drizzle-orm';
import { gatherFacts } from '../facts/gather';
import { orders } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { visitors } from '../tracking/tables';
import type { Scope } from './scope';

/**
 * The orders with a payment in a period for which a condition held when they were paid, by what is known of their buyer.
 * Orders and visitors are read at once; what dearer questions ask is looked up order by order, and only then.
 * @param withGifts whether orders of nothing are asked too: in a shop that collects addresses they are most
 * @returns their ids as JSON
 */
export function ordersFor(services: Tracked, filter: Condition, { from, until }: Pick<Scope, 'from' | 'until'>, withGifts: boolean): string {
  const { db } = services;
  services.recorder.flush();
  const paid = db
    .select({ order: orders, visitor: visitors })
    .from(orders)
    .leftJoin(visitors, eq(visitors.id, orders.visitorId))
    .where(
      and(
        eq(orders.mode, 'live'),
        sql`${orders.id} IN (SELECT p.order_id FROM payments p WHERE +p.state = 'paid' AND p.paid_at >= ${from} AND p.paid_at < ${until} ${withGifts ? sql`` : sql`AND p.amount > 0`})`,
      ),
    )
    .all();
  const ids = paid.flatMap(({ order, visitor }) =>
    truthOf(filter, gatherFacts(services, { order, visitor, at: order.paidAt ?? until })) === true ? [order.id] : [],
  );
  return JSON.stringify(ids);
}
