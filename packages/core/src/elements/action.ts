import { z } from 'zod';
import { idSchema } from '../ids';

/** What a button or link does. */
export const ActionSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('next') }),
  z.object({ kind: z.literal('step'), stepId: idSchema('step') }),
  z.object({ kind: z.literal('address'), url: z.url({ protocol: /^(https?|mailto)$/, error: 'Enter a full address beginning with https://' }) }),
  z.object({ kind: z.literal('scroll'), target: z.enum(['form', 'order-form']) }),
]);
export type Action = z.infer<typeof ActionSchema>;
