import { z } from 'zod';
import { AmountSchema, percentOf, splitByWeight } from '../money';

const PercentSchema = z.number().gt(0, 'A discount is more than nothing.').max(100, 'A discount is at most 100 percent.');

/** A bump's or offer's own discount, per unit, off the regular or the current price. */
export const OfferDiscountSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('percent'), percent: PercentSchema, base: z.enum(['regular', 'current']) }),
  z.object({ kind: z.literal('amount'), amount: AmountSchema, base: z.enum(['regular', 'current']) }),
]);
export type OfferDiscount = z.infer<typeof OfferDiscountSchema>;

/**
 * One unit's price after an offer's discount, in minor units. A result above the current price (a percentage off the
 * regular price during a sale) is replaced by the current price, and `dearer` says so.
 */
export function applyOfferDiscount(prices: { regular: number; current: number }, discount: OfferDiscount | undefined): { unit: number; dearer: boolean } {
  if (!discount) return { unit: prices.current, dearer: false };
  const base = prices[discount.base];
  const unit = discount.kind === 'percent' ? percentOf(base, 100 - discount.percent) : Math.max(0, base - discount.amount);
  return unit > prices.current ? { unit: prices.current, dearer: true } : { unit, dearer: false };
}

/** A discount code as it applies to one order. */
export const CodeSchema = z.object({
  code: z.string().trim().min(1).max(40),
  scope: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('order') }),
    z.object({ kind: z.literal('main') }),
    z.object({ kind: z.literal('products'), productIds: z.array(z.string()).min(1) }),
  ]),
  discount: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('percent'), percent: PercentSchema }),
    z.object({ kind: z.literal('fixed'), amount: AmountSchema.min(1) }),
  ]),
  minimum: AmountSchema.optional().describe('Least value of the eligible lines before the code, minor units'),
  from: z.int().optional(),
  until: z.int().optional(),
});
export type Code = z.infer<typeof CodeSchema>;

export interface CodeLine {
  role: 'main' | 'bump' | 'upsell';
  productId: string;
  /** Line before the code, minor units. */
  amount: number;
}

export type CodeOutcome = { applied: true; perLine: number[] } | { applied: false; perLine: number[]; reason: string };

/**
 * What a code takes off each line, in minor units. Percent: `round(line × p / 100)` per line. Fixed: split over the
 * eligible lines in proportion to their value by largest remainder, never below zero; upsells get none of it.
 * @param now Unix time in milliseconds; start included, end excluded
 */
export function applyCode(code: Code, lines: readonly CodeLine[], now: number): CodeOutcome {
  const refuse = (reason: string): CodeOutcome => ({ applied: false, perLine: lines.map(() => 0), reason });
  if (code.from !== undefined && now < code.from) return refuse('This code is not valid yet.');
  if (code.until !== undefined && now >= code.until) return refuse('This code has ended.');
  const { scope, discount } = code;
  const eligible = lines.map(
    (line) =>
      (scope.kind === 'order' || (scope.kind === 'main' ? line.role === 'main' : scope.productIds.includes(line.productId))) &&
      !(discount.kind === 'fixed' && line.role === 'upsell'),
  );
  const weights = lines.map((line, index) => (eligible[index] ? line.amount : 0));
  const value = weights.reduce((sum, weight) => sum + weight, 0);
  if (!eligible.includes(true)) return refuse('This code is for other products.');
  if (code.minimum !== undefined && value < code.minimum) return refuse('The order does not reach this code’s minimum.');
  const perLine =
    discount.kind === 'percent' ? weights.map((weight) => percentOf(weight, discount.percent)) : splitByWeight(Math.min(discount.amount, value), weights);
  return { applied: true, perLine };
}
