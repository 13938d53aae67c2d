import { z } from 'zod';
import { LineRoleSchema } from '../catalog';
import { AmountSchema, multiplyRatio, percentOf } from '../money';
import { refundedNet } from '../orders';
import { ProgramSchema } from './program';
import { type Rate, RateRulesSchema, RateSchema, rateFor } from './rate';

/** A paid line of an order without its shipping, as commissions are reckoned of it; minor units. */
export const EarningLineSchema = z
  .object({
    id: z.string().min(1),
    productId: z.string().nullable(),
    priceId: z.string().nullable().default(null),
    role: LineRoleSchema.default('main'),
    part: z.enum(['whole', 'set-up fee']).default('whole'),
    isLater: z.boolean().default(false).describe('A later charge of a plan'),
    quantity: z.int().min(1).default(1),
    total: AmountSchema.describe('Paid, tax included'),
    net: AmountSchema.describe('The same without tax; discounts are off already'),
    refunded: AmountSchema.default(0).describe('Given back since, tax included'),
  })
  .refine(({ net, total }) => net <= total, { message: 'Without tax it is more than with it.', path: ['net'] })
  .refine(({ refunded, total }) => refunded <= total, { message: 'More was given back than was paid.', path: ['refunded'] });
export type EarningLine = z.infer<typeof EarningLineSchema>;

export const CommissionInputSchema = z.object({
  lines: z.array(EarningLineSchema),
  program: ProgramSchema,
  rules: RateRulesSchema.default([]).describe('The partner’s own rates, which come before the programme’s'),
});
export type CommissionInput = z.infer<typeof CommissionInputSchema>;

export const CommissionSchema = z.object({
  lines: z.array(
    z.object({
      id: z.string(),
      base: z.int().describe('What is left of the line after refunds, without tax; minor units'),
      rate: RateSchema.nullable().describe('Null where nothing is paid for it'),
      commission: z.int(),
      secondTier: z.int().describe('For whoever recruited the partner'),
    }),
  ),
  commission: z.int(),
  secondTier: z.int(),
});
export type Commission = z.infer<typeof CommissionSchema>;

type Sum = Pick<EarningLine, 'part' | 'quantity' | 'total' | 'net' | 'refunded'>;

/** What is left of a line after refunds without tax; minor units. */
export const remainingNet = ({ total, net, refunded }: Pick<Sum, 'total' | 'net' | 'refunded'>): number =>
  net - refundedNet({ total, tax: total - net, refunded });

/**
 * What a rate comes to of a line as it stands now, rounded once; minor units. A percentage is of what is left of it without
 * tax; an amount is for each of the quantity, less what part of the line was given back, and never for a set-up fee.
 */
export function commissionOf(rate: Rate, line: Sum): number {
  const base = remainingNet(line);
  switch (rate.kind) {
    case 'percent':
      return percentOf(base, rate.percent);
    case 'amount':
      return line.part === 'set-up fee' || line.net === 0 ? 0 : multiplyRatio(rate.amount * line.quantity, base, line.net);
    default:
      return rate satisfies never;
  }
}

/** The rate that a line earns by; null where the programme leaves such lines out or has no rate for them. */
export function earningRate(
  line: Pick<EarningLine, 'productId' | 'priceId' | 'role' | 'isLater'>,
  { program, rules }: Omit<CommissionInput, 'lines'>,
): Rate | null {
  if (line.role === 'bump' && !program.bumps) return null;
  if ((line.role === 'upsell' || line.role === 'downsell') && !program.upsells) return null;
  if (line.isLater && !program.laterCharges) return null;
  return rateFor(line, rules, program.rules) ?? null;
}

/** What a sale earns the partner who brought it, line by line, and whoever recruited them: a percentage of the same base. */
export function commission({ lines, ...terms }: CommissionInput): Commission {
  const earned = lines.map((line) => {
    const rate = earningRate(line, terms);
    const base = remainingNet(line);
    return {
      id: line.id,
      base,
      rate,
      commission: rate ? commissionOf(rate, line) : 0,
      secondTier: rate ? percentOf(base, terms.program.secondTierPercent) : 0,
    };
  });
  const sum = (of: 'commission' | 'secondTier') => earned.reduce((all, line) => all + line[of], 0);
  return { lines: earned, commission: sum('commission'), secondTier: sum('secondTier') };
}
