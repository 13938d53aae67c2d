import { z } from 'zod';
import type { TaxClass } from '../catalog';
import { hasDecimals } from '../money';
import { CountrySchema } from '../shop';

/** Four decimals is what sums are exact to; some places have three. */
const RateSchema = z
  .number('Enter a percentage.')
  .min(0, 'A rate cannot be negative.')
  .max(100, 'A rate is a percentage up to 100.')
  .refine((rate) => hasDecimals(rate, 4), 'A rate has at most four decimals.');

/** Tax rates of one place for a time, in percent. Rows of a region come before those of its country. */
export const TaxRowSchema = z
  .object({
    country: CountrySchema,
    region: z.string().trim().min(1).max(40).optional(),
    union: z.string().max(20).optional().describe('Customs union within which business buyers account for the tax themselves'),
    from: z.int().optional().describe('Unix time in milliseconds from which the row holds; open if missing'),
    until: z.int().optional().describe('Unix time in milliseconds until which it holds, itself excluded; until the next row begins if missing'),
    standard: RateSchema,
    reduced: RateSchema,
    digital: RateSchema,
  })
  .refine((row) => row.from === undefined || row.until === undefined || row.from < row.until, {
    message: 'The row must end after it starts.',
    path: ['until'],
  });
export type TaxRow = z.infer<typeof TaxRowSchema>;

/** Rates by place and date. For one place rows must neither overlap nor leave a gap between them. */
export const TaxTableSchema = z.array(TaxRowSchema).superRefine((table, context) => {
  for (const problem of taxTableProblems(table)) context.addIssue({ code: 'custom', path: [problem.row, problem.field], message: problem.message });
});
export type TaxTable = z.infer<typeof TaxTableSchema>;

export interface TaxTableProblem {
  /** Index of the row at fault. */
  row: number;
  field: 'from' | 'until';
  message: string;
}

/** Rows of one place that hold at the same time, or between which no rate holds. */
export function taxTableProblems(table: readonly TaxRow[]): TaxTableProblem[] {
  const places = new Map<string, Array<{ row: TaxRow; index: number }>>();
  for (const [index, row] of table.entries()) {
    const place = `${row.country} ${row.region ?? ''}`.trim();
    const rows = places.get(place);
    if (rows) rows.push({ row, index });
    else places.set(place, [{ row, index }]);
  }
  const problems: TaxTableProblem[] = [];
  for (const [place, rows] of places) {
    rows.sort((a, b) => (a.row.from ?? Number.NEGATIVE_INFINITY) - (b.row.from ?? Number.NEGATIVE_INFINITY) || a.index - b.index);
    for (const [position, { row, index }] of rows.entries()) {
      const before = rows[position - 1]?.row;
      if (!before) continue;
      if (before.from === row.from) problems.push({ row: index, field: 'from', message: `Two rows for ${place} begin at the same time.` });
      else if (before.until !== undefined && before.until > (row.from ?? 0)) {
        problems.push({ row: index, field: 'from', message: `This row for ${place} begins before the one before it ends.` });
      } else if (before.until !== undefined && before.until < (row.from ?? 0)) {
        problems.push({ row: index, field: 'from', message: `Between this row for ${place} and the one before it no rate holds.` });
      }
    }
  }
  return problems;
}

/**
 * The row that holds at a place and moment: the latest that has begun, the region's before the country's.
 * Undefined outside all tax areas, where the rate is 0.
 */
export function findTaxRow(table: TaxTable, country: string, region: string | undefined, now: number): TaxRow | undefined {
  let best: TaxRow | undefined;
  for (const row of table) {
    if (row.country !== country || (row.from !== undefined && row.from > now) || (row.until !== undefined && row.until <= now)) continue;
    if (row.region !== undefined && row.region !== region) continue;
    const rank = Number(row.region !== undefined) - Number(best?.region !== undefined);
    if (!best || rank > 0 || (rank === 0 && (row.from ?? 0) >= (best.from ?? 0))) best = row;
  }
  return best;
}

/** The countries of a union, each once, however many dated rows it has. */
export const unionCountries = (table: readonly TaxRow[], union: string): string[] => [
  ...new Set(table.flatMap((row) => (row.union === union ? [row.country] : []))),
];

/** The rate in percent of one class in a row; 0 for exempt goods and where there is no row. */
export function rateOf(row: TaxRow | undefined, taxClass: TaxClass): number {
  return !row || taxClass === 'exempt' ? 0 : row[taxClass];
}
