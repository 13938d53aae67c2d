import { z } from 'zod';
import { idSchema } from '../ids';
import { AddressSchema } from './address';

/** What a button or link does. */
export const ActionSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('next') }),
  z.object({ kind: z.literal('step'), stepId: idSchema('step') }),
  z.object({ kind: z.literal('address'), url: AddressSchema }),
  z.object({ kind: z.literal('scroll'), target: z.enum(['form', 'order-form']) }),
  z.object({ kind: z.literal('section'), sectionId: idSchema('section') }),
  z.object({ kind: z.literal('pop-up'), popUpId: idSchema('popUp') }),
]);
export type Action = z.infer<typeof ActionSchema>;
