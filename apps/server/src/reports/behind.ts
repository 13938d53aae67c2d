import type { Behind, BehindQuery } from '@ruta/core/reports';
import { shiftDay } from '@ruta/core/reports';
import { fromLocalTime, momentFinder } from '@ruta/core/shop';
import { type SQL, sql } from 'drizzle-orm';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { GROUPINGS } from './groups';
import { scopeOf } from './report';
import { QUARTER_MS, REFUNDED, type Scope, soldLines } from './scope';

/** So many orders are listed; the count and the sum are of all. */
const MOST = 200;

interface Row {
  id: string;
  number: number | null;
  paidAt: number;
  name: string;
  email: string;
  contactId: string | null;
  goods: string;
  revenue: number;
}

/** The orders that a row of a report is made of, with what of each counts there. */
export function behind(services: Tracked, query: BehindQuery): Behind {
  const { db } = services;
  const scope = narrowed(scopeOf(services, query, query), query, loadShop(db).settings.timeZone);
  const isRow = rowOf(query, loadShop(db).settings.timeZone);
  if (isRow === null) return { count: 0, revenue: 0, orders: [] };
  const rows = db.all<Row>(
    sql`SELECT o.id, o.number, o.paid_at AS paidAt, trim(o.first_name || ' ' || coalesce(json_extract(o.buyer, '$.lastName'), '')) AS name, o.email,
        o.contact_id AS contactId, o.goods, sum(l.net - ${REFUNDED}) AS revenue
        FROM ${soldLines(scope)} AND o.total > 0 ${isRow} GROUP BY o.id ORDER BY o.paid_at DESC, o.id DESC`,
  );
  return { count: rows.length, revenue: rows.reduce((sum, { revenue }) => sum + revenue, 0), orders: rows.slice(0, MOST) };
}

/** A day is a period of its own. */
function narrowed(scope: Scope, { by, key }: BehindQuery, timeZone: string): Scope {
  if (by !== 'day' && by !== 'cart') return scope;
  const [from, until] = [fromLocalTime(key, timeZone), fromLocalTime(/^\d{4}-\d{2}-\d{2}$/.test(key) ? shiftDay(key, 1) : '', timeZone)];
  return { ...scope, from: Math.max(scope.from, from ?? scope.until), until: Math.min(scope.until, until ?? scope.until) };
}

/** What lines must have to be of a row; null where no order is behind it. */
function rowOf({ by, key, from, to }: BehindQuery, timeZone: string): SQL | null {
  if (by === 'day') return sql``;
  if (by === 'hour') return sql`AND p.paid_at / ${QUARTER_MS} IN (SELECT value FROM json_each(${JSON.stringify(quartersOf(key, from, to, timeZone))}))`;
  const grouping = GROUPINGS[by === 'spend' ? 'campaign' : by];
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
