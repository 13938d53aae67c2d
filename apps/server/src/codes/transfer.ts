import { codesFromCsv, codesToCsv, type FileProblem } from '@ruta/core';
import { eq } from 'drizzle-orm';
import { listProducts } from '../catalog/store';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { listCodes, saveCode } from './store';
import { codes } from './tables';

export interface CodesReport {
  added: number;
  changed: number;
  problems: FileProblem[];
  applied: boolean;
}

export function exportCodes({ db }: Pick<Services, 'db'>): string {
  return codesToCsv(
    listCodes(db).map((row) => row.terms),
    loadShop(db).settings,
  );
}

/**
 * Imports discount codes: all of a file, or nothing. Codes that are there already are changed.
 * @param apply false to look first at what would happen
 */
export function importCodes(services: Pick<Services, 'db' | 'clock'>, text: string, apply: boolean): CodesReport {
  const { db } = services;
  const products = new Set(listProducts(db, true).map((product) => product.id));
  const { items, problems } = codesFromCsv(text, products, loadShop(db).settings);
  const known = (code: string) => db.select({ id: codes.id, archivedAt: codes.archivedAt }).from(codes).where(eq(codes.code, code)).get();
  for (const { terms, line } of items) {
    if (known(terms.code)?.archivedAt) problems.push({ line, column: 'code', message: 'A code like this was archived. Choose another word.' });
  }
  const changed = items.filter((item) => known(item.terms.code)).length;
  const report = { added: items.length - changed, changed, problems, applied: false };
  if (!apply || problems.length > 0) return report;
  db.transaction((tx) => {
    for (const { terms } of items) saveCode({ ...services, db: tx }, known(terms.code)?.id ?? null, terms);
  });
  return { ...report, applied: true };
}
