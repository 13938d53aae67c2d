import { currentPrice, descriptionText, firstOption, optionsOf, type PictureInfo, type Product, priceWords, struckBeside } from '@ruta/core/catalog';
import type { Currency } from '@ruta/core/money';

/** One way to buy a product, as a price table shows it. */
export interface ShownOption {
  id: string;
  /** Name of the edition, and of the price where an edition has several. */
  title: string;
  price: string;
  description: string;
  /** Sold out at the moment. */
  isGone: boolean;
}

/** A product as a page shows it at a moment. */
export interface ShownProduct {
  name: string;
  /** In one line of plain words. */
  description: string;
  /** Simple HTML, cleaned when it was kept. */
  richDescription: string;
  included: string[];
  previewUrl: string;
  refundPolicy: string;
  picture: PictureInfo | null;
  /** The first price in words: `€138`, `4 × €45 a month`, `Free`. */
  price: string;
  /** The other prices of the first edition in words, for “or …” beside it. */
  otherPrices: string[];
  /** Every way to buy it. */
  options: ShownOption[];
  /** Minor units, of the first price. */
  current: number;
  regular: number;
  onSale: boolean;
  /** What is struck through beside it: the lowest price of the 30 days before the sale; null for nothing. */
  struck: number | null;
  /** Why nobody can buy it at the moment, in words; null if it can be bought. */
  gone: string | null;
}

/** What is known of a product beside itself: what of it cannot be bought at the moment. */
export interface Gone {
  words: string | null;
  optionIds: ReadonlySet<string>;
}
const ALL_THERE: Gone = { words: null, optionIds: new Set() };

/**
 * What a page shows of a product.
 * @param now Unix time in milliseconds
 */
export function shownProduct(
  product: Pick<Product, 'name' | 'description' | 'included' | 'previewUrl' | 'refundPolicy' | 'pictures' | 'editions'>,
  currency: Currency,
  now: number,
  gone: Gone = ALL_THERE,
): ShownProduct {
  const { edition, option } = firstOption(product);
  const current = currentPrice(option.price, now);
  return {
    name: product.name,
    description: descriptionText(product.description),
    richDescription: product.description,
    included: product.included,
    previewUrl: product.previewUrl,
    refundPolicy: product.refundPolicy,
    picture: product.pictures[0] ?? null,
    price: priceWords(option.price, currency, now),
    otherPrices: optionsOf({ editions: [edition] })
      .slice(1)
      .map((other) => priceWords(other.option.price, currency, now)),
    options: optionsOf(product).map(({ edition: of, option: each }) => ({
      id: each.id,
      title: [product.editions.length > 1 ? of.name : '', of.prices.length > 1 ? each.name : ''].filter(Boolean).join(', ') || product.name,
      price: priceWords(each.price, currency, now),
      description: each.description,
      isGone: gone.optionIds.has(each.id),
    })),
    gone: gone.words,
    ...current,
    struck: struckBeside(option.price, current.current, now),
  };
}
