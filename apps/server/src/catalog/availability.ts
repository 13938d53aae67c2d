import type { Edition, Product } from '@ruta/core';
import { and, eq, gt, ne, sql } from 'drizzle-orm';
import type { Db } from '../db/open';
import { holds, orderLines, orders } from '../sales/tables';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { countKeys } from './keys';

/** Why a product cannot be bought at the moment. */
export type Closed = { reason: 'off' | 'closed' | 'sold-out'; message: string };

/** Units of an edition sold in orders of the shop's present mode. Bundles sell their parts too. */
export function soldOf(db: Db, editionId: string): number {
  const { mode } = loadShop(db).settings;
  const row = db
    .select({ sold: sql<number>`coalesce(sum(${orderLines.quantity}), 0)` })
    .from(orderLines)
    .innerJoin(orders, eq(orders.id, orderLines.orderId))
    .where(and(eq(orderLines.editionId, editionId), eq(orders.state, 'paid'), eq(orders.mode, mode)))
    .get();
  return row?.sold ?? 0;
}

/**
 * How many of an edition are left for a cart: the stock less what is sold and what other carts hold while they pay.
 * Null is without limit.
 */
export function leftOf(services: Pick<Services, 'db' | 'clock'>, edition: Pick<Edition, 'id' | 'stock'>, cartId: string | null): number | null {
  if (edition.stock === null) return null;
  return Math.max(0, edition.stock - soldOf(services.db, edition.id) - heldOf(services, edition.id, cartId));
}

/** How many pasted licence keys of a product are left for a cart; null where keys are not pasted. */
export function keysLeftOf(services: Pick<Services, 'db' | 'clock'>, product: Pick<Product, 'id' | 'delivery'>, cartId: string | null): number | null {
  if (product.delivery.keys?.kind !== 'list') return null;
  return Math.max(0, countKeys(services.db, product.id).waiting - heldOf(services, product.id, cartId));
}

/** How many of an edition, or keys of a product, other carts hold while they pay. */
function heldOf({ db, clock }: Pick<Services, 'db' | 'clock'>, subjectId: string, cartId: string | null): number {
  const held = db
    .select({ quantity: sql<number>`coalesce(sum(${holds.quantity}), 0)` })
    .from(holds)
    .where(and(eq(holds.kind, 'stock'), eq(holds.subjectId, subjectId), gt(holds.until, clock.now()), cartId === null ? undefined : ne(holds.cartId, cartId)))
    .get();
  return held?.quantity ?? 0;
}

/**
 * Why nobody can buy a product now; undefined if it can be bought. A product on test is sold only while the shop is
 * in test mode.
 */
export function closedBecause(services: Pick<Services, 'db' | 'clock'>, product: Product, cartId: string | null): Closed | undefined {
  const { mode } = loadShop(services.db).settings;
  if (product.archivedAt !== null || product.status === 'off' || (product.status === 'test' && mode === 'live')) {
    return { reason: 'off', message: `${product.name} is not on sale at the moment.` };
  }
  if (product.closesAt !== null && product.closesAt <= services.clock.now()) return { reason: 'closed', message: `${product.name} has closed.` };
  if (product.editions.every((edition) => leftOf(services, edition, cartId) === 0)) return { reason: 'sold-out', message: `${product.name} is sold out.` };
  if (keysLeftOf(services, product, cartId) === 0) return { reason: 'sold-out', message: `${product.name} is sold out.` };
  return undefined;
}
