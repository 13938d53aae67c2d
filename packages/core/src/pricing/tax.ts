import { z } from 'zod';
import { TaxClassSchema } from '../catalog';
import { percentOf, taxWithin } from '../money';

/** Tax on one amount. `net + tax = total`; the rate is a percentage. */
export const TaxedSchema = z.object({ rate: z.number(), net: z.int(), tax: z.int(), total: z.int() });
export type Taxed = z.infer<typeof TaxedSchema>;

/** The share of an amount that falls to one tax class; a bundle has several. `base` is gross or net as the shop’s prices are. */
export const TaxShareSchema = TaxedSchema.extend({ taxClass: TaxClassSchema, base: z.int() });
export type TaxShare = z.infer<typeof TaxShareSchema>;

/**
 * Tax of one amount by destination. Inclusive: tax = round(gross × r / (100 + r)) and the total stays. Exclusive:
 * tax = round(net × r / 100) on top. Reverse charge: no tax, and an inclusive amount loses the destination's rate first.
 * @param amount minor units
 * @param rate percent
 */
export function taxAmount(amount: number, rate: number, inclusive: boolean, reverseCharge: boolean): Taxed {
  const within = inclusive ? taxWithin(amount, rate) : 0;
  if (reverseCharge) return { rate: 0, net: amount - within, tax: 0, total: amount - within };
  if (inclusive) return { rate, net: amount - within, tax: within, total: amount };
  const onTop = percentOf(amount, rate);
  return { rate, net: amount, tax: onTop, total: amount + onTop };
}
