import type { ImportReport } from '@ruta/core/catalog';
import type { CodeImport } from '@ruta/core/codes';
import { codesFromCsv, codesToCsv } from '@ruta/core/formats';
import { sql } from 'drizzle-orm';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { stage } from '../base/staged';
import { AT_ONCE, type TaskHand } from '../base/tasks';
import { products } from '../catalog/tables';
import { loadShop } from '../shop/store';
import { allCodes } from './store';
import { codes } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

export function exportCodes({ db }: Pick<Services, 'db'>): string {
  return codesToCsv(allCodes(db), loadShop(db).settings);
}

/** Imports discount codes: all of a file, or nothing. Codes that are there already are changed. */
export function importCodes({ db, clock }: Needs, { text, apply }: CodeImport, hand: TaskHand = AT_ONCE): ImportReport {
  const productIds = new Set(
    db
      .select({ id: products.id })
      .from(products)
      .all()
      .map((product) => product.id),
  );
  const { items, problems } = codesFromCsv(text, productIds, loadShop(db).settings, hand.tell);
  const known = new Map(
    db
      .select({ id: codes.id, code: codes.code, archivedAt: codes.archivedAt })
      .from(codes)
      .all()
      .map((row) => [row.code, row]),
  );
  for (const { terms, line } of items) {
    if (known.get(terms.code)?.archivedAt) problems.push({ line, column: 'code', message: 'A code like this was archived. Choose another word.' });
  }
  const changed = items.filter((item) => known.has(item.terms.code)).length;
  const report = { added: items.length - changed, changed, same: 0, problems, notes: [], products: [], applied: false };
  if (!apply || problems.length > 0) return report;
  const now = clock.now();
  const rows = items.map(({ terms }) => ({ id: newId(clock, 'code'), code: terms.code, terms, createdAt: now, updatedAt: now }));
  const staged = stage(db, codes, rows, (done, of) => hand.tell('preparing', done, of));
  hand.beginWriting();
  // The code itself is the key: one that was added meanwhile is changed like any other.
  db.transaction((tx) => staged.copy(tx, sql`ON CONFLICT (code) DO UPDATE SET terms = excluded.terms, updated_at = excluded.updated_at`), {
    behavior: 'immediate',
  });
  return { ...report, applied: true };
}
