import { currentPrice, firstOption, type LineRole, type Option, optionsOf, type Product, struckBeside } from '../catalog';
import { applyOfferDiscount, type Choice, cartLine, type QuoteLineInput } from '../pricing';
import type { Offer } from './offer';
import { pricedBy } from './ownPrice';

/** The way to buy that an offer sells: its own price, else the first of its edition, else the product's first. */
export function offerOption(product: Pick<Product, 'editions'>, { editionId, priceId }: Pick<Offer, 'editionId' | 'priceId'>): Option {
  const options = optionsOf(product);
  return options.find(({ option }) => option.id === priceId) ?? options.find(({ edition }) => edition.id === editionId) ?? firstOption(product);
}

/** Every way to buy that an offer leaves to the buyer: its own price alone, those of its edition, or all. */
export function offeredBy(product: Pick<Product, 'editions'>, offer: Pick<Offer, 'editionId' | 'priceId'>): Option[] {
  const named = optionsOf(product).filter(
    ({ edition, option }) => (offer.priceId === null || option.id === offer.priceId) && (offer.editionId === null || edition.id === offer.editionId),
  );
  return named.length > 0 ? named : [offerOption(product, offer)];
}

/** Whether what an offer names of its product is still there. */
export function isWhole(product: Pick<Product, 'editions'>, { editionId, priceId }: Pick<Offer, 'editionId' | 'priceId'>): boolean {
  const options = optionsOf(product);
  return (
    (priceId === null || options.some(({ option }) => option.id === priceId)) && (editionId === null || options.some(({ edition }) => edition.id === editionId))
  );
}

/** The line of a cart that an offer of one price brings, with its own discount. */
export function offerLine(
  offer: Offer,
  product: Parameters<typeof cartLine>[2],
  role: LineRole,
  find: (productId: string) => Product | undefined,
  choice: Omit<Choice, 'priceId'> = {},
): QuoteLineInput {
  const sold = pricedBy(product, offer);
  const { option } = offerOption(sold, offer);
  return cartLine(
    `${role}-${offer.id}`,
    role,
    sold,
    { quantity: offer.quantity, ...choice, priceId: option.id },
    { discount: offer.discount ?? undefined, find },
  );
}

/** What one unit of an offer costs, in minor units: as a whole, of all instalments, or of one period. */
export interface OfferPrice {
  regular: number;
  current: number;
  /** After the offer's own discount. */
  unit: number;
  /** What is struck through beside it; null for nothing. */
  struck: number | null;
  /** The discount came out above the current price, which is charged instead. */
  dearer: boolean;
}

/**
 * What an offer costs at a moment.
 * @param now Unix time in milliseconds
 */
export function offerPrice(offer: Pick<Offer, 'editionId' | 'priceId' | 'ownPrice' | 'discount'>, product: Pick<Product, 'editions'>, now: number): OfferPrice {
  const { price } = offerOption(pricedBy(product, offer), offer).option;
  const { regular, current } = currentPrice(price, now);
  const applied = applyOfferDiscount({ regular, current }, offer.discount ?? undefined);
  return { regular, current, ...applied, struck: offer.ownPrice === null ? struckBeside(price, applied.unit, now) : null };
}
