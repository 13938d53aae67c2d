import { type TaxRow, TaxRowSchema, type TaxTable, taxTableProblems } from '../pricing';
import { type CellTerms, cellReader, cellWriter } from './cells';
import { readCsv, writeCsv } from './csv';
import { isHopeless, toldProblems } from './problems';
import type { Import } from './productsCsv';

/** Every column of the tax file with what it says. */
export const TAX_FILE_COLUMNS: ReadonlyArray<{ name: string; says: string }> = [
  { name: 'country', says: 'two letters, ISO 3166; needed' },
  { name: 'region', says: 'region of it with rates of its own' },
  { name: 'union', says: 'EU for the member states of the European Union' },
  { name: 'from', says: 'day from which the row holds; empty is open' },
  { name: 'until', says: 'day until which it holds, itself excluded; empty is open' },
  { name: 'standard', says: 'percent; needed' },
  { name: 'reduced', says: 'percent; needed' },
  { name: 'electronic', says: 'percent, of electronic publications; needed' },
];

/** What the column of electronic publications was called in earlier files. */
const OLDER_NAME = 'digital';
const CELLS: Record<string, string> = { digital: 'electronic' };

/** A tax table as CSV. */
export function taxTableToCsv(table: TaxTable, terms: CellTerms): string {
  const cell = cellWriter(terms);
  return writeCsv(
    TAX_FILE_COLUMNS.map((column) => column.name),
    table.map((row) => [
      row.country,
      row.region ?? '',
      row.union ?? '',
      cell.moment(row.from),
      cell.moment(row.until),
      String(row.standard),
      String(row.reduced),
      String(row.digital),
    ]),
  );
}

/** Reads a whole tax table from CSV: rates, overlaps and gaps are told at their line. */
export function taxTableFromCsv(text: string, terms: CellTerms): Import<TaxRow> {
  const { columns, rows, problems } = readCsv(text, [...TAX_FILE_COLUMNS.map((column) => column.name), OLDER_NAME], ['country', 'standard', 'reduced']);
  if (!columns.includes('electronic') && !columns.includes(OLDER_NAME))
    problems.push({ line: 1, column: 'electronic', message: 'The column “electronic” is missing.' });
  const lines: number[] = [];
  const items: TaxRow[] = [];
  for (const { line, cells } of rows) {
    if (isHopeless(problems)) break;
    const read = cellReader(cells, (column, message) => problems.push({ line, column, message }), terms);
    const optional = {
      region: read.text('region')?.trim(),
      union: read.text('union')?.trim().toUpperCase(),
      from: read.moment('from'),
      until: read.moment('until'),
    };
    const parsed = TaxRowSchema.safeParse({
      country: read.text('country')?.trim().toUpperCase() ?? '',
      ...Object.fromEntries(Object.entries(optional).filter(([, value]) => value !== undefined)),
      standard: read.number('standard'),
      reduced: read.number('reduced'),
      digital: read.number('electronic') ?? read.number(OLDER_NAME),
    });
    if (parsed.success) {
      items.push(parsed.data);
      lines.push(line);
      continue;
    }
    for (const issue of parsed.error.issues) {
      const column = CELLS[String(issue.path[0])] ?? String(issue.path[0]);
      if (!problems.some((problem) => problem.line === line && problem.column === column)) problems.push({ line, column, message: issue.message });
    }
  }
  for (const { row, field, message } of taxTableProblems(items)) problems.push({ line: lines[row] ?? 0, column: field, message });
  return { items: problems.length > 0 ? [] : items, problems: toldProblems(problems) };
}
