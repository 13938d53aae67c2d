import { type Product, type ProductInput, ProductInputSchema } from '@ruta/core/catalog';
import { and, eq, gt, inArray } from 'drizzle-orm';
import sanitizeHtml from 'sanitize-html';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { files } from '../files/tables';
import { checkLinks, linkTargets } from './links';
import { bundlesWith, type FileChoice, findProduct, insertProduct, loadProduct, replaceFiles, saveProduct } from './store';
import { editionSales } from './tables';

/** What is written of a product is announced, since published pages take names and prices from it. */
type Needs = Pick<Services, 'db' | 'clock' | 'changes'>;

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
  checkLinks(linkTargets(db), input, null);
  const id = newId(clock, 'product');
  insertProduct(db, id, { ...input, description: cleanRichText(input.description) }, clock.now());
  services.changes.announce();
  return loadProduct(db, id);
}

/** Changes a product. Past orders keep what they were sold at: they hold their own quote. */
export function updateProduct(services: Needs, id: string, input: ProductInput): Product {
  const { db, clock } = services;
  loadProduct(db, id);
  checkLinks(linkTargets(db), input, id);
  keepSoldEditions(db, input, id);
  saveProduct(db, id, { ...input, description: cleanRichText(input.description) }, clock.now());
  services.changes.announce();
  return loadProduct(db, id);
}

/** Takes a product out of lists, or puts it back. What was sold stays as it was, and stays deliverable. */
export function setArchived(services: Needs, id: string, archived: boolean): Product {
  archiveIn(services, id, archived);
  services.changes.announce();
  return loadProduct(services.db, id);
}

/** The same within a transaction of others. @throws Refusal 409 if it is part of a bundle */
export function archiveIn({ db, clock }: Pick<Services, 'db' | 'clock'>, id: string, archived: boolean): void {
  loadProduct(db, id);
  if (archived) {
    const bundles = bundlesWith(db, id);
    if (bundles.length > 0) throw new Refusal(409, `It is part of ${bundles.map((name) => `“${name}”`).join(', ')}. Take it out of there first.`);
  }
  saveProduct(db, id, { archivedAt: archived ? clock.now() : null }, clock.now());
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
  services.changes.announce();
  return loadProduct(db, copyId);
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
  services.changes.announce();
  return loadProduct(db, id);
}

/** An edition that was sold stays: reports, deliveries and stock ask for it. Call it before the product is saved. @throws Refusal 409 */
export function keepSoldEditions(db: Db, input: ProductInput, id: string): void {
  const kept = new Set(input.editions.map((edition) => edition.id));
  const gone = (findProduct(db, id)?.editions ?? []).filter((edition) => !kept.has(edition.id));
  if (gone.length === 0) return;
  const ids = gone.map((edition) => edition.id);
  const sold = db
    .select({ editionId: editionSales.editionId })
    .from(editionSales)
    .where(and(inArray(editionSales.editionId, ids), gt(editionSales.sold, 0)))
    .get();
  const edition = gone.find((candidate) => candidate.id === sold?.editionId);
  if (edition)
    throw fieldRefusal(
      'editions',
      `“${edition.name || input.name}” was sold and cannot be taken away. Set its stock to what was sold to stop selling it.`,
      409,
    );
}
