import { optionsOf, type Product } from '@ruta/core/catalog';
import { type CartLine, type OrderValues, readLine } from '@ruta/core/checkout';
import type { Currency } from '@ruta/core/money';
import { toDecimal } from '@ruta/core/money';
import { type Offer, offeredBy, offerOption } from '@ruta/core/offers';
import { cartLine, chosenOption, needsRegister, type Quote, type QuoteInput, type QuoteLineInput, quoteCart, regionsOf } from '@ruta/core/pricing';
import { type CheckoutOption, checkoutOptions } from '@ruta/pages';
import type { Services } from '../base/services';
import { keysLeftOf, leftOf } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { codeUses, type StoredCode } from '../codes/store';
import { tryCode } from '../codes/tries';
import type { Known } from '../facts/gather';
import { loadShop } from '../shop/store';
import type { AsksRegister } from '../taxNumbers/register';
import { type OfferedBump, offeredBumps } from './bumps';

type Needs = Pick<Services, 'db' | 'clock' | 'limits'> & AsksRegister;

/** What is sold at a checkout: the product, by which of the step's offers, and the bumps beside it. */
export interface Sold {
  product: Product;
  offer: Offer;
  bumps: Offer[];
}

/** What somebody wants at a checkout, and who they are. */
export interface Wanted {
  values: OrderValues;
  country: string;
  cartId: string | null;
  known: Known;
  /** Whose tries are counted together. */
  person: string;
  /** The form was sent, so that what is not ticked was unticked. */
  sent: boolean;
}

/** A cart as one buyer wants it, quoted; with what is wrong, field by field. */
export interface QuotedCart {
  lines: CartLine[];
  quote: Quote;
  bumps: OfferedBump[];
  /** The chosen way to buy the main product. */
  priceId: string;
  code: StoredCode | undefined;
  /** By the name of the field. */
  errors: Record<string, string>;
}

const MOST_SAID_LEFT = 10;

/** Every way to buy a product as the order form lists it; how many are left is said once it is few. */
export function offeredOptions(services: Needs, product: Product, offer: Offer, cartId: string | null): CheckoutOption[] {
  const { currency } = loadShop(services.db).settings;
  const wanted = new Set(offeredBy(product, offer).map(({ option }) => option.id));
  // Where keys are given, there are no more than of them, whatever the stock says.
  const keys = keysLeftOf(services, product, cartId) ?? Number.POSITIVE_INFINITY;
  const editions = new Map(optionsOf(product).map(({ edition, option }) => [option.id, edition]));
  return checkoutOptions(product, currency, services.clock.now())
    .filter((option) => wanted.has(option.id))
    .map((option) => {
      const edition = editions.get(option.id);
      const left = Math.min(keys, (edition && leftOf(services, edition, cartId)) ?? Number.POSITIVE_INFINITY);
      return { ...option, left: left <= MOST_SAID_LEFT ? left : null };
    });
}

/**
 * Quotes what a buyer wants. Whatever they typed wrongly is said at its field, and left out of the sum, so that there
 * is a total to show at all times. The browser's own sums are never looked at.
 */
export function quoteValues(services: Needs, { product, offer, bumps }: Sold, { values, country, cartId, known, person, sent }: Wanted): QuotedCart {
  const { db, clock } = services;
  const shop = loadShop(db);
  const fallbackPriceId = firstLeft(services, product, offer, cartId);
  const { line, errors } = readLine(product, values, shop.settings.currency, { offerId: offer.id, fallbackPriceId });
  const { edition } = chosenOption(product, line.priceId ?? undefined);
  const left = leftOf(services, edition, cartId);
  if (left !== null && line.quantity > left) errors.quantity = left === 0 ? 'This is sold out.' : `Only ${left} ${left === 1 ? 'is' : 'are'} left.`;

  const { code, error: wrongCode } = tryCode(services, person, values.code);
  if (wrongCode) errors.code = wrongCode;
  const buyer: QuoteInput['buyer'] = {
    country,
    ...(values.region && regionsOf(shop, country).includes(values.region) ? { region: values.region } : {}),
    ...(values.taxNumber?.trim() ? { taxNumber: values.taxNumber, ...registered(services, values.taxNumber) } : {}),
  };
  const main = cartLine(
    'main',
    line.role,
    product,
    { priceId: line.priceId ?? undefined, quantity: line.quantity, chosen: line.chosen ?? undefined },
    { discount: offer.discount ?? undefined, find: (id) => findProduct(db, id) },
  );
  const codeUsed = code ? codeUses(services, code.id, values.email, cartId) : undefined;
  const quoteOf = (lines: QuoteLineInput[]) => quoteCart(shop, { lines, buyer, code: code?.terms, codeUses: codeUsed }, clock.now());
  const beside = offeredBumps(services, { bumps, main, values, sent, known, country, cartId, quote: quoteOf });
  const taken = beside.filter((bump) => bump.ticked);
  const quote = quoteOf([main, ...taken.map((bump) => bump.line)]);
  if (quote.code && !quote.code.applied) errors.code = quote.code.reason ?? 'This code does not apply.';
  if (quote.taxNumber && !quote.taxNumber.valid) errors.taxNumber = `${quote.taxNumber.message} Or leave the field empty.`;
  for (const problem of quote.problems) {
    if (problem.path.endsWith('.chosen')) errors.chosen ??= problem.message;
    if (problem.path.startsWith('buyer.')) errors.country ??= problem.message;
  }
  return { lines: [line, ...taken.map(cartLineOf)], quote, bumps: beside, priceId: line.priceId ?? fallbackPriceId, code, errors };
}

/** What the register says of a number that was typed, as the seller wants it read while it does not answer. */
function registered({ db, taxRegister }: Needs, typed: string): Pick<QuoteInput['buyer'], 'register'> {
  const { country, whenRegisterSilent = 'charge' } = loadShop(db).settings;
  if (!needsRegister(typed, country)) return {};
  const state = taxRegister.latest(typed)?.state ?? 'unasked';
  return { register: state === 'silent' && whenRegisterSilent === 'accept' ? 'known' : state };
}

const cartLineOf = ({ offer, line }: OfferedBump): CartLine => ({
  role: 'bump',
  offerId: offer.id,
  productId: line.productId,
  priceId: line.priceId ?? null,
  quantity: line.quantity,
  chosen: null,
});

/** The price that is taken where nobody has chosen: the offer's own, else the first that is not sold out. */
function firstLeft(services: Needs, product: Product, offer: Offer, cartId: string | null): string {
  const open = offeredBy(product, offer).find(({ edition }) => leftOf(services, edition, cartId) !== 0);
  return (open ?? offerOption(product, offer)).option.id;
}

/** What a field for a chosen amount starts with: the suggestion, as people write it. */
export function suggestedAmount(product: Product, priceId: string, currency: Currency): string | undefined {
  const { price } = chosenOption(product, priceId).option;
  return price.kind === 'pay-what-you-want' ? toDecimal(price.suggested, currency) : undefined;
}
