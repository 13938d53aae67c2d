import { z } from 'zod';
import { idSchema } from '../ids';
import { AmountSchema } from '../money';

/** Through the processor that took the money, or written down because it was given back elsewhere. */
export const RefundWaySchema = z.enum(['processor', 'noted']);
export type RefundWay = z.infer<typeof RefundWaySchema>;

/** Asked of the processor until it has done it or refused; what was refused counts as not given back. */
export const RefundStateSchema = z.enum(['pending', 'done', 'refused']);
export type RefundState = z.infer<typeof RefundStateSchema>;

export const RefundRequestSchema = z.object({
  id: idSchema('refund').describe('Made where it is asked for: asked twice by it, money goes back once'),
  lines: z
    .array(z.object({ id: z.string(), amount: AmountSchema.min(1, 'Enter an amount above zero.') }))
    .min(1, 'Choose what to give back.')
    .describe('Amounts in minor units, tax included'),
  way: RefundWaySchema,
  reason: z.string().trim().max(200, 'Keep the reason under 200 characters.').default(''),
  takesBack: z.boolean().describe('Ends downloads and later payments of what is given back whole'),
  tells: z.boolean().describe('Mails the buyer once it is done'),
});
export type RefundRequest = z.infer<typeof RefundRequestSchema>;

/** One refund as the order shows it: of one payment, since a processor gives back by charge. */
export const RefundViewSchema = z.object({
  id: z.string(),
  state: RefundStateSchema,
  way: RefundWaySchema,
  amount: z.int().describe('Minor units, tax included'),
  tax: z.int(),
  reason: z.string(),
  failure: z.string().nullable().describe('Why the processor refused'),
  createdAt: z.int(),
  doneAt: z.int().nullable(),
  lines: z.array(z.object({ id: z.string(), amount: z.int() })),
});
export type RefundView = z.infer<typeof RefundViewSchema>;
export const RefundsSchema = z.array(RefundViewSchema);
