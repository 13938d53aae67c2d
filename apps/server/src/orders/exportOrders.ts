import { writeCsv } from '@ruta/core/formats';
import { type Currency, toDecimal } from '@ruta/core/money';
import type { Buyer, OrderListQuery } from '@ruta/core/orders';
import { toLocalTime } from '@ruta/core/shop';
import { and, getTableColumns, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { keyset, pageOf } from '../base/list';
import { funnels } from '../funnel/tables';
import { loadShop } from '../shop/store';
import { ORDER_SORTING, ordersMeant } from './list';
import { orderLines, orders } from './tables';

const AT_ONCE = 2000;
const COLUMNS = [
  ...['order_number', 'paid_at', 'state', 'mode', 'first_name', 'last_name', 'email', 'country', 'region', 'street', 'postcode', 'city', 'tax_number'],
  ...['products', 'net_goods', 'tax', 'total', 'refunded', 'currency', 'discount_code', 'funnel', 'source', 'medium', 'campaign', 'content', 'term'],
];

/**
 * Orders of a list as CSV, as many at once as can be read without anybody waiting: everything that the list shows, in its
 * order. Moments are the shop's local time, amounts decimals of their currency; `refunded` includes tax and shipping.
 * @returns the lines, with the header before the first ones, and where to go on; null at the end
 */
export function ordersCsv(db: Db, query: OrderListQuery): { csv: string; next: string | null } {
  const { timeZone } = loadShop(db).settings;
  const key = keyset(ORDER_SORTING, { ...query, limit: AT_ONCE });
  const rows = db
    .select({
      ...getTableColumns(orders),
      sorted: key.column,
      funnel: sql<string>`coalesce((SELECT f.name FROM ${funnels} f WHERE f.id = orders.funnel_id), '')`,
      // By its name: codes know of orders, and not the other way round.
      code: sql<string>`coalesce((SELECT c.code FROM codes c WHERE c.id = orders.code_id), '')`,
      refunded: sql<number>`coalesce((SELECT sum(l.refunded) FROM ${orderLines} l WHERE l.order_id = orders.id AND l.part_of IS NULL), 0)`,
    })
    .from(orders)
    .where(and(ordersMeant(db, query), key.after))
    .orderBy(...key.order)
    .limit(key.limit)
    .all();
  const page = pageOf(rows, key, (row) => row.sorted as string | number);
  const lines = page.rows.map((order) => {
    const { buyer, campaign, paidAt } = order;
    const { address }: Buyer = buyer;
    const money = (amount: number) => toDecimal(amount, order.currency as Currency);
    return [
      ...[String(order.number ?? ''), paidAt === null ? '' : toLocalTime(paidAt, timeZone).replace('T', ' '), order.state, order.mode],
      ...[buyer.firstName, buyer.lastName, buyer.email, buyer.country, buyer.region ?? ''],
      ...[address?.street ?? '', address?.postcode ?? '', address?.city ?? '', buyer.taxNumber ?? '', order.goods],
      ...[money(order.netGoods), money(order.tax), money(order.total), money(order.refunded), order.currency, order.code, order.funnel],
      ...(['source', 'medium', 'campaign', 'content', 'term'] as const).map((name) => campaign?.[name] ?? ''),
    ];
  });
  const csv = writeCsv(COLUMNS, lines);
  // Only the first lines come with the header.
  return { csv: query.after === undefined ? csv : csv.slice(csv.indexOf('\r\n') + 2), next: page.next };
}
