import { z } from 'zod';
import { SlugSchema } from '../funnel';
import { idSchema } from '../ids';
import { TEMPLATE_NAMES } from './registry';

/** A funnel to be drawn from a template, around a product and perhaps a gift. */
export const NewFunnelSchema = z.object({
  name: z.string().trim().min(1, 'Give the funnel a name.').max(80, 'Keep the name under 80 characters.'),
  slug: SlugSchema.optional(),
  template: z.enum(TEMPLATE_NAMES),
  productId: idSchema('product'),
  giftId: idSchema('product').optional(),
});
export type NewFunnel = z.infer<typeof NewFunnelSchema>;
