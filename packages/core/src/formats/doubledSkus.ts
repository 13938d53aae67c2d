import { type Edition, type Product, productLabel } from '../catalog';

/** So many doubled SKUs are told; whoever has more mends these first. */
const MOST_TOLD = 20;
/** So many places of one are named. */
const MOST_PLACES = 4;

type Coded = Pick<Product, 'name' | 'label'> & { editions: ReadonlyArray<Pick<Edition, 'name' | 'sku'>> };

const placesOf = (product: Coded): Array<{ sku: string; place: string }> =>
  product.editions.flatMap(({ sku, name }) => (sku.trim() === '' ? [] : [{ sku: sku.trim(), place: `“${productLabel(product)}${name ? `, ${name}` : ''}”` }]));

/**
 * SKUs that would stand on several products once a file is in, in words: within the file, and between file and shop. An SKU is
 * the seller's own number, so that this is told and refused by nobody; capitals make no difference.
 * @param changed products as the file would leave them
 * @param others products of the shop that the file does not change
 */
export function doubledSkus(changed: readonly Coded[], others: readonly Coded[]): string[] {
  const all = new Map<string, { sku: string; places: string[]; isInFile: boolean }>();
  const add = (product: Coded, isInFile: boolean) => {
    for (const { sku, place } of placesOf(product)) {
      const known = all.get(sku.toLowerCase());
      if (known) known.places.push(place);
      else all.set(sku.toLowerCase(), { sku, places: [place], isInFile });
    }
  };
  for (const product of changed) add(product, true);
  for (const product of others) add(product, false);
  const doubled = [...all.values()].filter(({ places, isInFile }) => isInFile && places.length > 1);
  const told = doubled.slice(0, MOST_TOLD).map(({ sku, places }) => {
    const named = places.slice(0, MOST_PLACES);
    const last = places.length > MOST_PLACES ? `${places.length - MOST_PLACES} more` : named.pop();
    return `The SKU ${sku} is on ${named.join(', ')} and ${last}.`;
  });
  return doubled.length > MOST_TOLD ? [...told, `${doubled.length - MOST_TOLD} more SKUs are on several products.`] : told;
}
