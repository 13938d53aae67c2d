import type { Code, Product } from '@ruta/core';
import { and, eq, gt, lte, ne, or, sql } from 'drizzle-orm';
import { keysLeftOf, leftOf } from '../catalog/availability';
import type { Db } from '../db/open';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { holds, orders } from './tables';

/** How long a cart keeps places and a code for its buyer, from the last thing they did. */
export const HOLD_MS = 15 * 60 * 1000;

type Needs = Pick<Services, 'clock'>;

/** What a cart wants to keep. */
export interface Wish {
  cartId: string;
  email: string;
  editions: Array<{ id: string; stock: number | null; name: string; quantity: number }>;
  /** Products whose licence keys are pasted, with how many keys are needed. */
  keys?: Array<{ product: Pick<Product, 'id' | 'name' | 'delivery'>; quantity: number }>;
  code?: { id: string; terms: Code } | undefined;
}

/**
 * Holds places and a code's use for a cart, all or nothing, in one transaction: of two buyers who take the last one at
 * once, one gets it and the other is told.
 * @returns what could not be held, in words for the buyer; undefined if everything is held
 */
export function holdFor(services: Needs & Pick<Services, 'db'>, wish: Wish): { field: 'quantity' | 'code'; message: string } | undefined {
  const { db, clock } = services;
  return db.transaction((tx) => {
    const now = clock.now();
    /** What is wanted of each edition, and of each product's keys, in all lines together. */
    const wanted = new Map<string, { name: string; quantity: number; left: number | null }>();
    const want = (id: string, name: string, quantity: number, left: number | null) =>
      wanted.set(id, { name, left, quantity: quantity + (wanted.get(id)?.quantity ?? 0) });
    for (const edition of wish.editions) want(edition.id, edition.name, edition.quantity, leftOf({ db: tx, clock }, edition, wish.cartId));
    for (const { product, quantity } of wish.keys ?? []) want(product.id, product.name, quantity, keysLeftOf({ db: tx, clock }, product, wish.cartId));
    for (const { name, quantity, left } of wanted.values()) {
      if (left !== null && left < quantity) return { field: 'quantity', message: shortage(name, left) };
    }
    if (wish.code) {
      const { id, terms } = wish.code;
      const uses = codeUses({ db: tx, clock }, id, wish.email, wish.cartId);
      if (terms.limit !== undefined && uses.total >= terms.limit) return { field: 'code', message: 'This code has just been used up.' };
      if (terms.limitPerBuyer !== undefined && uses.byBuyer >= terms.limitPerBuyer) return { field: 'code', message: 'You have used this code already.' };
    }
    const until = now + HOLD_MS;
    tx.delete(holds)
      .where(or(lte(holds.until, now), eq(holds.cartId, wish.cartId)))
      .run();
    const { cartId, email } = wish;
    for (const [subjectId, { quantity }] of wanted) tx.insert(holds).values({ cartId, kind: 'stock', subjectId, quantity, until }).run();
    if (wish.code) tx.insert(holds).values({ cartId, kind: 'code', subjectId: wish.code.id, quantity: 1, email, until }).run();
    return undefined;
  });
}

function shortage(name: string, left: number): string {
  if (left === 0) return `${name} is sold out, or the last one is being paid for just now. Nothing was charged; try again in a few minutes.`;
  return `Only ${left} of ${name} ${left === 1 ? 'is' : 'are'} left. Nothing was charged.`;
}

/** Gives back what a cart held, once it is paid or given up. */
export function releaseHolds(tx: Db, cartId: string): void {
  tx.delete(holds).where(eq(holds.cartId, cartId)).run();
}

/** How often a code was used in paid orders of the shop's mode, and is held by other carts that are paying. */
export function codeUses(
  services: Needs & Pick<Services, 'db'>,
  codeId: string,
  email: string | undefined,
  cartId: string | null,
): { total: number; byBuyer: number } {
  const { db, clock } = services;
  const who = email?.trim().toLowerCase() ?? '';
  const used = db
    .select({
      total: sql<number>`count(*)`,
      byBuyer: sql<number>`coalesce(sum(case when json_extract(${orders.buyer}, '$.email') = ${who} then 1 end), 0)`,
    })
    .from(orders)
    .where(and(eq(orders.codeId, codeId), eq(orders.state, 'paid'), eq(orders.mode, loadShop(db).settings.mode)))
    .get();
  const held = db
    .select({ total: sql<number>`count(*)`, byBuyer: sql<number>`coalesce(sum(case when ${holds.email} = ${who} then 1 end), 0)` })
    .from(holds)
    .where(and(eq(holds.kind, 'code'), eq(holds.subjectId, codeId), gt(holds.until, clock.now()), cartId === null ? undefined : ne(holds.cartId, cartId)))
    .get();
  return { total: (used?.total ?? 0) + (held?.total ?? 0), byBuyer: who === '' ? 0 : (used?.byBuyer ?? 0) + (held?.byBuyer ?? 0) };
}
