import { z } from 'zod';
import { isAddition, type LineRole } from '../catalog';
import { AmountSchema, DiscountPercentSchema, percentOf, splitByWeight } from '../money';

const CodeWordSchema = z
  .string()
  .trim()
  .min(2, 'A code has at least two characters.')
  .max(40, 'Keep the code under 40 characters.')
  .regex(/^[A-Za-z0-9_-]+$/, 'A code has letters, digits, - and _ only, so that it can be said and put in a link.');

/** What a code takes off, from which lines and payments, when, and how often it may be used. */
export const CodeSchema = z
  .object({
    code: CodeWordSchema,
    on: z.boolean().default(true),
    scope: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('order') }).describe('All lines, bumps and upsells included'),
      z.object({ kind: z.literal('main') }).describe('Every main line'),
      z
        .object({ kind: z.literal('products'), productIds: z.array(z.string()).min(1, 'Choose at least one product.') })
        .describe('These products in whatever role'),
    ]),
    discount: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('percent'), percent: DiscountPercentSchema }),
      z.object({ kind: z.literal('fixed'), amount: AmountSchema.min(1, 'A discount is more than nothing.') }),
    ]),
    payments: z.enum(['first', 'every']).default('first').describe('The first payment above 0, or every one'),
    minimum: AmountSchema.optional().describe('Least value of the eligible lines before the code, minor units'),
    from: z.int().optional().describe('Unix time in milliseconds, included'),
    until: z.int().optional().describe('Unix time in milliseconds, excluded'),
    limit: z.int('Enter a whole number.').min(1, 'A limit is at least one.').optional().describe('Uses in all'),
    limitPerBuyer: z.int('Enter a whole number.').min(1, 'A limit is at least one.').optional(),
  })
  .refine((code) => code.from === undefined || code.until === undefined || code.from < code.until, {
    message: 'The code must end after it starts.',
    path: ['until'],
  });
export type Code = z.infer<typeof CodeSchema>;

/** How often a code was used in paid orders, and is held by checkouts that are paying right now. */
export const CodeUsesSchema = z.object({ total: z.int().min(0).default(0), byBuyer: z.int().min(0).default(0) });
export type CodeUses = z.infer<typeof CodeUsesSchema>;

/** The same code, however it is typed. */
export const normalizeCode = (typed: string): string => typed.trim().toUpperCase();

export interface CodeLine {
  role: LineRole;
  productId: string;
  /** Line before the code, minor units. */
  amount: number;
}

export type CodeState = 'in use' | 'off' | 'not yet' | 'ended' | 'used up';

const STATE_REFUSALS: Record<Exclude<CodeState, 'in use'>, string> = {
  off: 'This code is switched off.',
  'not yet': 'This code is not valid yet.',
  ended: 'This code has ended.',
  'used up': 'This code has been used up.',
};

/**
 * Whether a code holds at a moment, whatever is in the cart. Start included, end excluded.
 * @param uses how often it was used in all
 * @param now Unix time in milliseconds
 */
export function codeState(code: Pick<Code, 'on' | 'from' | 'until' | 'limit'>, uses: number, now: number): CodeState {
  if (!code.on) return 'off';
  if (code.from !== undefined && now < code.from) return 'not yet';
  if (code.until !== undefined && now >= code.until) return 'ended';
  if (code.limit !== undefined && uses >= code.limit) return 'used up';
  return 'in use';
}

/**
 * Why a code does not apply to an order at all; undefined if it does. The minimum is measured on the eligible lines
 * before the code, equality reaches it.
 * @param lines every line of the order, what was bought before included
 * @param now Unix time in milliseconds; start included, end excluded
 */
export function codeRefusal(code: Code, uses: CodeUses | undefined, lines: readonly CodeLine[], now: number): string | undefined {
  const state = codeState(code, uses?.total ?? 0, now);
  if (state !== 'in use') return STATE_REFUSALS[state];
  if (code.limitPerBuyer !== undefined && uses && uses.byBuyer >= code.limitPerBuyer) return 'You have used this code already.';
  const eligible = lines.filter((line) => isEligible(code, line));
  if (eligible.length === 0) return 'This code is for other products.';
  const value = eligible.reduce((sum, line) => sum + line.amount, 0);
  if (code.minimum !== undefined && value < code.minimum) return 'The order does not reach this code’s minimum.';
  return undefined;
}

/** Whether a code acts on a line. Fixed amounts never act on one-click additions: the first checkout has used them. */
export function isEligible({ scope, discount }: Pick<Code, 'scope' | 'discount'>, line: Pick<CodeLine, 'role' | 'productId'>): boolean {
  if (discount.kind === 'fixed' && isAddition(line.role)) return false;
  switch (scope.kind) {
    case 'order':
      return true;
    case 'main':
      return line.role === 'main';
    case 'products':
      return scope.productIds.includes(line.productId);
  }
}

/**
 * What a code takes off each part of one payment, in minor units. Percent: `round(part × p / 100)` for each part.
 * Fixed: acts whole, split over the eligible parts in proportion to their value by largest remainder (ties: the
 * earlier part), never below zero.
 * @param amounts what each part of the payment comes to; 0 where the code does not act
 */
export function codeShares(discount: Code['discount'], amounts: readonly number[]): number[] {
  if (discount.kind === 'percent') return amounts.map((amount) => percentOf(amount, discount.percent));
  const value = amounts.reduce((sum, amount) => sum + amount, 0);
  return splitByWeight(Math.min(discount.amount, value), amounts);
}
