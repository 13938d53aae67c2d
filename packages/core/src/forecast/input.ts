import { z } from 'zod';
import { AmountSchema, CurrencySchema } from '../money';

/** A rate as it was seen, or as somebody thinks it is. */
export const RateSchema = z.union(
  [
    z
      .object({ reached: z.int().min(0), came: z.int().min(0) })
      .refine(({ reached, came }) => reached <= came, 'More reached it than came.')
      .describe('Seen: its uncertainty is that of so many people'),
    z.object({ share: z.number().min(0).max(1) }).describe('Typed: taken as certain'),
  ],
  'Give a rate as how many reached it of how many came, or as a share from 0 to 1.',
);
export type Rate = z.infer<typeof RateSchema>;

/** What one sale brings and costs; minor units. */
export const SaleSchema = z.object({
  net: AmountSchema.describe('Due today without tax and shipping'),
  gross: AmountSchema.optional().describe('Charged today, tax and shipping included; what fees are reckoned from. As `net` if it is missing'),
  later: AmountSchema.default(0).describe('Due later of plans that end, tax included; shown beside'),
  goods: AmountSchema.default(0).describe('What the goods cost'),
  sending: z.int().default(0).describe('What buyers pay for shipping without tax, less what sending costs'),
  commission: AmountSchema.default(0).describe('What partners get of it'),
});
export type Sale = z.infer<typeof SaleSchema>;

const WaySchema = z.object({
  to: z.string().nullable().describe('The stop it leads to; null out of the funnel'),
  share: z.number().min(0).max(1).default(1).describe('Of those who go this way'),
});

export const ForecastStopSchema = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  rate: RateSchema.describe('Of those who come, who reach its goal'),
  sale: SaleSchema.nullable().default(null).describe('What reaching it sells; null for nothing'),
  bumps: z
    .array(
      z.object({
        id: z.string().min(1),
        name: z.string().min(1),
        rate: RateSchema.describe('Of those who are shown it, who take it'),
        shown: z.number().min(0).max(1).default(1).describe('Of the buyers, how many are shown it'),
        sale: SaleSchema,
      }),
    )
    .default([]),
  yes: z.array(WaySchema).default([]).describe('Where those go who reached it'),
  no: z.array(WaySchema).default([]).describe('Where those go who said no; without a way they leave'),
});
export type ForecastStop = z.infer<typeof ForecastStopSchema>;

export const ForecastInputSchema = z
  .object({
    currency: CurrencySchema,
    visitors: z.int().min(1, 'Somebody has to come.').max(100_000_000).describe('Who come in; one click is one visitor'),
    clickPrice: z.number().min(0).default(0).describe('What one of them costs, minor units'),
    entryId: z.string(),
    stops: z.array(ForecastStopSchema).min(1).max(200),
    fees: z.object({ percent: z.number().min(0).max(100).default(0), fixed: AmountSchema.default(0) }).prefault({}),
    refunds: RateSchema.prefault({ share: 0 }).describe('Of what is sold, the part that is given back; fees stay with the processor'),
    samples: z.int().min(100).max(100_000).default(20_000),
    seed: z.int().min(1).max(2_147_483_647).default(1),
  })
  .superRefine(({ stops, entryId }, context) => {
    const refuse = (path: Array<string | number>, message: string) => context.addIssue({ code: 'custom', path, message });
    const ids = new Set(stops.map(({ id }) => id));
    if (ids.size < stops.length) refuse(['stops'], 'Each stop needs an id of its own.');
    if (!ids.has(entryId)) refuse(['entryId'], 'There is no such stop to come in at.');
    for (const [index, stop] of stops.entries()) {
      for (const way of ['yes', 'no'] as const) {
        for (const [at, { to }] of stop[way].entries()) if (to !== null && !ids.has(to)) refuse(['stops', index, way, at, 'to'], 'There is no such stop.');
        if (stop[way].reduce((sum, { share }) => sum + share, 0) > 1 + 1e-9) refuse(['stops', index, way], 'These shares are more than all of them.');
      }
    }
  });
export type ForecastInput = z.infer<typeof ForecastInputSchema>;
