import { addFigures, cohortFigures, type Figures, monthOf } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { BEHIND_COLUMNS, type OrderBehind } from './behindColumns';
import { REFUNDED, type Scope } from './scope';

interface Bought {
  boughtAt: number;
  endedAt: number | null;
  paid: number;
}

/**
 * Live subscriptions that were bought in the period; `s` stands for them, `o` for their orders. What of their terms is
 * asked for is read once for each, and not for each of their lines again.
 */
const subscriptions = ({ from, until, funnelId, orderIds }: Scope): SQL => sql`(WITH terms AS MATERIALIZED (
    SELECT order_id, bought_at, ended_at, json_extract(terms, '$.line.productId') AS product_id, coalesce(json_extract(terms, '$.line.priceId'), '') AS price_id
    FROM plans WHERE bought_at >= ${from} AND bought_at < ${until} AND json_extract(terms, '$.line.price.kind') = 'subscription'
  ) SELECT * FROM terms) s JOIN orders o ON o.id = s.order_id
  WHERE o.mode = 'live' ${funnelId ? sql`AND o.funnel_id = ${funnelId}` : sql``} ${orderIds === null ? sql`` : sql`AND o.id IN (SELECT value FROM json_each(${orderIds}))`}`;

/**
 * What one of them has paid so far: the lines of its order with its price. The plus keeps SQLite from looking through all
 * that was ever sold of the product, for each subscriber again.
 */
const PAID = sql`(SELECT coalesce(sum(l.net - ${REFUNDED}), 0) FROM order_lines l
  WHERE l.order_id = s.order_id AND +l.product_id = s.product_id AND coalesce(l.price_id, '') = s.price_id)`;

/** Subscribers by the month in which they began: who stayed for how long, and what they have paid until now. */
export function cohortsBy(db: Db, scope: Scope, dayOf: (at: number) => string, now: number): Map<string, Figures> {
  const rows = db.all<Bought>(sql`SELECT s.bought_at AS boughtAt, s.ended_at AS endedAt, ${PAID} AS paid FROM ${subscriptions(scope)} ORDER BY s.bought_at`);
  const today = dayOf(now);
  const found = new Map<string, Figures>();
  for (const { boughtAt, endedAt, paid } of rows) {
    const began = dayOf(boughtAt);
    const month = monthOf(began);
    const figures = cohortFigures({ began, ended: endedAt === null ? null : dayOf(endedAt), paid }, today);
    found.set(month, addFigures(found.get(month) ?? {}, figures));
  }
  return found;
}

/** The orders by which these subscriptions were bought, the latest first, each with what they have paid until now. */
export function cohortOrders(db: Db, scope: Scope): OrderBehind[] {
  return db.all<OrderBehind>(
    sql`SELECT ${BEHIND_COLUMNS}, sum(${PAID}) AS revenue FROM ${subscriptions(scope)} GROUP BY o.id ORDER BY o.paid_at DESC, o.id DESC`,
  );
}
