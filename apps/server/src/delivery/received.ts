import { type Confirmation, confirmationOf } from '@ruta/core/catalog';
import type { OrderView } from '@ruta/pages';
import type { Services } from '../base/services';
import { keysOf } from '../catalog/keys';
import { findProducts } from '../catalog/store';
import { linesOf, type OrderRow } from '../orders/store';

/** What an order brings besides files: links, licence keys, and the products' own words. */
export function received({ db }: Pick<Services, 'db'>, order: Pick<OrderRow, 'id'>): Pick<OrderView, 'links' | 'keys' | 'confirmations' | 'contacts'> {
  const lines = linesOf(db, order.id);
  const products = new Map(findProducts(db, [...new Set(lines.flatMap((line) => line.productId ?? []))]).map((product) => [product.id, product]));
  const all = [...products.values()];
  return {
    links: all.flatMap(({ name, delivery: { link, course } }) => [
      ...(link ? [{ words: link.words || 'Open it', url: link.url, from: name }] : []),
      ...(course ? [{ words: `Go to the course`, url: course.url, from: name }] : []),
    ]),
    contacts: all.flatMap(({ name, contactEmail }) => (contactEmail ? [{ name, email: contactEmail }] : [])),
    keys: keysOf(db, order.id).map((key) => ({ value: key.value, from: products.get(key.productId)?.name ?? '' })),
    confirmations: lines.flatMap((line): Array<Extract<Confirmation, { kind: 'page' }>> => {
      const product = line.partOf === null ? products.get(line.productId ?? '') : undefined;
      const confirmation = product && confirmationOf(product, line.priceId);
      return confirmation?.kind === 'page' && (confirmation.text || confirmation.buttonUrl) ? [confirmation] : [];
    }),
  };
}

/** The outside address that the main product sends its buyers to; undefined if it has none. */
export function outsideAddress({ db }: Pick<Services, 'db'>, order: Pick<OrderRow, 'id'>): string | undefined {
  const main = linesOf(db, order.id).find((line) => line.role === 'main' && line.partOf === null);
  const product = main?.productId ? findProducts(db, [main.productId])[0] : undefined;
  const confirmation = main && product && confirmationOf(product, main.priceId);
  return confirmation?.kind === 'address' ? confirmation.url : undefined;
}
