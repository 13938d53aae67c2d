import { type PictureInfo, type Product, priceWords } from '@ruta/core/catalog';
import type { Currency } from '@ruta/core/money';
import { formatMoney } from '@ruta/core/money';
import { type BumpColours, type BumpLayout, type BumpPosition, type Offer, offerOption, offerPrice, pricedBy } from '@ruta/core/offers';
import { lineName } from '@ruta/core/pricing';

/** A bump as a checkout shows it. */
export interface BumpView {
  offerId: string;
  position: BumpPosition;
  layout: BumpLayout;
  colours: BumpColours;
  pointer: boolean;
  picture: PictureInfo | null;
  headline: string;
  text: string;
  /** Beside the tick. */
  label: string;
  /** `€19.20`, `4 × €45 a month`. */
  price: string;
  /** What people paid for it before; null where that is no more. */
  was: string | null;
  ticked: boolean;
  error: string | undefined;
}

/** One thing that can be added after the payment, as its page shows it. */
export interface ShownOffer {
  id: string;
  /** What exactly is added: product, and edition where there are several. */
  name: string;
  headline: string;
  text: string;
  /** On its yes; empty for the page's own words. */
  label: string;
  price: string;
  was: string | null;
  /** What a yes charges now, shipping and tax included, minor units. */
  dueToday: number;
  /** The same as people read it, and what falls due later. */
  dueWords: string;
  laterWords: string[];
  /** What the order’s discount code takes off it; empty for nothing. */
  codeWords: string;
  asksQuantity: boolean;
  quantity: number;
  /** It is sent, and nobody has said yet where to. */
  asksAddress: boolean;
  /** Unix time in milliseconds; null where it does not end. */
  endsAt: number | null;
}

/** What a stop offers to the buyer of an order. */
export interface OffersView {
  actionUrl: string;
  quoteUrl: string;
  /** Told when its page is closed. */
  leftUrl: string;
  orderToken: string;
  offers: ShownOffer[];
  /** Said above: a declined card, a changed price. */
  message: string | null;
  /** The card that a yes charges, by its last digits; null where one has to be typed. */
  cardEnding: string | null;
  /** The fields for a card to be typed; null where the one on file is charged. */
  cardFields: { url: string; origin: string } | null;
  /** The offer that waits for a second, confirming click. */
  asking: string | null;
  /** What was typed, and what is wrong with it, by the name of the field. */
  values: Record<string, string>;
  errors: Record<string, string>;
}

/** How an offer's price reads, and what people really paid before. */
export function offerWords(offer: Offer, product: Pick<Product, 'editions'>, currency: Currency, now: number): { price: string; was: string | null } {
  const { option } = offerOption(pricedBy(product, offer), offer);
  const { regular, unit, struck } = offerPrice(offer, product, now);
  const money = (amount: number) => formatMoney(amount, currency, { short: true });
  const { price } = option;
  const plain = priceWords(price, currency, now);
  // A tick or a single yes leaves nothing to choose: what is suggested is what is paid.
  if (price.kind === 'pay-what-you-want') return { price: money(unit), was: unit < regular ? money(regular) : null };
  if (price.kind === 'free') return { price: plain, was: null };
  // The price as it reads when the offer's own result is its regular price.
  const { sale: _sale, ...rest } = price;
  const own = offer.discount === null ? plain : priceWords({ ...rest, regular: unit } as typeof price, currency, now);
  return { price: own, was: struck === null ? null : money(struck) };
}

/** What exactly an offer adds, as a line of the order names it. */
export function offerName(offer: Offer, product: Pick<Product, 'name' | 'editions'>): string {
  return lineName(product, offerOption(product, offer));
}

/**
 * A bump as its checkout shows it: on the public site, in the editor and beside the Offer view.
 * @param now Unix time in milliseconds
 */
export function bumpView(
  offer: Offer,
  product: Pick<Product, 'name' | 'editions' | 'pictures'>,
  found: { currency: Currency; now: number; pictures: Record<string, PictureInfo>; ticked: boolean; error?: string | undefined },
): BumpView {
  const { bump, words } = offer;
  const { picture } = bump;
  const name = offerName(offer, product);
  return {
    offerId: offer.id,
    position: bump.position,
    layout: bump.layout,
    colours: bump.colours,
    pointer: bump.pointer,
    picture: picture === null ? null : picture.kind === 'product' ? (product.pictures[0] ?? null) : (found.pictures[picture.fileId] ?? null),
    headline: words.headline || name,
    text: words.text,
    label: words.label || `Yes, add ${name}`,
    ...offerWords(offer, product, found.currency, found.now),
    ticked: found.ticked,
    error: found.error,
  };
}

/** What a yes does, in one sentence: nobody finds out afterwards. */
export function dueSentence(offer: Pick<ShownOffer, 'dueToday' | 'dueWords' | 'laterWords' | 'codeWords'>, cardEnding: string | null): string {
  const { dueToday, dueWords, laterWords, codeWords } = offer;
  const now =
    dueToday === 0
      ? 'Nothing is charged today.'
      : cardEnding === null
        ? `You pay ${dueWords} in all.`
        : `One click charges ${dueWords} in all to your card ending ${cardEnding}.`;
  return [now, ...(codeWords ? [codeWords] : []), ...laterWords].join(' ');
}
