import type { DimensionName, Figures } from '@ruta/core/reports';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { groupingOf } from './groups';
import { REFUNDED, type Scope, soldLines, soldOrders, soldPayments } from './scope';

/** Reports that count what was handed out, gifts too. */
export const countsGifts = (by: DimensionName | null): boolean => by === 'product' || by === 'price';

/** What was sold, by the keys of a dimension; without one it is the total under one key. */
export function salesBy(db: Db, by: DimensionName | null, scope: Scope, withGifts = countsGifts(by)): Map<string, Figures> {
  const grouping = by === null ? { ofLines: sql`''`, ofOrders: sql`''` } : groupingOf(by, scope);
  const found = new Map<string, Figures>();
  if (!grouping) return found;
  const add = (key: unknown, figures: Figures) => {
    const name = String(key ?? '');
    found.set(name, { ...found.get(name), ...figures });
  };
  const { ofLines, ofOrders } = grouping as { ofLines: ReturnType<typeof sql>; ofOrders?: ReturnType<typeof sql> };
  const lines = db.all<{ key: string; net: number; refunded: number; quantity: number; orders: number }>(
    sql`SELECT ${ofLines} AS key, sum(l.net) AS net, sum(${REFUNDED}) AS refunded, sum(l.quantity) AS quantity, count(DISTINCT CASE WHEN o.total > 0 THEN o.id END) AS orders
        FROM ${soldLines(scope, withGifts)} GROUP BY 1`,
  );
  for (const { key, net, refunded, quantity, orders } of lines) {
    add(key, { revenue: net - refunded, refunded, ...(withGifts ? { quantity } : {}), ...(ofOrders ? {} : { orders }) });
  }
  if (ofOrders) {
    const orders = db.all<{ key: string; orders: number; value: number }>(
      sql`SELECT ${ofOrders} AS key, count(*) AS orders, sum(o.net_goods) AS value FROM ${soldOrders(scope)} GROUP BY 1`,
    );
    for (const { key, orders: count, value } of orders) add(key, { orders: count, orderValue: value });
  }
  if (by === 'code') {
    const given = db.all<{ key: string; discount: number }>(
      sql`SELECT coalesce(o.code_id, '') AS key, sum(coalesce(json_extract(p.quote, '$.discount'), 0)) AS discount
          FROM ${soldPayments(scope)} AND o.code_id IS NOT NULL GROUP BY 1`,
    );
    for (const { key, discount } of given) add(key, { discount });
  }
  return found;
}
