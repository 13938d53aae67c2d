import { or, type SQL, sql } from 'drizzle-orm';
import { searched } from '../base/list';
import { products } from './tables';

/** Products found by name, label or the SKU or name of an edition; undefined for an empty search. */
export function productSearched(search: string): SQL | undefined {
  const edition = (field: 'sku' | 'name') => sql`json_extract(edition.value, ${`$.${field}`})`;
  const inEdition = searched(search, [edition('sku'), edition('name')]);
  return (
    inEdition &&
    or(searched(search, [products.name, products.label]), sql`EXISTS (SELECT 1 FROM json_each(${products.editions}) AS edition WHERE ${inEdition})`)
  );
}

/** The ids of these products, for lists of what was done with them; undefined for an empty search. */
export function productIdsSearched(search: string): SQL | undefined {
  const found = productSearched(search);
  return found && sql`(SELECT ${products.id} FROM ${products} WHERE ${found})`;
}

/** The ids of products found by what only their seller sees of them: label and SKU; undefined for an empty search. */
export function productIdsByCode(search: string): SQL | undefined {
  const bySku = searched(search, [sql`json_extract(edition.value, '$.sku')`]);
  const byLabel = searched(search, [products.label]);
  return (
    bySku && sql`(SELECT ${products.id} FROM ${products} WHERE ${byLabel} OR EXISTS (SELECT 1 FROM json_each(${products.editions}) AS edition WHERE ${bySku}))`
  );
}
