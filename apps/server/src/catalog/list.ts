import { firstOption, isFree, type Product, type ProductListQuery, type ProductRow } from '@ruta/core/catalog';
import type { ListPage } from '@ruta/core/lists';
import { and, eq, isNotNull, isNull, or, type SQL, sql } from 'drizzle-orm';
import type { SQLiteColumn } from 'drizzle-orm/sqlite-core';
import type { Db } from '../base/db';
import { countRows, keyset, pageOf, rowsOf, searched } from '../base/list';
import type { Services } from '../base/services';
import { findPictures } from '../files/store';
import { leftOf, pastedKeysLeft } from './availability';
import { productSearched } from './search';
import { productFiles, products } from './tables';

const SORTING = { columns: { created: products.createdAt, name: products.name, status: products.status, kind: products.kind }, id: products.id };

const prices = (column: SQL) => sql`(SELECT ${column} FROM json_each(${products.editions}) AS edition, json_each(edition.value, '$.prices') AS option)`;
const isFreeSql = prices(sql`min(json_extract(option.value, '$.price.kind') = 'free')`);

/** A product as it is read for a list; lists within it are JSON. */
type ReadRow = Pick<ProductRow, 'id' | 'name' | 'label' | 'kind' | 'status' | 'archivedAt' | 'files'> & {
  categories: string;
  tags: string;
  editions: string;
  pictureId: string | null;
  bundle: number;
  keysKind: string | null;
  closesAt: number | null;
  sorted: string | number;
};

/** One page of the catalog, read without the products' texts, files and delivery. */
export function listProductRows(services: Pick<Services, 'db' | 'clock'>, query: ProductListQuery): ListPage<ProductRow> {
  const { db, clock } = services;
  const key = keyset(SORTING, query);
  const fields = {
    id: products.id,
    name: products.name,
    label: products.label,
    kind: products.kind,
    status: products.status,
    categories: products.categories,
    tags: products.tags,
    archivedAt: products.archivedAt,
    closesAt: products.closesAt,
    pictureId: sql`json_extract(${products.pictureIds}, '$[0]')`,
    editions: products.editions,
    bundle: sql`json_array_length(${products.bundle})`,
    keysKind: sql`json_extract(${products.delivery}, '$.keys.kind')`,
    files: sql`(SELECT count(*) FROM ${productFiles} WHERE ${productFiles.productId} = ${products.id})`,
    sorted: key.column,
  };
  const read = db
    .select(fields)
    .from(products)
    .where(and(filterOf(query), key.after))
    .orderBy(...key.order)
    .limit(key.limit);
  const rows = rowsOf<ReadRow>(fields, read.values());
  const page = pageOf(rows, key, (row) => row.sorted);
  const pictures = findPictures(
    db,
    page.rows.flatMap((row) => row.pictureId ?? []),
  );
  return {
    next: page.next,
    // Each field by itself: taking rows apart and together again costs more than reading them.
    rows: page.rows.map((row) => {
      const editions = JSON.parse(row.editions) as Product['editions'];
      const { price } = firstOption({ editions }).option;
      const ofEditions = sumOf(editions.map((edition) => leftOf(services, edition, null)));
      const keys = row.keysKind === 'list' ? pastedKeysLeft(services, row.id, null) : null;
      // Whichever runs out first.
      const left = ofEditions === null ? keys : Math.min(ofEditions, keys ?? ofEditions);
      return {
        id: row.id,
        name: row.name,
        label: row.label,
        kind: row.kind,
        status: row.status,
        archivedAt: row.archivedAt,
        files: row.files,
        categories: JSON.parse(row.categories),
        tags: JSON.parse(row.tags),
        price,
        free: isFree({ editions }),
        options: editions.reduce((sum, { prices }) => sum + prices.length, 0),
        subscription: price.kind === 'subscription',
        bundle: row.bundle > 0,
        left,
        gone: row.closesAt !== null && row.closesAt <= clock.now() ? 'closed' : left === 0 ? 'sold-out' : null,
        editions: editions.map(({ id, name }) => ({ id, name })),
        picture: row.pictureId ? (pictures[row.pictureId] ?? null) : null,
      };
    }),
  };
}

/** How many are left of all editions together; null if one of them has no limit. */
const sumOf = (left: ReadonlyArray<number | null>): number | null =>
  left.reduce<number | null>((sum, each) => (sum === null || each === null ? null : sum + each), 0);

/** How many products a list has in all. */
export function countProducts(db: Db, query: ProductListQuery): number {
  return countRows(db, products, filterOf(query));
}

/** The ids of every product that a list has. */
export function productIds(db: Db, query: ProductListQuery): string[] {
  return db
    .select({ id: products.id })
    .from(products)
    .where(filterOf(query))
    .all()
    .map(({ id }) => id);
}

/** Whether a list that is kept as JSON holds a word; undefined where none is asked for. */
function holds(column: SQLiteColumn, word: string | undefined): SQL | undefined {
  return word === undefined ? undefined : sql`EXISTS (SELECT 1 FROM json_each(${column}) WHERE value = ${word})`;
}

function filterOf({ archived, kind, status, category, tag, free, search }: ProductListQuery): SQL | undefined {
  return and(
    archived ? isNotNull(products.archivedAt) : isNull(products.archivedAt),
    kind && eq(products.kind, kind),
    status && eq(products.status, status),
    holds(products.categories, category),
    holds(products.tags, tag),
    free === undefined ? undefined : eq(isFreeSql, free ? 1 : 0),
    or(productSearched(search), searched(search, [products.tags, products.categories])),
  );
}

/** Every category and tag that is in use, in the order of the alphabet. */
export function productWords(db: Db): { categories: string[]; tags: string[] } {
  const words = (column: SQLiteColumn) =>
    db
      .all<{ word: string }>(sql`SELECT DISTINCT value AS word FROM ${products}, json_each(${column}) WHERE ${isNull(products.archivedAt)} ORDER BY value`)
      .map(({ word }) => word);
  return { categories: words(products.categories), tags: words(products.tags) };
}
