import beta from '@stdlib/random-base-beta';
import { z } from 'zod';
import { seededRandom } from '../statistics';
import type { ForecastInput, Rate } from './input';
import { meanRate, modelOf, type Reckoned, reckon, seenRate } from './model';

const SpreadSchema = z
  .object({ low: z.number().describe('One in twenty is below'), middle: z.number(), high: z.number().describe('One in twenty is above') })
  .describe('Of the sampled funnels');

export const ForecastSchema = z.object({
  currency: z.string(),
  visitors: z.int(),
  stops: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      people: z.number().describe('Visitors who come to it, expected'),
      income: z.number().describe('What it sells without tax and shipping, bumps included, before refunds; minor units'),
    }),
  ),
  income: z.number().describe('Without tax and shipping, less refunds; minor units'),
  refunded: z.number(),
  later: z.number().describe('Due later of plans that end; in no other figure'),
  clicks: z.number().describe('What the visitors cost'),
  profit: z.number().describe('After refunds, fees, goods, shipping, commissions and clicks'),
  profitPerVisitor: z.number(),
  breakEvenClickPrice: z.number().describe('What one visitor may cost at most, minor units; below 0 where it does not pay even for nothing'),
  spread: z.object({
    income: SpreadSchema,
    profit: SpreadSchema,
    breakEvenClickPrice: SpreadSchema,
    lossChance: z.number().describe('How many of the sampled funnels lose money'),
  }),
  sensitivities: z
    .array(
      z.object({
        id: z.string(),
        name: z.string(),
        kind: z.enum(['stop', 'bump']),
        rank: z.int().describe('From 1; those that earn exactly the same share one'),
        seen: z.number().describe('As the report has it'),
        rate: z.number().describe('As it is reckoned with: of few people it is smoothed'),
        raised: z.number().describe('A tenth more, at most 1'),
        change: z.number().describe('Of the profit per visitor, minor units'),
      }),
    )
    .describe('What a tenth more of each rate would earn, the most first'),
});
export type Forecast = z.infer<typeof ForecastSchema>;

const A_TENTH = 1.1;

/** How far a forecast is; it ends early when the answer is true. */
export type Progress = (done: number, of: number) => boolean;

/** Draws one rate out of its Beta posterior (prior 1, 1); what was typed is certain. */
function sampler(rate: Rate, random: () => number): () => number {
  return 'share' in rate ? () => rate.share : beta.factory(rate.reached + 1, rate.came - rate.reached + 1, { prng: random });
}

const PORTION = 1000;

/**
 * What a funnel will come to: expected values by propagating rates through its stops, their spread by drawing each rate
 * from its posterior, and what a tenth more of each would earn.
 * @param progress told after each thousand of sampled funnels; what is sampled until it says to stop counts
 * @throws RangeError if its stops lead in a circle
 */
export function forecast(input: ForecastInput, progress?: Progress): Forecast {
  const model = modelOf(input);
  const means = Float64Array.from(model.rates, ({ rate }) => meanRate(rate));
  const expected = reckon(model, means);
  const { visitors, clickPrice } = model;
  const sensitivities = model.rates.flatMap(({ id, name, kind }, index) => {
    if (kind === 'refund') return [];
    const rate = means[index] ?? 0;
    const raised = Math.min(1, rate * A_TENTH);
    const changed = means.slice();
    changed[index] = raised;
    return [
      {
        id,
        name,
        kind,
        seen: seenRate(model.rates[index]?.rate ?? { share: 0 }),
        rate,
        raised,
        change: (reckon(model, changed).profit - expected.profit) / visitors,
      },
    ];
  });
  return {
    currency: input.currency,
    visitors,
    stops: model.places.map(({ id }, index) => ({
      id,
      name: input.stops.find((stop) => stop.id === id)?.name ?? id,
      people: expected.people[index] ?? 0,
      income: expected.income[index] ?? 0,
    })),
    income: expected.net - expected.refunded,
    refunded: expected.refunded,
    later: expected.later,
    clicks: visitors * clickPrice,
    profit: expected.profit,
    profitPerVisitor: expected.profit / visitors,
    breakEvenClickPrice: (expected.profit + visitors * clickPrice) / visitors,
    spread: spreadOf(input, model, progress),
    sensitivities: ranked(sensitivities),
  };
}

/** Two changes this close are one: they differ by how they were reckoned, not by what they come to. */
const SAME = 1e-9;

/** The most first; what earns exactly the same has the same rank, and is no better and no worse. */
function ranked<Of extends { change: number }>(all: Of[]): Array<Of & { rank: number }> {
  const sorted = all.sort((a, b) => b.change - a.change);
  let rank = 0;
  return sorted.map((each, index) => {
    const before = sorted[index - 1];
    if (!before || before.change - each.change > SAME * Math.max(1, Math.abs(before.change))) rank = index + 1;
    return { ...each, rank };
  });
}

function spreadOf({ samples, seed }: ForecastInput, model: ReturnType<typeof modelOf>, progress?: Progress): Forecast['spread'] {
  const random = seededRandom(seed);
  const draw = model.rates.map(({ rate }) => sampler(rate, random));
  const rates = new Float64Array(draw.length);
  const into: Reckoned = reckon(model, rates);
  const income = new Float64Array(samples);
  const profit = new Float64Array(samples);
  let done = 0;
  while (done < samples) {
    for (const end = Math.min(samples, done + PORTION); done < end; done++) {
      for (let index = 0; index < draw.length; index++) rates[index] = (draw[index] as () => number)();
      reckon(model, rates, into);
      income[done] = into.net - into.refunded;
      profit[done] = into.profit;
    }
    if (progress?.(done, samples)) break;
  }
  const sorted = (values: Float64Array) => values.slice(0, done).sort();
  const [incomes, profits] = [sorted(income), sorted(profit)];
  const within = (values: Float64Array, of = (value: number) => value) => {
    const at = (share: number) => of(values[Math.min(done - 1, Math.floor(share * done))] ?? 0);
    return { low: at(0.05), middle: at(0.5), high: at(0.95) };
  };
  const { visitors, clickPrice } = model;
  return {
    income: within(incomes),
    profit: within(profits),
    breakEvenClickPrice: within(profits, (value) => value / visitors + clickPrice),
    lossChance: profits.filter((value) => value < 0).length / Math.max(1, done),
  };
}
