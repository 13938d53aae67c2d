import type { Product } from '@ruta/core/catalog';
import type { StoredQuote } from '@ruta/core/pricing';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { keysLeftOf, leftOf } from './availability';
import { findProducts } from './store';

/** What a cart needs of what there is only so much of. */
export interface Wanted {
  editions: Array<{ id: string; stock: number | null; name: string; quantity: number }>;
  /** Products whose licence keys are pasted, with how many keys are needed. */
  keys: Array<{ product: Pick<Product, 'id' | 'name' | 'delivery'>; quantity: number }>;
}

/** What must be held for a quote while it is paid: places of editions and pasted keys, of each line itself and of a bundle's parts. */
export function wantedOf(db: Db, quote: Pick<StoredQuote, 'lines'>): Wanted {
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

/** Whether everything of a quote is there for its cart: what it holds is, and whatever nobody else has taken since. */
export function placesLeft(services: Pick<Services, 'db' | 'clock'>, quote: Pick<StoredQuote, 'lines'>, cartId: string): boolean {
  const { editions, keys } = wantedOf(services.db, quote);
  // Several lines may want the same.
  const together = (id: string) => editions.reduce((sum, each) => sum + (each.id === id ? each.quantity : 0), 0);
  const keysTogether = (id: string) => keys.reduce((sum, each) => sum + (each.product.id === id ? each.quantity : 0), 0);
  return (
    editions.every((edition) => (leftOf(services, edition, cartId) ?? Number.POSITIVE_INFINITY) >= together(edition.id)) &&
    keys.every(({ product }) => (keysLeftOf(services, product, cartId) ?? Number.POSITIVE_INFINITY) >= keysTogether(product.id))
  );
}
