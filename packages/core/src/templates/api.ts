import { z } from 'zod';
import { SlugSchema } from '../funnel';
import { idSchema } from '../ids';
import { DESIGN_NAMES } from './designs';
import { TEMPLATE_NAMES } from './registry';
import { EXTRAS, type Extra } from './template';

/** A funnel to be drawn from a template, around a product and perhaps a gift. */
export const NewFunnelSchema = z.object({
  name: z.string().trim().min(1, 'Give the funnel a name.').max(80, 'Keep the name under 80 characters.'),
  slug: SlugSchema.optional(),
  template: z.enum(TEMPLATE_NAMES),
  design: z.enum(DESIGN_NAMES).optional().describe('Whose pages are arranged and worded for a trade'),
  ownLook: z.boolean().default(false).describe('Whether the funnel takes the look of the design instead of the shop’s'),
  productId: idSchema('product'),
  giftId: idSchema('product').optional(),
  extras: z
    .object(Object.fromEntries(EXTRAS.map((extra) => [extra, idSchema('product').optional()])) as Record<Extra, z.ZodOptional<ReturnType<typeof idSchema>>>)
    .default({})
    .describe('What is offered beside the payment and after it'),
});

/** A funnel to be made from another of one’s own: every step, page and route as it stands there, perhaps about other products. */
export const FunnelCopySchema = z.object({
  name: NewFunnelSchema.shape.name,
  slug: SlugSchema.optional().describe('Its address; one made of its name without'),
  productId: idSchema('product').optional().describe('Takes the place of what the other one is there to sell, at every step'),
  giftId: idSchema('product').optional().describe('Takes the place of its free gift, at every step'),
});
export type FunnelCopy = z.infer<typeof FunnelCopySchema>;
export type NewFunnel = z.input<typeof NewFunnelSchema>;
