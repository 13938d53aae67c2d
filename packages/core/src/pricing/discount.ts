import { z } from 'zod';
import { AmountSchema, DiscountPercentSchema, percentOf } from '../money';

/** A bump's or offer's own discount, per unit, off the regular or the current price. */
export const OfferDiscountSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('percent'), percent: DiscountPercentSchema, base: z.enum(['regular', 'current']) }),
  z.object({ kind: z.literal('amount'), amount: AmountSchema, base: z.enum(['regular', 'current']) }),
]);
export type OfferDiscount = z.infer<typeof OfferDiscountSchema>;

/**
 * One unit's price after an offer's discount, in minor units: of all instalments together, of one period. A result
 * above the current price (a percentage off the regular price during a sale) is replaced by the current price, and
 * `dearer` says so.
 */
export function applyOfferDiscount(prices: { regular: number; current: number }, discount: OfferDiscount | undefined): { unit: number; dearer: boolean } {
  if (!discount) return { unit: prices.current, dearer: false };
  const base = prices[discount.base];
  const unit = discount.kind === 'percent' ? percentOf(base, 100 - discount.percent) : Math.max(0, base - discount.amount);
  return unit > prices.current ? { unit: prices.current, dearer: true } : { unit, dearer: false };
}
