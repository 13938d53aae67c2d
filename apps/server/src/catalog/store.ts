import { type Product, type ProductFile, type ProductInput, productLabel } from '@ruta/core/catalog';
import type { Database } from 'better-sqlite3';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { notFound } from '../base/problem';
import { findPictures } from '../files/store';
import { files } from '../files/tables';
import { keepHistories } from './histories';
import { productFiles, products } from './tables';

export type ProductRow = typeof products.$inferSelect;

/** How many products are read at a time where all of them are needed. */
const BATCH = 250;
/** How many products are kept in memory at most. */
const MOST_KEPT = 2000;

/**
 * All products, newest first, some at a time: for files that hold everything. Archived ones only if asked for.
 */
export function* eachProduct(db: Db, archived = false): Generator<Product[]> {
  const ids = db
    .select({ id: products.id })
    .from(products)
    .where(archived ? undefined : isNull(products.archivedAt))
    .orderBy(desc(products.createdAt), desc(products.id))
    .all()
    .map((row) => row.id);
  for (let at = 0; at < ids.length; at += BATCH) {
    const batch = ids.slice(at, at + BATCH);
    const found = new Map(readProducts(db, batch).map((product) => [product.id, product]));
    yield batch.flatMap((id) => found.get(id) ?? []);
  }
}

/** Products on sale whose licence keys are pasted, with how many must be left before somebody is told. */
export function sellingPastedKeys(db: Db): Array<{ id: string; name: string; warnAt: number }> {
  return db
    .select({ id: products.id, name: products.name, warnAt: sql<number>`json_extract(${products.delivery}, '$.keys.warnAt')` })
    .from(products)
    .where(and(isNull(products.archivedAt), sql`json_extract(${products.delivery}, '$.keys.kind') = 'list'`))
    .all();
}

/**
 * Products as last read, by database and id: one request asks for the same ones many times. What is read inside a
 * transaction may be undone, and is not kept.
 */
const lastRead = new WeakMap<Db, Map<string, Product>>();

/** Reads products anew from now on; to be called once a change of any is written. */
export const forgetProducts = (db: Db): void => void lastRead.delete(db);

export function findProduct(db: Db, id: string): Product | undefined {
  return findProducts(db, [id])[0];
}

/** Products by their ids, archived ones included; ids that are not known are left out. They are shared and must not be changed. */
export function findProducts(db: Db, ids: readonly string[]): readonly Product[] {
  if (!('$client' in db)) return readProducts(db, ids);
  const known = lastRead.get(db) ?? new Map<string, Product>();
  const missing = ids.filter((id) => !known.has(id));
  const read = missing.length === 0 ? [] : readProducts(db, missing);
  const found = new Map(read.map((product) => [product.id, product]));
  if (!(db.$client as Database).inTransaction && known.size + read.length <= MOST_KEPT) {
    for (const product of read) known.set(product.id, product);
    lastRead.set(db, known);
  }
  return [...new Set(ids)].flatMap((id) => known.get(id) ?? found.get(id) ?? []);
}

function readProducts(db: Db, ids: readonly string[]): Product[] {
  if (ids.length === 0) return [];
  const rows = db
    .select()
    .from(products)
    .where(inArray(products.id, [...ids]))
    .all();
  return complete(db, rows);
}

/** Products by their ids with the parts of those that are bundles, each once. */
export function productsNamed(db: Db, ids: readonly string[]): Product[] {
  const named = findProducts(db, ids);
  const known = new Set(named.map((product) => product.id));
  const parts = named.flatMap((product) => product.bundle.map((part) => part.productId)).filter((id) => !known.has(id));
  return [...named, ...findProducts(db, [...new Set(parts)])];
}

/** Names of products as the team sees them, by their ids. */
export function productLabels(db: Db, ids: readonly string[]): Map<string, string> {
  const wanted = [...new Set(ids)];
  const found =
    wanted.length === 0
      ? []
      : db.select({ id: products.id, name: products.name, label: products.label }).from(products).where(inArray(products.id, wanted)).all();
  return new Map(found.map((product) => [product.id, productLabel(product)]));
}

/** @throws Refusal 404 if there is no such product */
export function loadProduct(db: Db, id: string): Product {
  const product = findProduct(db, id);
  if (!product) throw notFound('This product');
  return product;
}

export function insertProduct(db: Db, id: string, input: ProductInput, now: number): void {
  db.insert(products)
    .values({ ...input, editions: keepHistories(input.editions, undefined, now), id, archivedAt: null, createdAt: now, updatedAt: now })
    .run();
}

export function saveProduct(db: Db, id: string, changes: Partial<ProductRow>, now: number): void {
  db.update(products)
    .set({ ...changes, ...(changes.editions ? { editions: keepHistories(changes.editions, findProduct(db, id), now) } : {}), updatedAt: now })
    .where(eq(products.id, id))
    .run();
}

/** One file of a product and what it comes with. */
export interface FileChoice {
  id: string;
  only: string | null;
}

/** Sets the files that buyers receive, in order. */
export function replaceFiles(db: Db, productId: string, chosen: readonly FileChoice[]): void {
  db.delete(productFiles).where(eq(productFiles.productId, productId)).run();
  for (const [position, { id: fileId, only }] of chosen.entries()) db.insert(productFiles).values({ productId, fileId, position, only }).run();
}

function complete(db: Db, rows: ProductRow[]): Product[] {
  if (rows.length === 0) return [];
  const ids = rows.map((row) => row.id);
  const linked = db
    .select({ productId: productFiles.productId, id: files.id, name: files.name, bytes: files.bytes, contentType: files.contentType, only: productFiles.only })
    .from(productFiles)
    .innerJoin(files, eq(files.id, productFiles.fileId))
    .where(inArray(productFiles.productId, ids))
    .orderBy(asc(productFiles.position))
    .all();
  const byProduct = new Map<string, ProductFile[]>();
  for (const { productId, ...file } of linked) {
    const list = byProduct.get(productId);
    if (list) list.push(file);
    else byProduct.set(productId, [file]);
  }
  const pictures = findPictures(
    db,
    rows.flatMap((row) => row.pictureIds),
  );
  return rows.map((row) => ({ ...row, pictures: row.pictureIds.flatMap((id) => pictures[id] ?? []), files: byProduct.get(row.id) ?? [] }));
}

/** Names of the bundles a product is part of. */
export function bundlesWith(db: Db, productId: string): string[] {
  return db
    .select({ name: products.name, label: products.label })
    .from(products)
    .where(and(isNull(products.archivedAt), sql`EXISTS (SELECT 1 FROM json_each(${products.bundle}) WHERE json_extract(value, '$.productId') = ${productId})`))
    .all()
    .map(productLabel);
}

/** Whether anything on sale gives access to a course at an outside host. */
export function sellingCourses(db: Db): boolean {
  const isCourse = sql`json_extract(${products.delivery}, '$.course') IS NOT NULL`;
  return (
    db
      .select({ id: products.id })
      .from(products)
      .where(and(isNull(products.archivedAt), isCourse))
      .limit(1)
      .get() !== undefined
  );
}

/** Ids of the products that have some editions or prices, by the ids of those. */
export function productsWith(db: Db, partIds: readonly string[]): string[] {
  return [...new Set(partIds)].flatMap((partId) =>
    db
      .select({ id: products.id })
      .from(products)
      .where(sql`instr(${products.editions}, ${`"${partId}"`}) > 0`)
      .all()
      .map(({ id }) => id),
  );
}
