import { cartLine, chosenOption, optionsOf, type Product, parseMoney, type Quote, type QuoteInput, quoteCart, regionsOf, toDecimal } from '@ruta/core';
import { type CheckoutOption, checkoutOptions } from '@ruta/pages';
import { leftOf } from '../catalog/availability';
import { findProduct, findProducts } from '../catalog/store';
import { findCode, type StoredCode } from '../codes/store';
import type { Db } from '../db/open';
import { codeUses, type Wish } from '../sales/holds';
import type { Services } from '../services';
import { loadShop } from '../shop/store';

/** What a buyer has typed and chosen, as short strings by the name of the field. */
export type Values = Record<string, string>;

/** A product as one buyer wants it, quoted; with what is wrong, field by field. */
export interface Offer {
  quote: Quote;
  /** The chosen way to buy. */
  priceId: string;
  code: StoredCode | undefined;
  /** By the name of the field. */
  errors: Record<string, string>;
}

const MOST_SAID_LEFT = 10;

/** Every way to buy a product as the order form lists it; how many are left is said once it is few. */
export function offeredOptions(services: Services, product: Product, cartId: string | null): CheckoutOption[] {
  const { currency } = loadShop(services.db).settings;
  const editions = new Map(optionsOf(product).map(({ edition, option }) => [option.id, edition]));
  return checkoutOptions(product, currency, services.clock.now()).map((option) => {
    const edition = editions.get(option.id);
    const left = edition ? leftOf(services, edition, cartId) : null;
    return { ...option, left: left !== null && left <= MOST_SAID_LEFT ? left : null };
  });
}

/**
 * Quotes what a buyer wants. Whatever they typed wrongly is said at its field, and left out of the sum, so that there
 * is a total to show at all times. The browser's own sums are never looked at.
 */
export function quoteOffer(services: Services, product: Product, values: Values, country: string, cartId: string | null): Offer {
  const { db, clock } = services;
  const shop = loadShop(db);
  const { currency } = shop.settings;
  const errors: Record<string, string> = {};

  const { edition, option } = wantedOption(services, product, values.option, cartId);
  if (values.option && values.option !== option.id) errors.option = 'This choice is not on sale any more. Choose another.';
  const quantity = /^\d{1,4}$/.test((values.quantity ?? '1').trim()) ? Number(values.quantity ?? 1) : 0;
  if (quantity < 1) errors.quantity = 'Enter how many, in digits.';
  const left = leftOf(services, edition, cartId);
  if (left !== null && quantity > left) errors.quantity = left === 0 ? 'This is sold out.' : `Only ${left} ${left === 1 ? 'is' : 'are'} left.`;

  let chosen: number | undefined;
  if (option.price.kind === 'pay-what-you-want') {
    if (values.chosen?.trim()) {
      const parsed = parseMoney(values.chosen, currency);
      if (parsed.ok) chosen = parsed.amount;
      else errors.chosen = parsed.message;
    } else if (values.chosen !== undefined) errors.chosen = 'Enter what you would like to pay.';
  }

  const code = values.code?.trim() ? findCode(db, values.code) : undefined;
  if (values.code?.trim() && !code) errors.code = 'This code is not known. Look for a typing mistake.';

  const buyer: QuoteInput['buyer'] = {
    country,
    ...(values.region && regionsOf(shop, country).includes(values.region) ? { region: values.region } : {}),
    ...(values.taxNumber?.trim() ? { taxNumber: values.taxNumber } : {}),
  };
  const line = cartLine('main', 'main', product, { priceId: option.id, quantity: Math.max(1, quantity), chosen }, { find: (id) => findProduct(db, id) });
  const quote = quoteCart(
    shop,
    { lines: [line], buyer, code: code?.terms, codeUses: code ? codeUses(services, code.id, values.email, cartId) : undefined },
    clock.now(),
  );
  if (quote.code && !quote.code.applied) errors.code = quote.code.reason ?? 'This code does not apply.';
  if (quote.taxNumber && !quote.taxNumber.valid) errors.taxNumber = `${quote.taxNumber.message} Or leave the field empty.`;
  for (const problem of quote.problems) {
    if (problem.path.endsWith('.chosen')) errors.chosen ??= problem.message;
    if (problem.path.startsWith('buyer.')) errors.country ??= problem.message;
  }
  return { quote, priceId: option.id, code, errors };
}

/** The option that was asked for; else the first that is not sold out. */
function wantedOption(services: Services, product: Product, priceId: string | undefined, cartId: string | null) {
  const wanted = chosenOption(product, priceId);
  if (wanted.option.id === priceId) return wanted;
  return optionsOf(product).find(({ edition }) => leftOf(services, edition, cartId) !== 0) ?? wanted;
}

/** What a field for a chosen amount starts with: the suggestion, as people write it. */
export function suggestedAmount(product: Product, priceId: string, currency: string): string | undefined {
  const { price } = chosenOption(product, priceId).option;
  if (price.kind !== 'pay-what-you-want') return undefined;
  return toDecimal(price.suggested, currency);
}

/** What must be held for a quote while it is paid: places of editions and pasted keys, of the line itself and of a bundle's parts. */
export function wantedOf(db: Db, quote: Quote): Pick<Wish, 'editions' | 'keys'> {
  const wanted = quote.lines.flatMap(({ productId, editionId, quantity, parts = [] }) => [
    ...(editionId ? [{ productId, editionId, quantity }] : []),
    ...parts.flatMap((part) => (part.editionId ? [{ productId: part.productId, editionId: part.editionId, quantity: part.quantity * quantity }] : [])),
  ]);
  const ids = wanted.map((each) => each.productId);
  const products = new Map(findProducts(db, ids).map((product) => [product.id, product]));
  const found = wanted.flatMap(({ productId, editionId, quantity }) => {
    const product = products.get(productId);
    const edition = product?.editions.find((candidate) => candidate.id === editionId);
    return product && edition ? [{ product, edition, quantity }] : [];
  });
  return {
    editions: found.map(({ product, edition, quantity }) => ({
      id: edition.id,
      stock: edition.stock,
      name: edition.name ? `${product.name}, ${edition.name}` : product.name,
      quantity,
    })),
    keys: found.flatMap(({ product, quantity }) => (product.delivery.keys?.kind === 'list' ? [{ product, quantity }] : [])),
  };
}
