import { z } from 'zod';
import { TaxClassSchema } from '../catalog';
import { CodeSchema } from '../codes';
import { QuoteInputSchema } from '../pricing';

export const PlanStateSchema = z.enum(['active', 'ended', 'cancelled']);
export type PlanState = z.infer<typeof PlanStateSchema>;

/**
 * What a plan was bought at, so that what the checkout promised is what is owed: the line at what one was sold for, the
 * place, the code with what is left of it, and what shipping was taxed as.
 */
export const PlanTermsSchema = z.object({
  line: QuoteInputSchema.shape.lines.element,
  buyer: QuoteInputSchema.shape.buyer,
  code: CodeSchema.nullable().default(null),
  sentClasses: z.array(TaxClassSchema).default([]).describe('Of everything that was sent with the order'),
});
export type PlanTerms = z.infer<typeof PlanTermsSchema>;
