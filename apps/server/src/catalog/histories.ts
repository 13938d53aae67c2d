import { optionsOf, type Product, withHistory, withoutHistory } from '@ruta/core/catalog';

type Editions = Product['editions'];

const eachPrice = (editions: Editions, change: (price: Editions[number]['prices'][number]) => Editions[number]['prices'][number]): Editions =>
  editions.map((edition) => ({ ...edition, prices: edition.prices.map(change) }));

/** Editions as they are saved: each price with what it was before, whatever was sent. @param before as they stand; undefined for a new product */
export function keepHistories(editions: Editions, before: Pick<Product, 'editions' | 'updatedAt'> | undefined, now: number): Editions {
  const stood = new Map(before ? optionsOf(before).map(({ option }) => [option.id, option.price]) : []);
  return eachPrice(editions, (option) => ({ ...option, price: withHistory(option.price, stood.get(option.id), before?.updatedAt ?? now, now) }));
}

/** A product as files hold it, and as it is compared with one of a file: what its prices were before is the shop's own. */
export const plainPrices = <P extends Pick<Product, 'editions'>>(product: P): P => ({
  ...product,
  editions: eachPrice(product.editions, (option) => ({ ...option, price: withoutHistory(option.price) })),
});
