import { z } from 'zod';

/** What one unit cost for a while, minor units; start included, end excluded, Unix time in milliseconds. */
export const PricePeriodSchema = z.object({ from: z.int(), until: z.int(), amount: z.int(), onSale: z.boolean() });
export type PricePeriod = z.infer<typeof PricePeriodSchema>;

/** What a price was before, kept by the server whenever it is changed. */
export const PriceHistorySchema = z.object({
  since: z.int().describe('Since when it is as it stands, Unix time in milliseconds'),
  past: z.array(PricePeriodSchema).describe('Before that, oldest first'),
});
export type PriceHistory = z.infer<typeof PriceHistorySchema>;

interface Sale {
  amount: number;
  from?: number | undefined;
  until?: number | undefined;
}

/** A price that can be reduced: once, all instalments together, or one period, in minor units. */
export interface Reducible {
  regular: number;
  sale?: Sale | undefined;
  history?: PriceHistory | undefined;
}

const DAY_MS = 24 * 60 * 60 * 1000;
/** A reduction is measured against the lowest price of so long before it: Directive 98/6/EC, Article 6a. */
const LOOKED_BACK_MS = 30 * DAY_MS;
/** A sale may be long; what came more than a year before is not asked for. */
const KEPT_MS = 400 * DAY_MS;
const MOST_KEPT = 200;

/** What a price costs between two moments, period by period. */
function periodsOf({ regular, sale }: Reducible, from: number, until: number): PricePeriod[] {
  if (from >= until) return [];
  const cuts = [...new Set([from, ...[sale?.from, sale?.until].filter((at): at is number => at !== undefined && at > from && at < until)])].sort(
    (a, b) => a - b,
  );
  return cuts.map((start, index) => {
    const onSale = sale !== undefined && (sale.from ?? start) <= start && start < (sale.until ?? Number.POSITIVE_INFINITY);
    return { from: start, until: cuts[index + 1] ?? until, amount: onSale ? sale.amount : regular, onSale };
  });
}

/**
 * What is struck through beside what is asked for one unit: the lowest price of the 30 days before the reduction, and never more
 * than the regular price. Of a sale that went on and only fell, the days before its beginning count. What nobody knows of a price
 * from before its history began counts as its regular price. (Directive 98/6/EC, Article 6a.)
 * @param unit what is asked, minor units: the current price, or less by an offer's own discount, which is a reduction of today
 * @param now Unix time in milliseconds
 * @returns minor units; null where nothing is reduced
 */
export function struckPrice(price: Reducible, unit: number, now: number): number | null {
  const { regular, history } = price;
  if (unit >= regular) return null;
  const since = history?.since ?? Math.min(now, price.sale?.from ?? now) - LOOKED_BACK_MS;
  const known = [...(history?.past ?? []), ...periodsOf(price, since, now)];
  const current = periodsOf(price, now, now + 1)[0]?.amount ?? regular;
  // An offer reduces what everybody else pays today.
  const begun = unit < current ? now : saleBegan(known, current, now);
  const before = known.filter(({ from, until }) => from < begun && until > begun - LOOKED_BACK_MS);
  const lowest = Math.min(regular, ...(unit < current ? [current] : []), ...before.map(({ amount }) => amount));
  return lowest > unit ? lowest : null;
}

/** When the sale began that goes on now: back through what was on sale before without a gap, as long as it cost no less than after. */
function saleBegan(known: readonly PricePeriod[], current: number, now: number): number {
  let begun = now;
  let after = current;
  for (const { from, until, amount, onSale } of [...known].reverse()) {
    if (!onSale || until < begun || amount < after) break;
    begun = from;
    after = amount;
  }
  return begun;
}

/**
 * A price as it is saved: with what it was before, if it has become another one.
 * @param before as it stood until now; undefined for a new one
 * @param standing since when that stood, where its own history does not say
 */
export function withHistory<P extends object>(price: P, before: object | undefined, standing: number, now: number): P {
  if (!isReducible(price)) return price;
  const { history: _sent, ...terms } = price;
  if (!before || !isReducible(before) || unitOf(before) !== unitOf(price)) return { ...terms, history: { since: now, past: [] } } as unknown as P;
  const { history = { since: standing, past: [] } } = before;
  if (sameCost(before, price)) return { ...terms, history } as unknown as P;
  const past = [...history.past, ...periodsOf(before, history.since, now)].filter(({ until }) => until > now - KEPT_MS).slice(-MOST_KEPT);
  return { ...terms, history: { since: now, past } } as unknown as P;
}

/** A price without what it was before: for files, and for what is kept with an order. */
export function withoutHistory<P extends object>(price: P): P {
  if (!('history' in price)) return price;
  const { history: _history, ...rest } = price as P & Reducible;
  return rest as unknown as P;
}

const isReducible = (price: object): price is Reducible => 'regular' in price;
/** What one unit of a price is: amounts of one month and of one year are no prices of the same thing. */
const unitOf = (price: object): string => ('interval' in price && 'kind' in price && price.kind === 'subscription' ? JSON.stringify(price.interval) : 'whole');
const sameCost = (one: Reducible, other: Reducible): boolean =>
  one.regular === other.regular && one.sale?.amount === other.sale?.amount && one.sale?.from === other.sale?.from && one.sale?.until === other.sale?.until;
