import type { Product } from '@ruta/core/catalog';
import type { StoredQuote } from '@ruta/core/pricing';
import { eq, lte, or } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { keysLeftOf, leftOf } from '../catalog/availability';
import { findProducts } from '../catalog/store';
import { holds } from '../catalog/tables';
import { codeUses, type StoredCode } from '../codes/store';

/** How long a cart keeps places and a code for its buyer, from the last thing they did. */
export const HOLD_MS = 15 * 60 * 1000;

/** What a cart wants to keep. */
export interface Wish {
  cartId: string;
  email: string;
  editions: Array<{ id: string; stock: number | null; name: string; quantity: number }>;
  /** Products whose licence keys are pasted, with how many keys are needed. */
  keys?: Array<{ product: Pick<Product, 'id' | 'name' | 'delivery'>; quantity: number }>;
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

/** What must be held for a quote while it is paid: places of editions and pasted keys, of each line itself and of a bundle's parts. */
export function wantedOf(db: Db, quote: Pick<StoredQuote, 'lines'>): Pick<Wish, 'editions' | 'keys'> {
  const wanted = quote.lines.flatMap(({ productId, editionId, quantity, parts = [] }) => [
    ...(editionId ? [{ productId, editionId, quantity }] : []),
    ...parts.flatMap((part) => (part.editionId ? [{ productId: part.productId, editionId: part.editionId, quantity: part.quantity * quantity }] : [])),
  ]);
  const ids = wanted.map((each) => each.productId);
  const products = new Map(findProducts(db, ids).map((product) => [product.id, product]));
  const found = wanted.flatMap(({ productId, editionId, quantity }) => {
    const product = products.get(productId);
    const edition = product?.editions.find((candidate) => candidate.id === editionId);
    return product && edition ? [{ product, edition, quantity }] : [];
  });
  return {
    editions: found.map(({ product, edition, quantity }) => ({
      id: edition.id,
      stock: edition.stock,
      name: edition.name ? `${product.name}, ${edition.name}` : product.name,
      quantity,
    })),
    keys: found.flatMap(({ product, quantity }) => (product.delivery.keys?.kind === 'list' ? [{ product, quantity }] : [])),
  };
}
