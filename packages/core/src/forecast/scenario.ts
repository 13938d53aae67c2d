import { z } from 'zod';
import { AmountSchema, multiplyRatio } from '../money';
import { type ForecastInput, type ForecastStop, type Sale, SaleSchema } from './input';

const ShareSchema = z.number().min(0).max(1);

/** What somebody wants to know of a funnel: what would be if these figures were others. */
export const ScenarioSchema = z.object({
  visitors: z.int().min(1).max(100_000_000).nullable().default(null).describe('Null for as many as came'),
  clickPrice: z.number().min(0).nullable().default(null).describe('Minor units; null for nothing'),
  rates: z.record(z.string(), ShareSchema).default({}).describe('By the id of the stop or bump'),
  prices: z.record(z.string(), AmountSchema).default({}).describe('What one sale brings without tax, by the id of the stop or bump; minor units'),
  bumps: z
    .array(z.object({ id: z.string(), stopId: z.string(), name: z.string(), share: ShareSchema, net: AmountSchema }))
    .max(20)
    .default([])
    .describe('Bumps that are not there yet'),
  upsells: z
    .array(z.object({ id: z.string(), afterId: z.string(), name: z.string(), share: ShareSchema, net: AmountSchema }))
    .max(20)
    .default([])
    .describe('Upsells that are not there yet, each right after a stop that sells'),
});
export type Scenario = z.infer<typeof ScenarioSchema>;
export const NO_SCENARIO: Scenario = ScenarioSchema.parse({});

/** A sale at another price: what is charged, and what comes later, change with it; costs stay. */
function priced(sale: Sale, net: number | undefined): Sale {
  if (net === undefined) return sale;
  const scaled = (amount: number) => (sale.net === 0 ? net : multiplyRatio(amount, net, sale.net));
  return { ...sale, net, gross: scaled(sale.gross ?? sale.net), later: sale.net === 0 ? 0 : scaled(sale.later) };
}

/** A funnel as it would be. What is typed is certain; what is not stays as it was seen. */
export function applyScenario(input: ForecastInput, { visitors, clickPrice, rates, prices, bumps, upsells }: Scenario): ForecastInput {
  const rate = <Of extends { id: string; rate: ForecastInput['stops'][number]['rate'] }>(of: Of) => {
    const share = rates[of.id];
    return share === undefined ? of.rate : { share };
  };
  const changed = input.stops.map((stop) => ({
    ...stop,
    rate: rate(stop),
    sale: stop.sale && priced(stop.sale, prices[stop.id]),
    bumps: [
      ...stop.bumps.map((bump) => ({ ...bump, rate: rate(bump), sale: priced(bump.sale, prices[bump.id]) })),
      ...bumps
        .filter(({ stopId }) => stopId === stop.id)
        .map(({ id, name, share, net }) => ({ id, name, rate: { share }, shown: 1, sale: SaleSchema.parse({ net }) })),
    ],
  }));
  return {
    ...input,
    visitors: visitors ?? input.visitors,
    clickPrice: clickPrice ?? input.clickPrice,
    stops: upsells.reduce(withUpsell, changed),
  };
}

/** An upsell between a stop and where its buyers go on; yes or no, they go on there. The one that was added last comes first. */
function withUpsell(stops: ForecastStop[], { id, afterId, name, share, net }: Scenario['upsells'][number]): ForecastStop[] {
  return stops.flatMap((stop): ForecastStop[] => {
    if (stop.id !== afterId) return [stop];
    const added = { id, name, rate: { share }, sale: SaleSchema.parse({ net }), bumps: [], yes: stop.yes, no: stop.yes };
    return [{ ...stop, yes: [{ to: id, share: 1 }] }, added];
  });
}
