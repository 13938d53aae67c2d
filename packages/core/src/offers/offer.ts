import { z } from 'zod';
import { ConditionSchema } from '../conditions';
import { idSchema } from '../ids';
import { AmountSchema } from '../money';
import { OfferDiscountSchema } from '../pricing';
import { BumpLookSchema } from './bump';
import { DeadlineSchema } from './deadline';

/** What an offer is on its page: what the page is about, or a bump beside it. */
export const OfferPlaceSchema = z.enum(['main', 'bump']);

/** One thing that a step sells, gives or makes the case for. */
export const OfferSchema = z.object({
  id: idSchema('offer'),
  productId: idSchema('product'),
  editionId: idSchema('edition').nullable().default(null).describe('Null lets the buyer choose among all'),
  priceId: idSchema('price').nullable().default(null).describe('Null lets the buyer choose among all'),
  quantity: z.int('Enter a whole number.').min(1, 'At least one.').max(99, 'At most 99.').default(1).describe('What the form begins with'),
  asksQuantity: z.boolean().default(false).describe('The buyer of a one-click offer may change the quantity'),
  ownPrice: AmountSchema.min(1, 'Enter a price above zero. To give it away, choose a free product.')
    .nullable()
    .default(null)
    .describe('Shown and charged here in place of the catalog’s, minor units: once, all instalments together, or one period'),
  discount: OfferDiscountSchema.nullable().default(null).describe('The offer’s own, for one unit'),
  condition: ConditionSchema.nullable().default(null).describe('Offered only if it holds'),
  place: OfferPlaceSchema.default('main'),
  words: z
    .object({
      headline: z.string().trim().max(120, 'Keep the headline under 120 characters.').default(''),
      text: z.string().trim().max(600, 'Keep the paragraph under 600 characters.').default(''),
      label: z.string().trim().max(120, 'Keep the label under 120 characters.').default('').describe('Beside the tick, or on the yes'),
    })
    .prefault({}),
  bump: BumpLookSchema.prefault({}).describe('How it looks where it is a bump'),
  confirms: z.boolean().default(false).describe('A one-click offer asks once more before it charges'),
  deadline: DeadlineSchema.nullable().default(null),
});
export type Offer = z.infer<typeof OfferSchema>;

/** A plain offer of a product, in every edition and at every price it has. */
export function newOffer(id: string, productId: string, place: Offer['place'] = 'main'): Offer {
  return OfferSchema.parse({ id, productId, place });
}

/** What a step is about: the first of what it sells that is no bump. */
export function mainOffer(step: { sells: readonly Offer[] }): Offer | undefined {
  return step.sells.find((offer) => offer.place === 'main');
}

/** What a step sells beside what it is about: what is ticked on a checkout. */
export function bumpsOf(step: { sells: readonly Offer[] }): Offer[] {
  return step.sells.filter((offer) => offer.place === 'bump');
}

/** Everything that a step is about: several where one page makes several offers. */
export function mainOffers(step: { sells: readonly Offer[] }): Offer[] {
  return step.sells.filter((offer) => offer.place === 'main');
}

/**
 * What a step sells once it is about another product, or about none. The offer keeps its id and its place; at what terms
 * it was offered belonged to the former product.
 * @param freshId for a step that was about nothing
 */
export function sellsAbout(step: { sells: readonly Offer[] }, productId: string | null, freshId: () => string): Offer[] {
  const main = mainOffer(step);
  if (main?.productId === productId) return [...step.sells];
  const others = step.sells.filter((offer) => offer !== main);
  return productId === null ? others : [newOffer(main?.id ?? freshId(), productId), ...others];
}

/** Ids of all products that a step sells, each once. */
export function offeredProducts(step: { sells: readonly Offer[] }): string[] {
  return [...new Set(step.sells.map((offer) => offer.productId))];
}
