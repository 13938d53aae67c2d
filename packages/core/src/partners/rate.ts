import { z } from 'zod';
import { AmountSchema, hasDecimals } from '../money';

/** How many percent a partner gets: from 0, at most 100, with at most two decimals. */
export const CommissionPercentSchema = z
  .number('Enter a percentage, for example 30.')
  .min(0, 'A commission is not below nothing.')
  .max(100, 'A commission is at most 100 percent.')
  .refine((percent) => hasDecimals(percent, 2), 'A percentage has at most two decimals.');

/** What a partner gets of a line. */
export const RateSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('percent'), percent: CommissionPercentSchema.describe('Of the line without tax and discounts') }),
  z.object({ kind: z.literal('amount'), amount: AmountSchema.describe('For each of the quantity, minor units') }),
]);
export type Rate = z.infer<typeof RateSchema>;

/** What is paid for something: for everything where no product is named, for every price of it where none is. */
export const RateRuleSchema = z.object({
  productId: z.string().max(40).nullable(),
  priceId: z.string().max(40).nullable(),
  rate: RateSchema,
});
export type RateRule = z.infer<typeof RateRuleSchema>;

/** Rules with the narrowest first, each thing once. */
export const RateRulesSchema = z
  .array(RateRuleSchema)
  .max(200, 'Keep to 200 rates.')
  .superRefine((rules, context) => {
    const seen = new Set<string>();
    for (const [index, { productId, priceId }] of rules.entries()) {
      const key = `${productId} ${priceId}`;
      if (seen.has(key)) context.addIssue({ code: 'custom', path: [index], message: 'There are two rates for the same. Take one of them away.' });
      seen.add(key);
    }
  });

/** What a rate is of. */
interface Sold {
  productId: string | null;
  priceId: string | null;
}

const fits = (rule: RateRule, { productId, priceId }: Sold): boolean =>
  (rule.productId === null || rule.productId === productId) && (rule.priceId === null || rule.priceId === priceId);
const narrowness = ({ productId, priceId }: RateRule): number => Number(priceId !== null) * 2 + Number(productId !== null);

/**
 * The rate for something that was sold: of a partner's own rules the narrowest that fits, a price before its product before
 * everything; only where none fits, of the programme's. Undefined if nothing is paid for it.
 */
export function rateFor(sold: Sold, own: readonly RateRule[], general: readonly RateRule[]): Rate | undefined {
  for (const rules of [own, general]) {
    const fitting = rules.filter((rule) => fits(rule, sold)).sort((a, b) => narrowness(b) - narrowness(a));
    if (fitting[0]) return fitting[0].rate;
  }
  return undefined;
}
