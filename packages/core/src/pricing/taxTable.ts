import { z } from 'zod';
import type { TaxClass } from '../catalog';
import { CountrySchema } from '../shop';

const RateSchema = z.number().min(0, 'A rate cannot be negative.').max(100, 'A rate is a percentage up to 100.');

/** Tax rates of one place from a day on, in percent. Rows of a region come before those of its country. */
export const TaxRowSchema = z.object({
  country: CountrySchema,
  region: z.string().max(40).optional(),
  union: z.string().max(20).optional().describe('Customs union within which business buyers account for the tax themselves'),
  from: z.int().optional().describe('Unix time in milliseconds from which the row holds; open if missing'),
  standard: RateSchema,
  reduced: RateSchema,
  digital: RateSchema,
});
export type TaxRow = z.infer<typeof TaxRowSchema>;

export const TaxTableSchema = z.array(TaxRowSchema);
export type TaxTable = z.infer<typeof TaxTableSchema>;

/**
 * The row that holds at a place and moment: the latest that has begun, the region's before the country's.
 * Undefined outside all tax areas, where the rate is 0.
 */
export function findTaxRow(table: TaxTable, country: string, region: string | undefined, now: number): TaxRow | undefined {
  let best: TaxRow | undefined;
  for (const row of table) {
    if (row.country !== country || (row.from ?? 0) > now) continue;
    if (row.region !== undefined && row.region !== region) continue;
    const rank = Number(row.region !== undefined) - Number(best?.region !== undefined);
    if (!best || rank > 0 || (rank === 0 && (row.from ?? 0) >= (best.from ?? 0))) best = row;
  }
  return best;
}

/** The rate in percent of one class in a row; 0 for exempt goods and where there is no row. */
export function rateOf(row: TaxRow | undefined, taxClass: TaxClass): number {
  return !row || taxClass === 'exempt' ? 0 : row[taxClass];
}
