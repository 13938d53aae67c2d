import type { ListPage } from '@ruta/core/lists';
import type { OrderListQuery, OrderRow as OrderListRow } from '@ruta/core/orders';
import { and, eq, isNotNull, or, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { countRows, keyset, pageOf, rowsOf, searched } from '../base/list';
import { productIdsByCode } from '../catalog/search';
import { funnels } from '../funnel/tables';
import { withinDays } from '../shop/days';
import { charges, orderLines, orders } from './tables';

/** Orders as lists sort them. */
export const ORDER_SORTING = { columns: { paid: orders.paidAt, number: orders.number, total: orders.total, email: orders.email }, id: orders.id };

const isDisputed = sql`EXISTS (SELECT 1 FROM ${charges} c WHERE c.order_id = orders.id AND c.dispute = 'open')`;

/** One page of paid orders, newest first; of all without gifts, of one contact with them. */
export function listOrders(db: Db, query: OrderListQuery): ListPage<OrderListRow> {
  const key = keyset(ORDER_SORTING, query);
  const fields = {
    id: orders.id,
    number: orders.number,
    paidAt: orders.paidAt,
    disputed: isDisputed,
    firstName: orders.firstName,
    email: orders.email,
    state: orders.state,
    goods: orders.goods,
    funnelName: sql`coalesce((SELECT f.name FROM ${funnels} f WHERE f.id = orders.funnel_id), '')`,
    total: orders.total,
    currency: orders.currency,
    mode: orders.mode,
    sorted: key.column,
  };
  const read = db
    .select(fields)
    .from(orders)
    .where(and(ordersMeant(db, query), key.after))
    .orderBy(...key.order)
    .limit(key.limit);
  const rows = rowsOf<Omit<OrderListRow, 'disputed'> & { disputed: number; sorted: string | number }>(fields, read.values());
  const page = pageOf(rows, key, (row) => row.sorted);
  return { ...page, rows: page.rows.map((row) => ({ ...row, disputed: row.disputed === 1 })) };
}

export const countOrders = (db: Db, query: OrderListQuery): number => countRows(db, orders, ordersMeant(db, query));

/** The paid orders that a list is asked for, in SQL. */
export function ordersMeant(db: Db, { contactId, mode, state, from, until, productId, funnelId, country, search }: OrderListQuery): SQL | undefined {
  // Names stand in the order; labels and SKUs are the products'.
  const ofProducts = productIdsByCode(search);
  return and(
    isNotNull(orders.paidAt),
    contactId === undefined ? isNotNull(orders.number) : eq(orders.contactId, contactId),
    mode && eq(orders.mode, mode),
    state && (state === 'disputed' ? isDisputed : eq(orders.state, state)),
    withinDays(db, orders.paidAt, { from, until }),
    funnelId === undefined ? undefined : eq(orders.funnelId, funnelId),
    productId === undefined ? undefined : sql`${orders.id} IN (SELECT ${orderLines.orderId} FROM ${orderLines} WHERE ${orderLines.productId} = ${productId})`,
    country === undefined ? undefined : sql`json_extract(${orders.buyer}, '$.country') = ${country}`,
    or(
      searched(search, [orders.number, orders.email, orders.firstName, orders.goods]),
      ofProducts && sql`${orders.id} IN (SELECT ${orderLines.orderId} FROM ${orderLines} WHERE ${orderLines.productId} IN ${ofProducts})`,
    ),
  );
}
