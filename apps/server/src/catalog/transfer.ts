import type { FileFormat, ImportReport, Product, ProductImport, ProductInput } from '@ruta/core/catalog';
import { productLabel } from '@ruta/core/catalog';
import {
  doubledSkus,
  type ImportedJsonProduct,
  type ImportedProduct,
  productsFromCsv,
  productsFromJson,
  productsToCsv,
  productsToJson,
} from '@ruta/core/formats';
import { count, inArray, max, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { excluded, stage } from '../base/staged';
import { AT_ONCE, type TaskHand } from '../base/tasks';
import { files } from '../files/tables';
import { loadShop } from '../shop/store';
import { keepHistories, plainPrices } from './histories';
import { checkLinks, type LinkTargets, linkTargets } from './links';
import { cleanRichText, keepSoldEditions } from './service';
import { eachProduct, replaceFiles } from './store';
import { products } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** Products that a report names; the counts are of all. */
const MOST_NAMED = 500;

/** All products that are not archived, as a file. */
export function exportProducts({ db }: Pick<Services, 'db'>, format: FileFormat): string {
  const { settings } = loadShop(db);
  const products = [...eachProduct(db)].flat().map(plainPrices);
  return format === 'csv' ? productsToCsv(products, settings) : productsToJson(products, settings.currency);
}

/**
 * Imports a file of products: all of it, or nothing. Everything is read and checked first, so that the transaction which
 * writes it is short.
 * @throws Refusal 409 if products were changed meanwhile
 */
export function importProducts(services: Needs, { format, text, apply }: ProductImport, hand: TaskHand = AT_ONCE): ImportReport {
  const { db, clock } = services;
  const { settings } = loadShop(db);
  const before = stateOf(db);
  const standing = [...eachProduct(db, true)].flat();
  const existing = standing.map(plainPrices);
  const read =
    format === 'csv'
      ? productsFromCsv(text, existing, settings, (kind) => newId(clock, kind), hand.tell)
      : productsFromJson(text, existing, settings.currency, hand.tell);
  const notes = new Set<string>();
  const items = withKnownFiles(services, read.items, notes).map((item) => ({ ...item, id: item.id ?? newId(clock, 'product'), input: cleaned(item.input) }));
  const report: ImportReport = {
    added: items.filter((item) => item.change === 'add').length,
    changed: items.filter((item) => item.change === 'change').length,
    same: items.filter((item) => item.change === 'same').length,
    problems: [...read.problems],
    notes: [...notes, ...doubledIn(items, existing)],
    products: items.slice(0, MOST_NAMED).map(({ input, change, line }) => ({ name: productLabel(input), change, line })),
    applied: false,
  };
  if (report.problems.length > 0) return report;
  const targets = targetsWith(db, existing, items);
  for (const item of items) {
    const problem = refusalOf(() => {
      if (item.change === 'change') keepSoldEditions(db, item.input, item.id);
      checkLinks(targets, item.input, item.id);
    });
    if (problem) report.problems.push({ line: item.line, column: problem.fields[0]?.path ?? '', message: `${productLabel(item.input)}: ${problem.title}` });
  }
  if (!apply || report.problems.length > 0) return report;
  const now = clock.now();
  const stood = new Map(standing.map((product) => [product.id, product]));
  // Lists show the newest first; a millisecond apart, new products stand in the order of the file.
  const rows = items.flatMap(({ id, input, change }, position) =>
    change === 'same'
      ? []
      : [
          {
            ...input,
            editions: keepHistories(input.editions, stood.get(id), now),
            id,
            archivedAt: null,
            createdAt: now + items.length - position,
            updatedAt: now,
          },
        ],
  );
  const staged = stage(db, products, rows, (done, of) => hand.tell('preparing', done, of));
  hand.beginWriting();
  db.transaction(
    (tx) => {
      if (stateOf(tx) !== before) throw new Refusal(409, 'Products were changed while this file was read. Nothing was imported; try again.');
      staged.copy(tx, sql`ON CONFLICT (id) DO UPDATE SET ${excluded(products, ['id', 'archivedAt', 'createdAt'])}`);
      for (const item of items) if ('files' in item) replaceFiles(tx, item.id, (item as unknown as ImportedJsonProduct).files);
    },
    { behavior: 'immediate' },
  );
  return { ...report, applied: true };
}

/** SKUs that a file would leave on several products, in words. Products that stay as they are were told of before. */
function doubledIn(items: ReadonlyArray<{ id: string; input: ProductInput; change: ImportedProduct['change'] }>, existing: readonly Product[]): string[] {
  const changed = items.filter(({ change }) => change !== 'same');
  const ids = new Set(changed.map(({ id }) => id));
  return doubledSkus(
    changed.map(({ input }) => input),
    existing.filter(({ id, archivedAt }) => archivedAt === null && !ids.has(id)),
  );
}

/** Tells whether any product has changed between two moments. */
function stateOf(db: Db): string {
  const row = db
    .select({ count: count(), latest: max(products.updatedAt) })
    .from(products)
    .get();
  return `${row?.count} ${row?.latest}`;
}

const cleaned = (input: ProductInput): ProductInput => ({ ...input, description: cleanRichText(input.description) });

/** The refusal that a check ends with; undefined if it passes. */
function refusalOf(check: () => void): Refusal | undefined {
  try {
    check();
  } catch (error) {
    if (error instanceof Refusal) return error;
    throw error;
  }
  return undefined;
}

/** What products can point at once the file is in: a bundle may stand before its parts there. */
function targetsWith(db: Db, existing: readonly Product[], items: ReadonlyArray<{ id: string; input: ProductInput }>): LinkTargets {
  const byId = new Map<string, Pick<Product, 'bundle' | 'editions' | 'archivedAt'>>(existing.map((product) => [product.id, product]));
  for (const { id, input } of items) byId.set(id, { ...input, archivedAt: null });
  const bundled = new Set([...byId.values()].flatMap(({ bundle, archivedAt }) => (archivedAt === null ? bundle.map((part) => part.productId) : [])));
  return { ...linkTargets(db), product: (id) => byId.get(id), isBundled: (id) => bundled.has(id) };
}

/** Without pictures and files that this shop has not stored, and with a note of each. */
function withKnownFiles({ db }: Pick<Services, 'db'>, items: ImportedProduct[], notes: Set<string>): ImportedProduct[] {
  const named = items.flatMap((item) => [...item.input.pictureIds, ...('files' in item ? (item as ImportedJsonProduct).files.map((file) => file.id) : [])]);
  const known = new Set<string>();
  for (let at = 0; at < named.length; at += 500) {
    for (const row of db
      .select({ id: files.id })
      .from(files)
      .where(inArray(files.id, named.slice(at, at + 500)))
      .all())
      known.add(row.id);
  }
  return items.map((item) => {
    const keep = (id: string, what: string) => {
      if (known.has(id)) return true;
      notes.add(`${productLabel(item.input)}: ${what} is not stored in this shop and is left out.`);
      return false;
    };
    const input = { ...item.input, pictureIds: item.input.pictureIds.filter((id) => keep(id, 'a picture')) };
    if (!('files' in item)) return { ...item, input };
    return { ...item, input, files: (item as ImportedJsonProduct).files.filter((file) => keep(file.id, `the file “${file.name}”`)) };
  });
}
