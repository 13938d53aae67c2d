import { z } from 'zod';
import { LineRoleSchema } from '../catalog';

/** One thing in a cart: which product, how exactly, and how many. Prices are never among it: the shop knows those. */
export const CartLineSchema = z.object({
  role: LineRoleSchema,
  offerId: z.string().nullable().default(null).describe('The step’s offer it was taken by'),
  productId: z.string(),
  priceId: z.string().nullable().default(null).describe('Null until the buyer has chosen'),
  quantity: z.int().min(1).max(9999).default(1),
  chosen: z.int().min(0).nullable().default(null).describe('What the buyer chose to pay for one, minor units'),
});
export type CartLine = z.infer<typeof CartLineSchema>;

/** What is known of whoever fills a cart; everything may still be missing. */
export const CartBuyerSchema = z
  .object({
    email: z.string(),
    firstName: z.string(),
    lastName: z.string(),
    country: z.string(),
    region: z.string(),
    street: z.string(),
    postcode: z.string(),
    city: z.string(),
    taxNumber: z.string(),
  })
  .partial();
export type CartBuyer = z.infer<typeof CartBuyerSchema>;
