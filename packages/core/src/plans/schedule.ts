import { z } from 'zod';
import { LaterPaymentSchema, quote } from '../pricing/quote';
import { type QuoteInput, QuoteInputSchema } from '../pricing/quoteInput';

export const ScheduleInputSchema = QuoteInputSchema.safeExtend({
  next: z.int().min(1).max(600).default(12).describe('Of endless plans, how many charges to list'),
});
export type ScheduleInput = z.infer<typeof ScheduleInputSchema>;

/** Everything that falls due after today. Amounts in minor units of `currency`. */
export const ScheduleSchema = z.object({
  currency: z.string(),
  dueToday: z.int(),
  payments: z.array(LaterPaymentSchema),
  endless: z.boolean(),
  dueLater: z.int().nullable().describe('Null if a plan is endless'),
  problems: z.array(z.object({ path: z.string(), message: z.string() })),
});
export type Schedule = z.infer<typeof ScheduleSchema>;

/** All later charges of a cart with their dates, amounts, discounts, shipping and tax. */
export function schedule({ next, ...input }: QuoteInput & { next: number }): Schedule {
  const { currency, dueToday, later, endless, dueLater, problems } = quote(input, next);
  return { currency, dueToday, payments: later, endless, dueLater, problems };
}
