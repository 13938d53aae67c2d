import { eq, not, or } from 'drizzle-orm';
import type { Services } from '../base/services';
import { keysLeftOf, leftOf, stillHeld } from '../catalog/availability';
import { holds } from '../catalog/tables';
import type { Wanted } from '../catalog/wanted';
import { codeUses, type StoredCode } from '../codes/store';

/** How long a cart keeps places and a code for its buyer, from the last thing they did. */
export const HOLD_MS = 15 * 60 * 1000;

/** What a cart wants to keep. */
export interface Wish extends Pick<Wanted, 'editions'>, Partial<Pick<Wanted, 'keys'>> {
  cartId: string;
  email: string;
  code?: StoredCode | undefined;
}

/**
 * Holds places and a code's use for a cart, all or nothing, in one transaction: of two buyers who take the last one at
 * once, one gets it and the other is told.
 * @returns what could not be held, in words for the buyer; undefined if everything is held
 */
export function holdFor({ db, clock }: Pick<Services, 'db' | 'clock'>, wish: Wish): { field: 'quantity' | 'code'; message: string } | undefined {
  return db.transaction((tx) => {
    const now = clock.now();
    const within = { db: tx, clock };
    /** What is wanted of each edition, and of each product's keys, in all lines together. */
    const wanted = new Map<string, { name: string; quantity: number; left: number | null }>();
    const want = (id: string, name: string, quantity: number, left: number | null) =>
      wanted.set(id, { name, left, quantity: quantity + (wanted.get(id)?.quantity ?? 0) });
    for (const edition of wish.editions) want(edition.id, edition.name, edition.quantity, leftOf(within, edition, wish.cartId));
    for (const { product, quantity } of wish.keys ?? []) want(product.id, product.name, quantity, keysLeftOf(within, product, wish.cartId));
    for (const { name, quantity, left } of wanted.values()) {
      if (left !== null && left < quantity) return { field: 'quantity', message: shortage(name, left) };
    }
    if (wish.code) {
      const { id, terms } = wish.code;
      const uses = codeUses(within, id, wish.email, wish.cartId);
      if (terms.limit !== undefined && uses.total >= terms.limit) return { field: 'code', message: 'This code has just been used up.' };
      if (terms.limitPerBuyer !== undefined && uses.byBuyer >= terms.limitPerBuyer) return { field: 'code', message: 'You have used this code already.' };
    }
    const until = now + HOLD_MS;
    tx.delete(holds)
      .where(or(not(stillHeld(now)), eq(holds.cartId, wish.cartId)))
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
