import { z } from 'zod';
import { AmountSchema, multiplyRatio } from '../money';

/** A paid line; shipping is a line as well. Amounts in minor units, tax included. */
const PaidLineSchema = z
  .object({
    id: z.string().min(1),
    total: AmountSchema.describe('Paid, tax included'),
    tax: AmountSchema.describe('Of it tax'),
    refunded: AmountSchema.default(0).describe('Returned before, tax included'),
  })
  .refine((line) => line.tax <= line.total, { message: 'The tax is more than the line.', path: ['tax'] })
  .refine((line) => line.refunded <= line.total, { message: 'More was returned than was paid.', path: ['refunded'] });

export const RefundInputSchema = z
  .object({
    lines: z.array(PaidLineSchema).min(1, 'There is nothing to return.'),
    refund: z.union([z.literal('everything'), z.array(z.object({ id: z.string(), amount: AmountSchema.min(1, 'Enter an amount above zero.') })).min(1)]),
  })
  .superRefine(({ lines, refund }, context) => {
    const refuse = (path: Array<string | number>, message: string) => context.addIssue({ code: 'custom', path, message });
    if (new Set(lines.map((line) => line.id)).size < lines.length) refuse(['lines'], 'Each line needs an id of its own.');
    if (refund === 'everything') return;
    const asked = new Map<string, number>();
    for (const [index, { id, amount }] of refund.entries()) {
      const line = lines.find((candidate) => candidate.id === id);
      const together = (asked.get(id) ?? 0) + amount;
      asked.set(id, together);
      if (!line) refuse(['refund', index, 'id'], `There is no line “${id}”.`);
      else if (together > line.total - line.refunded)
        refuse(['refund', index, 'amount'], `Only ${line.total - line.refunded} is left on line “${id}”; nothing is returned.`);
    }
  });
export type RefundInput = z.infer<typeof RefundInputSchema>;

export const RefundSchema = z.object({
  lines: z.array(
    z.object({
      id: z.string(),
      amount: z.int().describe('Returned now, tax included'),
      tax: z.int().describe('Of it tax'),
      net: z.int(),
      left: z.int().describe('Still to be returned, tax included'),
      taxLeft: z.int(),
    }),
  ),
  total: z.int(),
  tax: z.int(),
  net: z.int(),
});
export type Refund = z.infer<typeof RefundSchema>;

/**
 * What of a line was returned without tax: what was returned less its tax by the running total, `refunded −
 * round(tax × refunded / total)`. The one figure that refunds, reports and commissions go by. Minor units.
 */
export const refundedNet = ({ total, tax, refunded }: { total: number; tax: number; refunded: number }): number =>
  total === 0 ? 0 : refunded - multiplyRatio(tax, refunded, total);

/**
 * What a refund returns, line by line. The returned tax follows the running total, `round(tax × returned / total)` less
 * what was returned before, so that parts add up to the whole.
 * @throws RangeError with a readable message, and nothing is returned, if more is asked than is left on a line
 */
export function refund(input: RefundInput): Refund {
  const parsed = RefundInputSchema.safeParse(input);
  if (!parsed.success) throw new RangeError(parsed.error.issues.map((issue) => issue.message).join(' '));
  const { lines, refund: asked } = parsed.data;
  const amounts = new Map<string, number>();
  if (asked !== 'everything') for (const { id, amount } of asked) amounts.set(id, (amounts.get(id) ?? 0) + amount);
  const returned = lines.flatMap(({ id, total, tax, refunded }) => {
    const amount = asked === 'everything' ? total - refunded : (amounts.get(id) ?? 0);
    if (amount === 0) return [];
    const taxBefore = multiplyRatio(tax, refunded, total);
    const taxAfter = multiplyRatio(tax, refunded + amount, total);
    const taxNow = taxAfter - taxBefore;
    return [{ id, amount, tax: taxNow, net: amount - taxNow, left: total - refunded - amount, taxLeft: tax - taxAfter }];
  });
  const sum = (of: (line: (typeof returned)[number]) => number) => returned.reduce((all, line) => all + of(line), 0);
  return { lines: returned, total: sum((line) => line.amount), tax: sum((line) => line.tax), net: sum((line) => line.net) };
}
