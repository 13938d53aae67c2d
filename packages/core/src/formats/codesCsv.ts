import { type Code, CodeSchema, normalizeCode } from '../codes';
import { type CellTerms, cellReader, cellWriter } from './cells';
import { readCsv, writeCsv } from './csv';
import { isHopeless, type Progress, shortened, TOLD_EVERY, toldProblems } from './problems';
import type { Import } from './productsCsv';

/** Every column of the codes file with what it says. */
export const CODE_FILE_COLUMNS: ReadonlyArray<{ name: string; says: string }> = [
  { name: 'code', says: 'what buyers type; needed' },
  { name: 'on', says: 'yes or no; yes if empty' },
  { name: 'scope', says: 'order, main or products; order if empty' },
  { name: 'products', says: 'ids of the products, separated by ;' },
  { name: 'percent', says: 'percent off; either this or amount' },
  { name: 'amount', says: 'amount off, whole on each payment' },
  { name: 'payments', says: 'first or every; first if empty' },
  { name: 'minimum', says: 'least value of the eligible lines' },
  { name: 'from', says: 'from when it holds, 2026-03-31 20:00' },
  { name: 'until', says: 'until when, itself excluded' },
  { name: 'limit', says: 'uses in all' },
  { name: 'limit_per_buyer', says: 'uses of one buyer' },
];

/** Discount codes as CSV, one a line. */
export function codesToCsv(codes: readonly Code[], terms: CellTerms): string {
  const cell = cellWriter(terms);
  return writeCsv(
    CODE_FILE_COLUMNS.map((column) => column.name),
    codes.map(({ code, on, scope, discount, payments, minimum, from, until, limit, limitPerBuyer }) => [
      code,
      cell.yes(on),
      scope.kind,
      scope.kind === 'products' ? scope.productIds.join('; ') : '',
      discount.kind === 'percent' ? String(discount.percent) : '',
      discount.kind === 'fixed' ? cell.amount(discount.amount) : '',
      payments,
      cell.amount(minimum),
      cell.moment(from),
      cell.moment(until),
      cell.number(limit),
      cell.number(limitPerBuyer),
    ]),
  );
}

export interface ImportedCode {
  terms: Code;
  line: number;
}

const CELLS: Record<string, string> = {
  'scope.kind': 'scope',
  'scope.productIds': 'products',
  'discount.percent': 'percent',
  'discount.amount': 'amount',
  discount: 'percent',
  limitPerBuyer: 'limit_per_buyer',
};

/**
 * Reads discount codes from CSV, line by line. With any problem nothing may be imported.
 * @param productIds ids of products that a code may name
 */
export function codesFromCsv(text: string, productIds: ReadonlySet<string>, terms: CellTerms, progress?: Progress): Import<ImportedCode> {
  const { rows, problems } = readCsv(
    text,
    CODE_FILE_COLUMNS.map((column) => column.name),
    ['code'],
    progress,
  );
  const seen = new Map<string, number>();
  const items: ImportedCode[] = [];
  for (const [index, { line, cells }] of rows.entries()) {
    if (isHopeless(problems)) break;
    if (index % TOLD_EVERY === 0) progress?.('checking', index, rows.length);
    const refuse = (column: string, message: string) => void problems.push({ line, column, message });
    const read = cellReader(cells, refuse, terms);
    const [percent, amount] = [read.number('percent'), read.amount('amount')];
    if ((percent === undefined) === (amount === undefined) && !problems.some((problem) => problem.line === line)) {
      refuse('percent', 'Give either a percentage or an amount.');
      continue;
    }
    const scope = read.text('scope')?.trim().toLowerCase() ?? 'order';
    const named = read.list('products', /;/) ?? [];
    for (const id of named) if (!productIds.has(id)) refuse('products', `There is no product “${shortened(id)}”.`);
    const parsed = CodeSchema.safeParse({
      code: read.text('code') ?? '',
      on: read.yes('on') ?? true,
      scope: scope === 'products' ? { kind: scope, productIds: named } : { kind: scope },
      discount: percent === undefined ? { kind: 'fixed', amount } : { kind: 'percent', percent },
      payments: read.text('payments')?.trim().toLowerCase() ?? 'first',
      minimum: read.amount('minimum'),
      from: read.moment('from'),
      until: read.moment('until'),
      limit: read.number('limit'),
      limitPerBuyer: read.number('limit_per_buyer'),
    });
    if (!parsed.success) {
      for (const issue of parsed.error.issues) {
        const path = issue.path.join('.');
        const column = CELLS[path] ?? String(issue.path[0] ?? 'code');
        if (!problems.some((problem) => problem.line === line && problem.column === column)) refuse(column, issue.message);
      }
      continue;
    }
    const code = normalizeCode(parsed.data.code);
    const before = seen.get(code);
    if (before !== undefined) refuse('code', `This code is on line ${before} already.`);
    seen.set(code, line);
    items.push({ terms: stripped({ ...parsed.data, code }), line });
  }
  return { items: problems.length > 0 ? [] : items, problems: toldProblems(problems) };
}

/** Without the fields that say nothing, so that what was read equals what was written. */
function stripped(code: Code): Code {
  return Object.fromEntries(Object.entries(code).filter(([, value]) => value !== undefined)) as Code;
}
