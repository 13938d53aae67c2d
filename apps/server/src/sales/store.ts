import type { Confirmation, Mode, Product } from '@ruta/core';
import { and, asc, desc, eq, inArray, isNull, ne } from 'drizzle-orm';
import type { Db } from '../db/open';
import { files } from '../files/tables';
import { notFound } from '../http/problem';
import { carts, charges, grants, orderLines, orders } from './tables';

export type OrderRow = typeof orders.$inferSelect;
export type ChargeRow = typeof charges.$inferSelect;
export type CartRow = typeof carts.$inferSelect;

export function findOrder(db: Db, id: string): OrderRow | undefined {
  return db.select().from(orders).where(eq(orders.id, id)).get();
}

/** @throws Refusal 404 if there is no such order */
export function loadOrder(db: Db, id: string): OrderRow {
  const order = findOrder(db, id);
  if (!order) throw notFound('This order');
  return order;
}

export function findOrderByToken(db: Db, token: string): OrderRow | undefined {
  return db.select().from(orders).where(eq(orders.token, token)).get();
}

export function findCart(db: Db, id: string): CartRow | undefined {
  return db.select().from(carts).where(eq(carts.id, id)).get();
}

/** The paid order of a cart, for the visitor whose cart it is; undefined if it is not paid or somebody else's. */
export function paidOrderOf(db: Db, cartId: string | undefined, visitorId: string | null): OrderRow | undefined {
  const cart = cartId ? findCart(db, cartId) : undefined;
  if (!cart?.paidOrderId || (cart.visitorId !== null && cart.visitorId !== visitorId)) return undefined;
  return findOrder(db, cart.paidOrderId);
}

/** The latest cart a visitor began at a checkout. */
export function latestCart(db: Db, visitorId: string, stepId: string): CartRow | undefined {
  return db
    .select()
    .from(carts)
    .where(and(eq(carts.visitorId, visitorId), eq(carts.stepId, stepId)))
    .orderBy(desc(carts.createdAt))
    .limit(1)
    .get();
}

export function chargesOf(db: Db, orderId: string): ChargeRow[] {
  return db.select().from(charges).where(eq(charges.orderId, orderId)).orderBy(asc(charges.createdAt)).all();
}

export function linesOf(db: Db, orderId: string) {
  return db.select().from(orderLines).where(eq(orderLines.orderId, orderId)).all();
}

/** The order by which a contact has received a free product; undefined if they have not. */
export function giftOrder(db: Db, contactId: string, productId: string): OrderRow | undefined {
  return db
    .select({ order: orders })
    .from(orders)
    .innerJoin(orderLines, eq(orderLines.orderId, orders.id))
    .where(and(eq(orders.contactId, contactId), eq(orders.state, 'paid'), isNull(orders.number), eq(orderLines.productId, productId)))
    .get()?.order;
}

/** What a product says after the purchase: the price's own words where it has some. */
export function confirmationOf(product: Pick<Product, 'confirmation' | 'editions'>, priceId: string | null): Confirmation {
  const option = product.editions.flatMap((edition) => edition.prices).find((candidate) => candidate.id === priceId);
  return option?.confirmation ?? product.confirmation;
}

/** Products a contact has bought, in any paid order. */
export function ownedProducts(db: Db, contactId: string): string[] {
  return db
    .select({ productId: orderLines.productId })
    .from(orderLines)
    .innerJoin(orders, eq(orders.id, orderLines.orderId))
    .where(and(eq(orders.contactId, contactId), eq(orders.state, 'paid')))
    .all()
    .map((row) => row.productId);
}

/** Whether a contact has bought a product in a mode, in any paid order but the one of a cart. */
export function ownsProduct(db: Db, contactId: string, productId: string, mode: Mode, exceptCartId: string): boolean {
  const found = db
    .select({ id: orderLines.id })
    .from(orderLines)
    .innerJoin(orders, eq(orders.id, orderLines.orderId))
    .where(
      and(
        eq(orders.contactId, contactId),
        eq(orders.state, 'paid'),
        eq(orders.mode, mode),
        eq(orderLines.productId, productId),
        ne(orders.cartId, exceptCartId),
      ),
    )
    .limit(1)
    .get();
  return found !== undefined;
}

/** Rights to fetch files that came with orders, with each file's name and the line it came from. */
export function grantsOf(db: Db, orderIds: string[]) {
  if (orderIds.length === 0) return [];
  return db
    .select({
      id: grants.id,
      orderId: grants.orderId,
      fileId: files.id,
      name: files.name,
      bytes: files.bytes,
      contentType: files.contentType,
      from: orderLines.name,
      downloads: grants.downloads,
      maxDownloads: grants.maxDownloads,
      until: grants.until,
    })
    .from(grants)
    .innerJoin(files, eq(files.id, grants.fileId))
    .innerJoin(orderLines, eq(orderLines.id, grants.lineId))
    .where(inArray(grants.orderId, orderIds))
    .all();
}
