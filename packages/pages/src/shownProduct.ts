import { currentPrice, descriptionText, firstOption, optionsOf, type PictureInfo, type Product, priceWords } from '@ruta/core/catalog';
import type { Currency } from '@ruta/core/money';

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
  /** Minor units, of the first price. */
  current: number;
  regular: number;
  onSale: boolean;
}

/**
 * What a page shows of a product.
 * @param now Unix time in milliseconds
 */
export function shownProduct(
  product: Pick<Product, 'name' | 'description' | 'included' | 'previewUrl' | 'refundPolicy' | 'pictures' | 'editions'>,
  currency: Currency,
  now: number,
): ShownProduct {
  const { edition, option } = firstOption(product);
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
    ...currentPrice(option.price, now),
  };
}
