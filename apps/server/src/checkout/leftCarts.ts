import type { LeftCart, LeftCartListQuery } from '@ruta/core/checkout';
import type { ListPage } from '@ruta/core/lists';
import { and, count, eq, gte, isNull, type SQL } from 'drizzle-orm';
import type { Db } from '../base/db';
import { keyset, pageOf, searched } from '../base/list';
import type { Services } from '../base/services';
import { findProducts } from '../catalog/store';
import { funnelNames } from '../funnel/store';
import { orders } from '../orders/tables';
import { carts } from './tables';

const SORTING = { columns: { updated: carts.updatedAt, created: carts.createdAt }, id: carts.id };

/** Live carts with an address that nobody has paid. */
const isLeft = ({ since, search }: Pick<LeftCartListQuery, 'since' | 'search'>): SQL | undefined =>
  and(eq(carts.mode, 'live'), isNull(orders.paidAt), since === undefined ? undefined : gte(carts.updatedAt, since), searched(search, [carts.buyer]));

/** One page of the carts that were left, the latest first. */
export function listLeftCarts({ db, config }: Pick<Services, 'db' | 'config'>, query: LeftCartListQuery): ListPage<LeftCart> {
  const key = keyset(SORTING, query);
  const rows = db
    .select({ cart: carts })
    .from(carts)
    .leftJoin(orders, eq(orders.cartId, carts.id))
    .where(and(isLeft(query), key.after))
    .orderBy(...key.order)
    .limit(key.limit)
    .all()
    .map(({ cart }) => cart);
  const page = pageOf(rows, key, (cart) => (query.sort === 'created' ? cart.createdAt : cart.updatedAt));
  const names = new Map(
    findProducts(db, [...new Set(page.rows.flatMap(({ lines }) => lines.map(({ productId }) => productId)))]).map(({ id, name }) => [id, name]),
  );
  const funnels = funnelNames(
    db,
    page.rows.map(({ funnelId }) => funnelId),
  );
  return {
    next: page.next,
    rows: page.rows.map(({ id, buyer, lines, funnelId, createdAt, updatedAt, token }) => ({
      ...{ id, createdAt, updatedAt },
      email: buyer.email ?? '',
      name: [buyer.firstName, buyer.lastName].filter(Boolean).join(' '),
      goods: lines.flatMap(({ productId }) => names.get(productId) ?? []).join(', '),
      funnelName: funnels.get(funnelId) ?? '',
      link: `${config.siteUrl}/cart/${token}`,
    })),
  };
}

export function countLeftCarts(db: Db, query: Pick<LeftCartListQuery, 'since' | 'search'>): number {
  return db.select({ rows: count() }).from(carts).leftJoin(orders, eq(orders.cartId, carts.id)).where(isLeft(query)).get()?.rows ?? 0;
}
