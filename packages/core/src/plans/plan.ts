import { z } from 'zod';
import { CodeSchema } from '../codes';
import { QuoteInputSchema } from '../pricing';

export const PlanStateSchema = z.enum(['active', 'ended', 'cancelled']);
export type PlanState = z.infer<typeof PlanStateSchema>;

/** What a plan was bought at: the line with the price of its day, the buyer, and the code if it acts on every payment. */
export const PlanTermsSchema = z.object({
  line: QuoteInputSchema.shape.lines.element,
  buyer: QuoteInputSchema.shape.buyer,
  code: CodeSchema.nullable().default(null),
});
export type PlanTerms = z.infer<typeof PlanTermsSchema>;
