import type { Product, ProductFile, ProductInput } from '@ruta/core';
import { asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { Db } from '../db/open';
import { findPictures } from '../files/store';
import { files } from '../files/tables';
import { notFound } from '../http/problem';
import { productFiles, products } from './tables';

export type ProductRow = typeof products.$inferSelect;

/** Products, newest first; archived ones only if asked for. */
export function listProducts(db: Db, archived = false): Product[] {
  const query = db.select().from(products).orderBy(desc(products.createdAt), desc(products.id)).$dynamic();
  return complete(db, (archived ? query : query.where(isNull(products.archivedAt))).all());
}

export function findProduct(db: Db, id: string): Product | undefined {
  return complete(db, db.select().from(products).where(eq(products.id, id)).all())[0];
}

/** Products by their ids, archived ones included; ids that are not known are left out. */
export function findProducts(db: Db, ids: readonly string[]): Product[] {
  return ids.length === 0
    ? []
    : complete(
        db,
        db
          .select()
          .from(products)
          .where(inArray(products.id, [...ids]))
          .all(),
      );
}

/** @throws Refusal 404 if there is no such product */
export function loadProduct(db: Db, id: string): Product {
  const product = findProduct(db, id);
  if (!product) throw notFound('This product');
  return product;
}

export function insertProduct(db: Db, id: string, input: ProductInput, now: number): void {
  db.insert(products)
    .values({ ...input, id, archivedAt: null, createdAt: now, updatedAt: now })
    .run();
}

export function saveProduct(db: Db, id: string, changes: Partial<ProductRow>, now: number): void {
  db.update(products)
    .set({ ...changes, updatedAt: now })
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
    .where(ids.length > 500 ? undefined : inArray(productFiles.productId, ids))
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
