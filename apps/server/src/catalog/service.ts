import { type Product, type ProductInput, ProductInputSchema } from '@ruta/core';
import { and, eq, inArray } from 'drizzle-orm';
import sanitizeHtml from 'sanitize-html';
import type { Db } from '../db/open';
import { files } from '../files/tables';
import { funnels, steps } from '../funnel/tables';
import { fieldRefusal, Refusal } from '../http/problem';
import { newId } from '../ids';
import { orderLines } from '../sales/tables';
import type { Services } from '../services';
import { type FileChoice, findProduct, findProducts, insertProduct, loadProduct, replaceFiles, saveProduct } from './store';

type Needs = Pick<Services, 'db' | 'clock'>;

const RICH_TEXT: sanitizeHtml.IOptions = {
  allowedTags: ['p', 'br', 'strong', 'em', 'ul', 'ol', 'li', 'a', 'h3'],
  allowedAttributes: { a: ['href'] },
  allowedSchemes: ['http', 'https', 'mailto'],
  disallowedTagsMode: 'discard',
};

/** A rich text with nothing in it but words, lists and links; an empty one is really empty. */
export function cleanRichText(html: string): string {
  const clean = sanitizeHtml(html, RICH_TEXT).trim();
  return /^(<p>(<br \/>)?<\/p>)*$/.test(clean) ? '' : clean;
}

export function createProduct(services: Needs, input: ProductInput): Product {
  const { db, clock } = services;
  checkLinks(db, input, null);
  const id = newId(clock, 'product');
  insertProduct(db, id, { ...input, description: cleanRichText(input.description) }, clock.now());
  return loadProduct(db, id);
}

/** Changes a product. Past orders keep what they were sold at: they hold their own quote. */
export function updateProduct(services: Needs, id: string, input: ProductInput): Product {
  const { db, clock } = services;
  loadProduct(db, id);
  checkLinks(db, input, id);
  keepSoldEditions(db, input, id);
  saveProduct(db, id, { ...input, description: cleanRichText(input.description) }, clock.now());
  return loadProduct(db, id);
}

/** Takes a product out of lists, or puts it back. What was sold stays as it was, and stays deliverable. */
export function setArchived(services: Needs, id: string, archived: boolean): Product {
  const { db, clock } = services;
  loadProduct(db, id);
  if (archived) {
    const bundles = bundlesWith(db, id);
    if (bundles.length > 0) throw new Refusal(409, `It is part of ${bundles.map((name) => `“${name}”`).join(', ')}. Take it out of there first.`);
  }
  saveProduct(db, id, { archivedAt: archived ? clock.now() : null }, clock.now());
  return loadProduct(db, id);
}

/** Copies a product with its editions, prices and files; the copy is off until it is switched on. Pasted keys stay with the original. */
export function duplicateProduct(services: Needs, id: string): Product {
  const { db, clock } = services;
  const original = loadProduct(db, id);
  const copyId = newId(clock, 'product');
  const renamed = new Map<string, string>();
  const editions = original.editions.map((edition) => {
    const editionId = newId(clock, 'edition');
    renamed.set(edition.id, editionId);
    return {
      ...edition,
      id: editionId,
      prices: edition.prices.map((option) => {
        const priceId = newId(clock, 'price');
        renamed.set(option.id, priceId);
        return { ...option, id: priceId };
      }),
    };
  });
  db.transaction((tx) => {
    const input = ProductInputSchema.parse({ ...original, editions, status: 'off', label: `${original.label || original.name} (copy)`.slice(0, 120) });
    insertProduct(tx, copyId, input, clock.now());
    replaceFiles(
      tx,
      copyId,
      original.files.map((file) => ({ id: file.id, only: file.only === null ? null : (renamed.get(file.only) ?? null) })),
    );
  });
  return loadProduct(db, copyId);
}

export interface BulkChange {
  status?: Product['status'] | undefined;
  taxClass?: Product['taxClass'] | undefined;
  addTags?: string[] | undefined;
  removeTags?: string[] | undefined;
  addCategories?: string[] | undefined;
  removeCategories?: string[] | undefined;
  archived?: boolean | undefined;
}

/** Changes many products at once: all of them, or none if one cannot be. @returns how many were changed */
export function changeProducts(services: Needs, ids: readonly string[], change: BulkChange): number {
  const { db, clock } = services;
  return db.transaction((tx) => {
    const found = findProducts(tx, ids);
    if (found.length < new Set(ids).size) throw new Refusal(409, 'One of these products is not there any more. Nothing was changed.');
    const together = (now: string[], add: string[] = [], remove: string[] = []) => [...new Set([...now, ...add])].filter((word) => !remove.includes(word));
    for (const product of found) {
      const next = {
        ...(change.status ? { status: change.status } : {}),
        ...(change.taxClass ? { taxClass: change.taxClass } : {}),
        tags: together(product.tags, change.addTags, change.removeTags),
        categories: together(product.categories, change.addCategories, change.removeCategories),
      };
      const parsed = ProductInputSchema.safeParse({ ...product, ...next });
      if (!parsed.success) throw new Refusal(400, `“${product.label || product.name}”: ${parsed.error.issues[0]?.message} Nothing was changed.`);
      saveProduct(tx, product.id, next, clock.now());
      if (change.archived !== undefined) setArchived({ ...services, db: tx }, product.id, change.archived);
    }
    return found.length;
  });
}

/** Sets the files that buyers receive, in order. @throws Refusal 400 if one is not a stored download, or comes with what the product has not */
export function setProductFiles(services: Needs, id: string, chosen: FileChoice[]): Product {
  const { db } = services;
  const product = loadProduct(db, id);
  const fileIds = [...new Set(chosen.map((file) => file.id))];
  const known =
    fileIds.length === 0
      ? []
      : db
          .select()
          .from(files)
          .where(and(inArray(files.id, fileIds), eq(files.kind, 'download')))
          .all();
  if (known.length !== fileIds.length || fileIds.length !== chosen.length) throw fieldRefusal('files', 'One of these files was not uploaded.');
  const scopes = new Set(product.editions.flatMap((edition) => [edition.id, ...edition.prices.map((option) => option.id)]));
  for (const [index, file] of chosen.entries()) {
    if (file.only !== null && !scopes.has(file.only)) throw fieldRefusal(`files.${index}.only`, 'The product has no such edition or price.');
  }
  db.transaction((tx) => replaceFiles(tx, id, chosen));
  return loadProduct(db, id);
}

/** Names of the bundles a product is part of. */
export function bundlesWith(db: Db, productId: string): string[] {
  return db.query.products
    .findMany({ columns: { name: true, label: true, bundle: true, archivedAt: true } })
    .sync()
    .filter((product) => product.archivedAt === null && product.bundle.some((part) => part.productId === productId))
    .map((product) => product.label || product.name);
}

/** Funnels in which a product is sold or given, so that one sees what a change reaches. */
export function funnelsWith(db: Db, productId: string): Array<{ id: string; name: string }> {
  const sold = db
    .select({ id: funnels.id, name: funnels.name })
    .from(steps)
    .innerJoin(funnels, eq(funnels.id, steps.funnelId))
    .where(eq(steps.productId, productId))
    .all();
  const given = db.select({ id: funnels.id, name: funnels.name }).from(funnels).where(eq(funnels.giftId, productId)).all();
  return [...new Map([...sold, ...given].map((funnel) => [funnel.id, funnel])).values()];
}

/** An edition that was sold stays: reports, deliveries and stock ask for it. Call it before the product is saved. @throws Refusal 409 */
export function keepSoldEditions(db: Db, input: ProductInput, id: string): void {
  const kept = new Set(input.editions.map((edition) => edition.id));
  const gone = (findProduct(db, id)?.editions ?? []).filter((edition) => !kept.has(edition.id));
  if (gone.length === 0) return;
  const sold = db
    .select({ editionId: orderLines.editionId })
    .from(orderLines)
    .where(
      inArray(
        orderLines.editionId,
        gone.map((edition) => edition.id),
      ),
    )
    .limit(1)
    .get();
  const edition = gone.find((candidate) => candidate.id === sold?.editionId);
  if (edition)
    throw fieldRefusal(
      'editions',
      `“${edition.name || input.name}” was sold and cannot be taken away. Set its stock to what was sold to stop selling it.`,
      409,
    );
}

/** Whatever a product points at must be there: pictures, parts of the bundle, the funnel it leads to. */
export function checkLinks(db: Db, input: ProductInput, id: string | null): void {
  if (input.pictureIds.length > 0) {
    const pictures = db
      .select({ id: files.id })
      .from(files)
      .where(and(inArray(files.id, input.pictureIds), eq(files.kind, 'picture')))
      .all();
    if (pictures.length < new Set(input.pictureIds).size) throw fieldRefusal('pictureIds', 'This picture was not uploaded.');
  }
  for (const [index, part] of input.bundle.entries()) {
    const product = findProduct(db, part.productId);
    const at = `bundle.${index}.productId`;
    if (!product) throw fieldRefusal(at, 'This product is not there any more.');
    if (part.productId === id || product.bundle.length > 0) throw fieldRefusal(at, 'A bundle cannot be part of a bundle.');
    const edition = product.editions.find((candidate) => candidate.id === part.editionId);
    if (!edition) throw fieldRefusal(`bundle.${index}.editionId`, 'The product has no such edition.');
    if (edition.prices[0]?.price.kind === 'subscription') throw fieldRefusal(at, 'A subscription cannot be part of a bundle.');
  }
  if (input.bundle.length > 0 && id !== null && bundlesWith(db, id).length > 0) throw fieldRefusal('bundle', 'It is part of a bundle itself.');
  const { leadTo } = input;
  if (leadTo.kind === 'funnel' && !db.select().from(funnels).where(eq(funnels.id, leadTo.funnelId)).get()) {
    throw fieldRefusal('leadTo.funnelId', 'This funnel is not there any more.');
  }
}
