import type { Behind, BehindQuery } from '@ruta/core/reports';
import { shiftDay, shiftMonths } from '@ruta/core/reports';
import { fromLocalTime, momentFinder } from '@ruta/core/shop';
import { type SQL, sql } from 'drizzle-orm';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';
import { BEHIND_COLUMNS, type OrderBehind } from './behindColumns';
import { cohortOrders } from './cohorts';
import { groupingOf } from './groups';
import { scopeOf } from './report';
import { QUARTER_MS, REFUNDED, type Scope, soldLines } from './scope';

/** So many orders are listed; the count and the sum are of all. */
const MOST = 200;

/** The orders that a row of a report is made of, with what of each counts there. */
export function behind(services: Looking, query: BehindQuery): Behind {
  const { db } = services;
  const scope = narrowed(scopeOf(services, query, query), query, loadShop(db).settings.timeZone);
  const isRow = rowOf(query, scope, loadShop(db).settings.timeZone);
  if (query.by === 'cohort') return shown(cohortOrders(db, scope));
  if (isRow === null) return { count: 0, revenue: 0, orders: [] };
  const rows = db.all<OrderBehind>(
    sql`SELECT ${BEHIND_COLUMNS}, sum(l.net - ${REFUNDED}) AS revenue
        FROM ${soldLines(scope, true)} AND o.total > 0 ${isRow} GROUP BY o.id ORDER BY o.paid_at DESC, o.id DESC`,
  );
  return shown(rows);
}

const shown = (rows: OrderBehind[]): Behind => ({
  count: rows.length,
  revenue: rows.reduce((sum, { revenue }) => sum + revenue, 0),
  orders: rows.slice(0, MOST),
});

/** A day is a period of its own, and a month. */
function narrowed(scope: Scope, { by, key }: BehindQuery, timeZone: string): Scope {
  if (by !== 'day' && by !== 'cart' && by !== 'cohort') return scope;
  const first = by === 'cohort' ? `${key}-01` : key;
  const next = /^\d{4}-\d{2}-\d{2}$/.test(first) ? (by === 'cohort' ? shiftMonths(first, 1) : shiftDay(first, 1)) : '';
  const [from, until] = [fromLocalTime(first, timeZone), fromLocalTime(next, timeZone)];
  return { ...scope, from: Math.max(scope.from, from ?? scope.until), until: Math.min(scope.until, until ?? scope.until) };
}

/** What lines must have to be of a row; null where no order is behind it. */
function rowOf({ by, key, from, to }: BehindQuery, scope: Scope, timeZone: string): SQL | null {
  if (by === 'day') return sql``;
  if (by === 'hour') return sql`AND p.paid_at / ${QUARTER_MS} IN (SELECT value FROM json_each(${JSON.stringify(quartersOf(key, from, to, timeZone))}))`;
  const grouping = groupingOf(by, scope);
  return grouping ? sql`AND ${grouping.ofLines} = ${key}` : null;
}

/** The quarters of an hour that lie in an hour of the week. */
function quartersOf(key: string, from: string, to: string, timeZone: string): number[] {
  const momentOf = momentFinder(timeZone);
  const first = Math.floor((fromLocalTime(from, timeZone) ?? 0) / QUARTER_MS);
  const last = Math.floor((fromLocalTime(shiftDay(to, 1), timeZone) ?? 0) / QUARTER_MS);
  const found: number[] = [];
  for (let quarter = first; quarter < last; quarter++) {
    const at = quarter * QUARTER_MS;
    const { weekday, hour, date } = momentOf(at);
    if (`${weekday} ${hour}` === key && date <= to) found.push(quarter);
  }
  return found;
}
