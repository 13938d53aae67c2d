import type { Product, ProductFile, ProductInput } from '@ruta/core';
import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { Db } from '../db/open';
import { findPictures } from '../files/store';
import { files } from '../files/tables';
import { fieldRefusal, notFound } from '../http/problem';
import { newId } from '../ids';
import type { Services } from '../services';
import { productFiles, products } from './tables';

/** All products that are not archived, newest first. */
export function listProducts(db: Db): Product[] {
  return withFiles(db, db.select().from(products).where(isNull(products.archivedAt)).orderBy(desc(products.createdAt)).all());
}

export function findProduct(db: Db, id: string): Product | undefined {
  return withFiles(db, db.select().from(products).where(eq(products.id, id)).all())[0];
}

/** @throws Refusal 404 if there is no such product */
export function loadProduct(db: Db, id: string): Product {
  const product = findProduct(db, id);
  if (!product) throw notFound('This product');
  return product;
}

export function createProduct(services: Pick<Services, 'db' | 'clock'>, input: ProductInput): Product {
  const { db, clock } = services;
  checkPicture(db, input);
  const now = clock.now();
  const row = { ...input, id: newId(clock, 'product'), archivedAt: null, createdAt: now, updatedAt: now };
  db.insert(products).values(row).run();
  return loadProduct(db, row.id);
}

/** Changes a product. Past orders keep what they were sold at. */
export function updateProduct(services: Pick<Services, 'db' | 'clock'>, id: string, input: ProductInput): Product {
  const { db, clock } = services;
  loadProduct(db, id);
  checkPicture(db, input);
  db.update(products)
    .set({ ...input, updatedAt: clock.now() })
    .where(eq(products.id, id))
    .run();
  return loadProduct(db, id);
}

/** Takes a product out of lists, or puts it back. What was sold stays as it was. */
export function setArchived(services: Pick<Services, 'db' | 'clock'>, id: string, archived: boolean): Product {
  loadProduct(services.db, id);
  services.db
    .update(products)
    .set({ archivedAt: archived ? services.clock.now() : null })
    .where(eq(products.id, id))
    .run();
  return loadProduct(services.db, id);
}

/** Sets the files that buyers receive, in order. @throws Refusal 400 if one is not a stored download */
export function setProductFiles(services: Pick<Services, 'db' | 'clock'>, id: string, fileIds: string[]): Product {
  const { db } = services;
  loadProduct(db, id);
  const known =
    fileIds.length === 0
      ? []
      : db
          .select()
          .from(files)
          .where(and(inArray(files.id, fileIds), eq(files.kind, 'download')))
          .all();
  if (known.length !== new Set(fileIds).size) throw fieldRefusal('fileIds', 'One of these files was not uploaded.');
  db.transaction((tx) => {
    tx.delete(productFiles).where(eq(productFiles.productId, id)).run();
    for (const [position, fileId] of fileIds.entries()) tx.insert(productFiles).values({ productId: id, fileId, position }).run();
  });
  return loadProduct(db, id);
}

function checkPicture(db: Db, input: ProductInput): void {
  if (!input.pictureId) return;
  const picture = db
    .select()
    .from(files)
    .where(and(eq(files.id, input.pictureId), eq(files.kind, 'picture')))
    .get();
  if (!picture) throw fieldRefusal('pictureId', 'This picture was not uploaded.');
}

function withFiles(db: Db, rows: Array<typeof products.$inferSelect>): Product[] {
  if (rows.length === 0) return [];
  const linked = db
    .select({ productId: productFiles.productId, id: files.id, name: files.name, bytes: files.bytes, contentType: files.contentType })
    .from(productFiles)
    .innerJoin(files, eq(files.id, productFiles.fileId))
    .where(
      inArray(
        productFiles.productId,
        rows.map((row) => row.id),
      ),
    )
    .orderBy(asc(productFiles.position))
    .all();
  const byProduct = new Map<string, ProductFile[]>();
  for (const { productId, ...file } of linked) byProduct.set(productId, [...(byProduct.get(productId) ?? []), file]);
  const pictures = findPictures(
    db,
    rows.flatMap((row) => row.pictureId ?? []),
  );
  return rows.map((row) => ({ ...row, picture: pictures[row.pictureId ?? ''] ?? null, files: byProduct.get(row.id) ?? [] }));
}
