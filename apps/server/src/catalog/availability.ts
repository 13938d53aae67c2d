import type { Edition, Product } from '@ruta/core/catalog';
import type { Mode } from '@ruta/core/shop';
import { and, eq, ne, type Placeholder, type SQL, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { countKeys } from './keys';
import { editionSales, holds } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** No cart has this id: all that is held is held by others. */
const NOBODYS = '';

/** Why a product cannot be bought at the moment. */
export type Closed = { reason: 'off' | 'closed' | 'sold-out'; message: string };

// Every look at a checkout asks both, for all that stands on it.
const soldByEdition = builtOnce((db) =>
  db
    .select({ sold: editionSales.sold })
    .from(editionSales)
    .where(and(eq(editionSales.editionId, sql.placeholder('editionId')), eq(editionSales.mode, sql.placeholder('mode'))))
    .prepare(),
);
const heldByOthers = builtOnce((db) =>
  db
    .select({ quantity: sql<number>`coalesce(sum(${holds.quantity}), 0)` })
    .from(holds)
    .where(
      and(
        eq(holds.kind, 'stock'),
        eq(holds.subjectId, sql.placeholder('subjectId')),
        stillHeld(sql.placeholder('now')),
        ne(holds.cartId, sql.placeholder('cartId')),
      ),
    )
    .prepare(),
);

/** Units of an edition sold in orders of a mode. Bundles sell their parts too. */
export function soldOf(db: Db, editionId: string, mode: Mode = loadShop(db).settings.mode): number {
  return soldByEdition(db).get({ editionId, mode })?.sold ?? 0;
}

/** Counts units of an edition as sold; call it in the transaction that pays them. */
export function countSold(tx: Db, editionId: string, mode: Mode, quantity: number): void {
  tx.insert(editionSales)
    .values({ editionId, mode, sold: quantity })
    .onConflictDoUpdate({ target: [editionSales.editionId, editionSales.mode], set: { sold: sql`${editionSales.sold} + ${quantity}` } })
    .run();
}

/**
 * How many of an edition are left for a cart: the stock less what is sold and what other carts hold while they pay.
 * Null is without limit.
 */
export function leftOf(services: Needs, edition: Pick<Edition, 'id' | 'stock'>, cartId: string | null): number | null {
  if (edition.stock === null) return null;
  return Math.max(0, edition.stock - soldOf(services.db, edition.id) - heldOf(services, edition.id, cartId));
}

/** How many pasted licence keys of a product are left for a cart; null where keys are not pasted. */
export function keysLeftOf(services: Needs, product: Pick<Product, 'id' | 'delivery'>, cartId: string | null): number | null {
  return product.delivery.keys?.kind === 'list' ? pastedKeysLeft(services, product.id, cartId) : null;
}

/** How many pasted licence keys of a product are left for a cart, for a product that has them. */
export function pastedKeysLeft(services: Needs, productId: string, cartId: string | null): number {
  return Math.max(0, countKeys(services.db, productId).waiting - heldOf(services, productId, cartId));
}

/** Holds that hold: for a while, and for as long as a payment of their cart is under way, at a bank or at a processor that does not answer. */
export const stillHeld = (now: number | Placeholder): SQL =>
  sql`(${holds.until} > ${now} OR EXISTS (SELECT 1 FROM orders o JOIN charges c ON c.order_id = o.id WHERE o.cart_id = ${holds.cartId} AND c.state IN ('pending', 'needs-confirmation')))`;

/** How many of an edition, or keys of a product, other carts hold while they pay. */
function heldOf({ db, clock }: Needs, subjectId: string, cartId: string | null): number {
  return heldByOthers(db).get({ subjectId, now: clock.now(), cartId: cartId ?? NOBODYS })?.quantity ?? 0;
}

/** Gives back what a cart held, once it is paid or given up. */
export function releaseHolds(tx: Db, cartId: string): void {
  tx.delete(holds).where(eq(holds.cartId, cartId)).run();
}

/**
 * Why nobody can buy a product now; undefined if it can be bought. A product on test is sold only while the shop is
 * in test mode.
 */
export function closedBecause(services: Needs, product: Product, cartId: string | null): Closed | undefined {
  const { mode } = loadShop(services.db).settings;
  if (product.archivedAt !== null || product.status === 'off' || (product.status === 'test' && mode === 'live')) {
    return { reason: 'off', message: `${product.name} is not on sale at the moment.` };
  }
  if (product.closesAt !== null && product.closesAt <= services.clock.now()) return { reason: 'closed', message: `${product.name} has closed.` };
  if (product.editions.every((edition) => leftOf(services, edition, cartId) === 0)) return { reason: 'sold-out', message: `${product.name} is sold out.` };
  if (keysLeftOf(services, product, cartId) === 0) return { reason: 'sold-out', message: `${product.name} is sold out.` };
  return undefined;
}
