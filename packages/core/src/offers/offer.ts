import { z } from 'zod';
import { ConditionSchema } from '../conditions';
import { idSchema } from '../ids';
import { OfferDiscountSchema } from '../pricing';

/** Where on its page an offer stands: as what the page is about, or as a bump beside it. */
export const OfferPlaceSchema = z.enum(['main', 'bump']);

/** One thing that a step sells, gives or makes the case for. */
export const OfferSchema = z.object({
  id: idSchema('offer'),
  productId: idSchema('product'),
  editionId: idSchema('edition').nullable().default(null).describe('Null lets the buyer choose among all'),
  priceId: idSchema('price').nullable().default(null).describe('Null lets the buyer choose among all'),
  quantity: z.int().min(1, 'At least one.').max(99, 'At most 99.').default(1).describe('What the form begins with'),
  discount: OfferDiscountSchema.nullable().default(null).describe('The offer’s own, for one unit'),
  condition: ConditionSchema.nullable().default(null).describe('Offered only if it holds'),
  place: OfferPlaceSchema.default('main'),
  words: z
    .object({ headline: z.string().max(120).default(''), text: z.string().max(600).default(''), label: z.string().max(120).default('') })
    .default({ headline: '', text: '', label: '' }),
});
export type Offer = z.infer<typeof OfferSchema>;

/** A plain offer of a product, in every edition and at every price it has. */
export function newOffer(id: string, productId: string): Offer {
  return OfferSchema.parse({ id, productId });
}

/** What a step is about: the first of what it sells that is no bump. */
export function mainOffer(step: { sells: readonly Offer[] }): Offer | undefined {
  return step.sells.find((offer) => offer.place === 'main');
}

/** Ids of all products that a step sells, each once. */
export function offeredProducts(step: { sells: readonly Offer[] }): string[] {
  return [...new Set(step.sells.map((offer) => offer.productId))];
}
