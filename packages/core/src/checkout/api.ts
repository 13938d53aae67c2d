import { z } from 'zod';
import { ListQuerySchema, listPageSchema } from '../lists';

/** A cart that was not paid within this time of its last change is abandoned. */
export const ABANDONED_AFTER_MS = 60 * 60 * 1000;

/** A cart whose buyer gave an address, and did not pay within an hour. */
export const AbandonedCartSchema = z.object({
  id: z.string(),
  email: z.string(),
  name: z.string(),
  goods: z.string().describe('Names of what is in it'),
  total: z
    .int()
    .nullable()
    .describe(
      'What was to be paid at once, or after a free trial, when it was left; minor units of the shop’s currency; null in carts from before that was kept',
    ),
  funnelName: z.string(),
  createdAt: z.int(),
  updatedAt: z.int(),
  link: z.string().describe('Brings its buyer back to it as it was'),
});
export type AbandonedCart = z.infer<typeof AbandonedCartSchema>;
/** What a list of carts shows: by the days on which they were abandoned, whole days of the shop’s zone, and by funnel. */
export const CartFilterSchema = z
  .object({
    from: z.iso.date('Enter a date.').describe('First day, of the last change'),
    until: z.iso.date('Enter a date.').describe('Last day'),
    funnelId: z.string().max(60),
  })
  .partial();
export type CartFilter = z.infer<typeof CartFilterSchema>;
export const CartListQuerySchema = ListQuerySchema.extend(CartFilterSchema.shape);
export type CartListQuery = z.infer<typeof CartListQuerySchema>;
export const CartPageSchema = listPageSchema(AbandonedCartSchema);
export type CartPage = z.infer<typeof CartPageSchema>;
export const CartCountSchema = z.object({ count: z.int(), total: z.int().describe('What all of them came to, minor units') });
export type CartCount = z.infer<typeof CartCountSchema>;
