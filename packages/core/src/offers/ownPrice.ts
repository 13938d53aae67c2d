import { type Option, optionsOf, type Price, type Product } from '../catalog';
import type { Offer } from './offer';

type Named = Pick<Offer, 'editionId' | 'priceId'>;
type Priced = Extract<Price, { regular: number }>;

const hasAmount = (price: Price): price is Priced => price.kind === 'one-time' || price.kind === 'instalments' || price.kind === 'subscription';

/** The one way to buy that an offer names and that can have another price there; undefined where the buyer chooses among several, or names the amount. */
export function repriceable(product: Pick<Product, 'editions'>, { editionId, priceId }: Named): (Option & { price: Priced }) | undefined {
  const named = optionsOf(product).filter(
    ({ edition, option }) => (priceId === null || option.id === priceId) && (editionId === null || edition.id === editionId),
  );
  const [only] = named;
  return only && named.length === 1 && hasAmount(only.option.price) ? { ...only, price: only.option.price } : undefined;
}

/**
 * A product as an offer with a price of its own shows and sells it: that one way to buy, at that price, whatever the
 * catalog says, sales included; nothing is struck through beside it, since nobody paid another price for it. As it is
 * where the offer has no price of its own, or names no single one.
 */
export function pricedBy<Known extends Pick<Product, 'editions'>>(product: Known, offer: Named & Pick<Offer, 'ownPrice'>): Known {
  const found = offer.ownPrice === null ? undefined : repriceable(product, offer);
  if (!found || offer.ownPrice === null) return product;
  const { sale: _sale, history: _history, ...rest } = found.price;
  const price = { ...rest, regular: offer.ownPrice } as Price;
  return { ...product, editions: [{ ...found.edition, prices: [{ ...found.option, price }] }] };
}
