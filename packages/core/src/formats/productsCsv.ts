import { type Edition, MOST_EDITION_PRICES, MOST_EDITIONS, type PriceOption, type Product, type ProductInput, ProductInputSchema } from '../catalog';
import type { NewId } from '../ids';
import { type CellTerms, cellReader, cellWriter } from './cells';
import { type CsvRow, readCsv, writeCsv } from './csv';
import { type FileProblem, isHopeless, type Progress, TOLD_EVERY, toldProblems } from './problems';
import { EDITION_COLUMNS, PRICE_CELLS, PRICE_COLUMNS, PRODUCT_COLUMNS, PRODUCT_FILE_COLUMNS, readPriceCells } from './productColumns';

/** Products and prices as CSV, one row a price. Pictures, files, bundles and confirmations are not in it; JSON has all. */
export function productsToCsv(products: readonly Product[], terms: CellTerms): string {
  const cell = cellWriter(terms);
  const rows = products.flatMap((product) =>
    product.editions.flatMap((edition) =>
      edition.prices.map((option) => [
        product.id,
        edition.id,
        option.id,
        ...PRODUCT_COLUMNS.map((column) => column.write(product, cell)),
        ...EDITION_COLUMNS.map((column) => column.write(edition, cell)),
        ...PRICE_COLUMNS.map((column) => column.write(option, cell)),
      ]),
    ),
  );
  return writeCsv(
    PRODUCT_FILE_COLUMNS.map((column) => column.name),
    rows,
  );
}

/** One product as a file would leave it. */
export interface ImportedProduct {
  /** Null for a new product. */
  id: string | null;
  input: ProductInput;
  change: 'add' | 'change' | 'same';
  /** Line of the file it begins on; 0 for a file without lines. */
  line: number;
}

export interface Import<T> {
  items: T[];
  problems: FileProblem[];
}

/**
 * Reads products from CSV. Rows with the same product id, or without one the same name and label, are one product.
 * Columns that are missing, and editions and prices that are not in the file, stay as they are. With any problem
 * nothing may be imported.
 */
export function productsFromCsv(text: string, existing: readonly Product[], terms: CellTerms, newId: NewId, progress?: Progress): Import<ImportedProduct> {
  const { columns, rows, problems } = readCsv(
    text,
    PRODUCT_FILE_COLUMNS.map((column) => column.name),
    ['name', 'price_kind'],
    progress,
  );
  if (problems.some((problem) => problem.line === 1)) return { items: [], problems: toldProblems(problems) };
  const groups = new Map<string, CsvRow[]>();
  for (const row of rows) {
    const key = row.cells.product_id?.trim() || `new ${row.cells.name?.trim()} / ${row.cells.label?.trim() ?? ''}`;
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  const known = new Map(existing.map((product) => [product.id, product]));
  const items: ImportedProduct[] = [];
  let checked = 0;
  for (const group of groups.values()) {
    if (isHopeless(problems)) break;
    const item = readProduct(group, columns, known, terms, newId, problems);
    if (item) items.push(item);
    if (items.length > MOST_PRODUCTS) {
      problems.push({ line: item?.line ?? 0, column: '', message: TOO_MANY_PRODUCTS });
      break;
    }
    if (++checked % TOLD_EVERY === 0) progress?.('checking', checked, groups.size);
  }
  return { items: problems.length > 0 ? [] : items, problems: toldProblems(problems) };
}

/** Products of one file. */
export const MOST_PRODUCTS = 20_000;
export const TOO_MANY_PRODUCTS = `A file has at most ${MOST_PRODUCTS.toLocaleString('en')} products. Split it.`;
/** Prices that a product may have in all: as many as its editions can hold. */
const MOST_PRICES = MOST_EDITIONS * MOST_EDITION_PRICES;

function readProduct(
  rows: CsvRow[],
  columns: readonly string[],
  known: ReadonlyMap<string, Product>,
  terms: CellTerms,
  newId: NewId,
  problems: FileProblem[],
): ImportedProduct | undefined {
  const [first] = rows;
  if (!first) return undefined;
  const refuse = (row: CsvRow) => (column: string, message: string) => problems.push({ line: row.line, column, message });
  const has = (name: string) => columns.includes(name);
  const id = first.cells.product_id?.trim() || null;
  const product = id === null ? undefined : known.get(id);
  if (id !== null && !product) {
    refuse(first)('product_id', 'There is no product with this id. Leave the cell empty for a new product.');
    return undefined;
  }
  const [beyond] = rows.slice(MOST_PRICES);
  if (beyond) {
    refuse(beyond)('price_kind', `A product has at most ${MOST_PRICES} prices in all, and this one ${rows.length.toLocaleString('en')}.`);
    return undefined;
  }
  for (const row of rows.slice(1)) {
    for (const { name } of PRODUCT_COLUMNS) {
      if (has(name) && row.cells[name] !== first.cells[name]) refuse(row)(name, `Line ${first.line} says something else for the same product.`);
    }
  }

  const draft: Record<string, unknown> = product ? { ...ProductInputSchema.parse(product), delivery: { ...product.delivery } } : {};
  const cells = cellReader(first.cells, refuse(first), terms);
  for (const column of PRODUCT_COLUMNS) if (has(column.name)) column.read(draft, cells);

  const editions: Edition[] = product ? product.editions.map((edition) => ({ ...edition, prices: [...edition.prices] })) : [];
  /** The row each edition and price was read from, to say at its cells what does not fit. */
  const origins = new Map<string, CsvRow>();
  for (const row of rows) {
    const reader = cellReader(row.cells, refuse(row), terms);
    const editionId = row.cells.edition_id?.trim();
    const name = row.cells.edition?.trim() ?? '';
    let edition = editions.find((candidate) => (editionId ? candidate.id === editionId : candidate.name === name));
    if (editionId && !edition) {
      refuse(row)('edition_id', 'This product has no edition with this id. Leave the cell empty for a new edition.');
      continue;
    }
    if (!edition) {
      edition = { id: newId('edition'), name, sku: '', kind: null, taxClass: null, weight: 0, stock: null, prices: [] };
      editions.push(edition);
    }
    const before = origins.get(edition.id);
    for (const column of EDITION_COLUMNS) {
      if (!has(column.name)) continue;
      if (before && before.cells[column.name] !== row.cells[column.name])
        refuse(row)(column.name, `Line ${before.line} says something else for the same edition.`);
      column.read(edition as unknown as Record<string, unknown>, reader);
    }
    if (!before) origins.set(edition.id, row);
    const priceId = row.cells.price_id?.trim();
    const at = edition.prices.findIndex((option) => option.id === priceId);
    if (priceId && at < 0) {
      refuse(row)('price_id', 'This edition has no price with this id. Leave the cell empty for a new price.');
      continue;
    }
    const old = edition.prices[at];
    const option = {
      id: old?.id ?? newId('price'),
      name: has('price_name') ? (reader.text('price_name') ?? '') : (old?.name ?? ''),
      description: has('price_description') ? (reader.text('price_description') ?? '') : (old?.description ?? ''),
      price: readPriceCells(reader),
      confirmation: old?.confirmation ?? null,
    } as PriceOption;
    if (origins.has(option.id)) refuse(row)('price_id', 'This price is in the file twice.');
    origins.set(option.id, row);
    if (old) edition.prices[at] = option;
    else edition.prices.push(option);
  }

  const parsed = ProductInputSchema.safeParse({ ...draft, editions });
  if (!parsed.success) {
    for (const issue of parsed.error.issues) {
      const place = placeOf(issue.path.map(String), editions, origins, first);
      // A cell that could not be read at all has been told already.
      if (!problems.some((problem) => problem.line === place.line && problem.column === place.column)) problems.push({ ...place, message: issue.message });
    }
    return undefined;
  }
  const change = !product ? 'add' : JSON.stringify(parsed.data) === JSON.stringify(ProductInputSchema.parse(product)) ? 'same' : 'change';
  return { id, input: parsed.data, change, line: first.line };
}

const PRODUCT_CELLS: Record<string, string> = {
  taxClass: 'tax_class',
  previewUrl: 'preview_url',
  refundPolicy: 'refund_policy',
  contactEmail: 'contact_email',
  'delivery.link': 'link_url',
  'delivery.course': 'course_url',
  'delivery.maxDownloads': 'max_downloads',
  'delivery.downloadDays': 'download_days',
};
const EDITION_CELLS: Record<string, string> = { name: 'edition', weight: 'weight_grams', kind: 'edition_kind', taxClass: 'edition_tax_class' };

/** The line and column of a path of the product. */
function placeOf(path: string[], editions: readonly Edition[], origins: ReadonlyMap<string, CsvRow>, first: CsvRow): { line: number; column: string } {
  if (path[0] !== 'editions') {
    const two = path.slice(0, 2).join('.');
    return { line: first.line, column: PRODUCT_CELLS[two] ?? PRODUCT_CELLS[path[0] ?? ''] ?? path[0] ?? '' };
  }
  const edition = editions[Number(path[1])];
  const option = path[2] === 'prices' ? edition?.prices[Number(path[3])] : undefined;
  const line = (option && origins.get(option.id)?.line) ?? (edition && origins.get(edition.id)?.line) ?? first.line;
  if (path[2] === 'prices') {
    const inPrice = path.slice(5).join('.');
    return { line, column: path[4] === 'price' ? (PRICE_CELLS[inPrice] ?? 'price_kind') : `price_${path[4] ?? 'kind'}` };
  }
  return { line, column: EDITION_CELLS[path[2] ?? ''] ?? path[2] ?? 'edition' };
}
