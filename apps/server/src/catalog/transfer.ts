import {
  type FileProblem,
  type ImportedJsonProduct,
  type ImportedProduct,
  productLabel,
  productsFromCsv,
  productsFromJson,
  productsToCsv,
  productsToJson,
} from '@ruta/core';
import { inArray } from 'drizzle-orm';
import { files } from '../files/tables';
import { Refusal } from '../http/problem';
import { newId } from '../ids';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { checkLinks, cleanRichText, keepSoldEditions } from './service';
import { insertProduct, listProducts, replaceFiles, saveProduct } from './store';

export type FileFormat = 'csv' | 'json';

/** What an import would do, or has done. */
export interface ImportReport {
  added: number;
  changed: number;
  same: number;
  /** With any of these nothing is imported. */
  problems: FileProblem[];
  /** What is left out, in words: pictures and files that are not stored in this shop. */
  notes: string[];
  products: Array<{ name: string; change: ImportedProduct['change']; line: number }>;
  applied: boolean;
}

/** All products that are not archived, as a file. */
export function exportProducts({ db }: Pick<Services, 'db'>, format: FileFormat): string {
  const { settings } = loadShop(db);
  const products = listProducts(db);
  return format === 'csv' ? productsToCsv(products, settings) : productsToJson(products, settings.currency);
}

/**
 * Imports a file of products: all of it, or nothing.
 * @param apply false to look first at what would happen
 */
export function importProducts(services: Pick<Services, 'db' | 'clock'>, format: FileFormat, text: string, apply: boolean): ImportReport {
  const { db, clock } = services;
  const { settings } = loadShop(db);
  const existing = listProducts(db, true);
  const read = format === 'csv' ? productsFromCsv(text, existing, settings, (kind) => newId(clock, kind)) : productsFromJson(text, existing, settings.currency);
  const notes = new Set<string>();
  const items = withKnownFiles(services, read.items, notes);
  const report: ImportReport = {
    added: items.filter((item) => item.change === 'add').length,
    changed: items.filter((item) => item.change === 'change').length,
    same: items.filter((item) => item.change === 'same').length,
    problems: [...read.problems],
    notes: [...notes],
    products: items.map(({ input, change, line }) => ({ name: productLabel(input), change, line })),
    applied: false,
  };
  if (report.problems.length > 0) return report;
  /** Makes a refusal of one product a problem of the file. */
  const tell = (item: ImportedProduct, check: () => void) => {
    try {
      check();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      report.problems.push({ line: item.line, column: error.fields[0]?.path ?? '', message: `${productLabel(item.input)}: ${error.title}` });
    }
  };
  try {
    db.transaction((tx) => {
      const now = clock.now();
      // Lists show the newest first; a millisecond apart, new products stand in the order of the file.
      for (const [position, item] of items.entries()) {
        const input = { ...item.input, description: cleanRichText(item.input.description) };
        const id = item.id ?? newId(clock, 'product');
        if (item.change === 'add') insertProduct(tx, id, input, now + items.length - position);
        else if (item.change === 'change') {
          tell(item, () => keepSoldEditions(tx, input, id));
          saveProduct(tx, id, input, now);
        }
        if ('files' in item) replaceFiles(tx, id, (item as ImportedJsonProduct).files);
      }
      // Looked at once everything is there: a bundle may stand before its parts in the file.
      for (const item of items) tell(item, () => checkLinks(tx, item.input, item.id));
      // A look only, or something that does not fit: everything is taken back.
      if (!apply || report.problems.length > 0) throw new TakenBack();
      report.applied = true;
    });
  } catch (error) {
    if (!(error instanceof TakenBack)) throw error;
  }
  return report;
}

class TakenBack extends Error {}

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
