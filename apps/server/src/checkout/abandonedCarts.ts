import { ABANDONED_AFTER_MS, type AbandonedCart, type CartCount, type CartListQuery } from '@ruta/core/checkout';
import { writeCsv } from '@ruta/core/formats';
import type { ListPage } from '@ruta/core/lists';
import { toDecimal } from '@ruta/core/money';
import { toLocalTime } from '@ruta/core/shop';
import { and, count, eq, getTableColumns, isNull, lte, or, type SQL, sql } from 'drizzle-orm';
import { keyset, pageOf, searched } from '../base/list';
import type { Services } from '../base/services';
import { productIdsSearched } from '../catalog/search';
import { findProducts } from '../catalog/store';
import { funnelNames } from '../funnel/store';
import { orders } from '../orders/tables';
import { withinDays } from '../shop/days';
import { loadShop } from '../shop/store';
import { carts } from './tables';

const SORTING = { columns: { updated: carts.updatedAt, created: carts.createdAt }, id: carts.id };
const AT_ONCE = 2000;
type Needs = Pick<Services, 'db' | 'clock'>;

/** Live carts with an address that nobody has paid within an hour of their last change. */
const isAbandoned = ({ db, clock }: Needs, { search, funnelId, ...days }: Omit<CartListQuery, 'sort' | 'direction' | 'limit' | 'after'>): SQL | undefined => {
  const ofProducts = productIdsSearched(search);
  return and(
    eq(carts.mode, 'live'),
    isNull(orders.paidAt),
    lte(carts.updatedAt, clock.now() - ABANDONED_AFTER_MS),
    withinDays(db, carts.updatedAt, days),
    funnelId === undefined ? undefined : eq(carts.funnelId, funnelId),
    or(
      searched(
        search,
        ['email', 'firstName', 'lastName'].map((field) => sql`json_extract(${carts.buyer}, ${`$.${field}`})`),
      ),
      ofProducts && sql`EXISTS (SELECT 1 FROM json_each(${carts.lines}) AS line WHERE json_extract(line.value, '$.productId') IN ${ofProducts})`,
    ),
  );
};

/** One page of the abandoned carts, the latest first. */
export function listAbandonedCarts(services: Needs & { siteUrl: string }, query: CartListQuery): ListPage<AbandonedCart> {
  const { page } = readPage(services, query);
  return page;
}

/** The page, with the code that was typed in each cart beside it. */
function readPage(services: Needs & { siteUrl: string }, query: CartListQuery) {
  const { db, siteUrl } = services;
  const key = keyset(SORTING, query);
  const rows = db
    .select({ ...getTableColumns(carts), sorted: key.column })
    .from(carts)
    .leftJoin(orders, eq(orders.cartId, carts.id))
    .where(and(isAbandoned(services, query), key.after))
    .orderBy(...key.order)
    .limit(key.limit)
    .all();
  const read = pageOf(rows, key, (row) => row.sorted as string | number);
  const names = new Map(
    findProducts(db, [...new Set(read.rows.flatMap(({ lines }) => lines.map(({ productId }) => productId)))]).map(({ id, name }) => [id, name]),
  );
  const funnels = funnelNames(
    db,
    read.rows.map(({ funnelId }) => funnelId),
  );
  const page: ListPage<AbandonedCart> = {
    next: read.next,
    rows: read.rows.map(({ id, buyer, lines, total, funnelId, createdAt, updatedAt, token }) => ({
      ...{ id, total, createdAt, updatedAt },
      email: buyer.email ?? '',
      name: [buyer.firstName, buyer.lastName].filter(Boolean).join(' '),
      goods: lines.flatMap(({ productId }) => names.get(productId) ?? []).join(', '),
      funnelName: funnels.get(funnelId) ?? '',
      link: `${siteUrl}/cart/${token}`,
    })),
  };
  return { page, codes: read.rows.map(({ code }) => code ?? '') };
}

/** How many carts a list has, and what they came to together. */
export function countAbandonedCarts(services: Needs, query: Pick<CartListQuery, 'search' | 'from' | 'until' | 'funnelId'>): CartCount {
  const found = services.db
    .select({ count: count(), total: sql<number>`coalesce(sum(${carts.total}), 0)` })
    .from(carts)
    .leftJoin(orders, eq(orders.cartId, carts.id))
    .where(isAbandoned(services, query))
    .get();
  return found ?? { count: 0, total: 0 };
}

const COLUMNS = ['email', 'name', 'abandoned_at', 'items', 'total', 'currency', 'discount_code', 'funnel', 'recovery_link'];

/**
 * Carts of a list as CSV, as many at once as can be read without anybody waiting. Moments are the shop's local time.
 * @returns the lines, with the header before the first ones, and where to go on; null at the end
 */
export function cartsCsv(services: Needs & { siteUrl: string }, query: CartListQuery): { csv: string; next: string | null } {
  const { timeZone, currency } = loadShop(services.db).settings;
  const { page, codes } = readPage(services, { ...query, limit: AT_ONCE });
  const lines = page.rows.map(({ email, name, updatedAt, goods, total, funnelName, link }, at) => [
    ...[email, name, toLocalTime(updatedAt, timeZone).replace('T', ' '), goods],
    ...[total === null ? '' : toDecimal(total, currency), currency, codes[at] ?? '', funnelName, link],
  ]);
  const csv = writeCsv(COLUMNS, lines);
  return { csv: query.after === undefined ? csv : csv.slice(csv.indexOf('\r\n') + 2), next: page.next };
}
