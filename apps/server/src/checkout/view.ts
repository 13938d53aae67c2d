import { type Product, sentEditions } from '@ruta/core/catalog';
import { type OrderValues, tickName, valuesOf } from '@ruta/core/checkout';
import { isElementOf } from '@ruta/core/elements';
import { stepKindOf } from '@ruta/core/funnel';
import { formatMoney } from '@ruta/core/money';
import { bumpPictureIds, bumpsOf, mainOffer, type Offer, offerAt, offerOption, pricedBy } from '@ruta/core/offers';
import { allElements } from '@ruta/core/page';
import { freeWords, needsCard, parcelOf, type Quote, regionsOf } from '@ruta/core/pricing';
import { allCountries, countryName, isRegionTyped } from '@ruta/core/shop';
import { type BumpView, bumpView, type CheckoutView } from '@ruta/pages';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { findProduct } from '../catalog/store';
import { type ContactRow, findContactByEmail } from '../contacts/store';
import { findPictures } from '../files/store';
import type { LiveStep } from '../funnel/live';
import { orderAddress } from '../orders/address';
import { orderOfCart, ownsProduct } from '../orders/store';
import { cardFieldsFor, type Paying } from '../payments/accounts';
import { loadShop, type ShopRow } from '../shop/store';
import type { AsksRegister } from '../taxNumbers/register';
import type { VisitorRow } from '../tracking/recorder';
import { type CartRow, cartByToken, latestCart } from './cart';
import { offeredOptions, type QuotedCart, quoteValues, type Sold, suggestedAmount } from './quotedCart';

/** After this long a visitor who comes again gets an empty cart instead of being shown the order they paid. */
const PAID_NOTICE_MS = 24 * 60 * 60 * 1000;

/** What a live checkout sells, on sale or not; undefined if it is none, or sells nothing. */
export function soldAt({ db, clock }: Pick<Services, 'db' | 'clock'>, live: LiveStep): Sold | undefined {
  const named = stepKindOf(live.step.kind).sells === 'order' ? mainOffer(live.step) : undefined;
  // After its end at its full price, if the seller chose so; one that is gone is told as closed.
  const offer = named && (offerAt(named, null, clock.now()) ?? named);
  const product = offer && findProduct(db, offer.productId);
  return offer && product && { offer, product: pricedBy(product, offer), bumps: bumpsOf(live.step) };
}

/** Ids of the options of a product with which something is shipped. */
const sentOptions = ({ db }: Pick<Services, 'db'>, product: Product): string[] =>
  sentEditions(product, (id) => findProduct(db, id)).flatMap((edition) => edition.prices.map((option) => option.id));

/** Whether something of what was quoted is shipped, at once or with a later charge. */
export const isShipped = (quote: Pick<Quote, 'lines'>): boolean => quote.lines.some((line) => parcelOf(line) !== null);

/** Countries this product can be bought from: all, or those that parcels go to where it is shipped in every edition. */
export function countriesFor(services: Pick<Services, 'db'>, product: Product): ReadonlyArray<{ code: string; name: string }> {
  const all = allCountries();
  if (sentEditions(product, (id) => findProduct(services.db, id)).length < product.editions.length) return all;
  const reached = new Set(loadShop(services.db).shippingTable.flatMap((zone) => zone.countries));
  return all.filter((country) => reached.has(country.code));
}

/** The country to quote for: what was chosen if it is on offer, else the shop's own. */
export function chosenCountry(services: Pick<Services, 'db'>, product: Product, wish: string | null | undefined): string {
  const offered = countriesFor(services, product);
  const home = loadShop(services.db).settings.country;
  return offered.find((country) => country.code === wish)?.code ?? offered.find((country) => country.code === home)?.code ?? offered[0]?.code ?? home;
}

/** A quote as the checkout's script takes it. */
export const quoteFacts = (quote: Quote) => ({
  dueToday: quote.dueToday,
  total: formatMoney(quote.dueToday, quote.currency),
  needsCard: needsCard(quote),
  freeWords: freeWords(quote),
});

export interface CheckoutInput {
  visitor: VisitorRow | null;
  visitorId: string | undefined;
  /** Whose tries are counted together. */
  person: string;
  acceptLanguage: string;
  /** The buyer asked for a new cart although one was paid. */
  again: boolean;
  /** The secret of a mailed link that brings a cart back. */
  cartToken: string | undefined;
  /** What the link that brought them has chosen already: price, quantity, amount, code. */
  preset: OrderValues;
  /** A code that came with an earlier link; left out in silence where it does not apply. */
  savedCode: string | undefined;
}

/** The cart that a checkout is opened with: the one of a mailed link, else the visitor's latest. */
function cartFor({ db }: Pick<Services, 'db'>, live: LiveStep, input: CheckoutInput): CartRow | undefined {
  const linked = input.cartToken === undefined ? undefined : cartByToken(db, input.cartToken);
  if (linked?.stepId === live.step.id) return linked;
  return input.visitorId ? latestCart(db, input.visitorId, live.step.id) : undefined;
}

/** The checkout as it is first shown: known buyers do not type again what is known. */
export function openCheckout(services: Paying & AsksRegister, live: LiveStep, sold: Sold, input: CheckoutInput): CheckoutView {
  const { db, clock } = services;
  const { product } = sold;
  const { currency } = loadShop(db).settings;
  // Only what was typed in this very browser: an address alone must not show what is known of its owner.
  const typed = input.visitor?.typed;
  const cart = cartFor(services, live, input);
  const order = cart && orderOfCart(db, cart.id);
  const isPaid = order?.paidAt != null;
  const justPaid = order?.paidAt && order.paidAt + PAID_NOTICE_MS > clock.now() && !input.again ? order : undefined;
  const open = cart && !isPaid ? cart : undefined;
  const values: OrderValues = {
    firstName: typed?.firstName ?? '',
    lastName: typed?.lastName ?? '',
    email: typed?.email ?? '',
    ...(open ? valuesOf(open.lines, open.buyer, open.code, currency) : {}),
    ...input.preset,
  };
  // The buyer's own country, else the shop's: which language somebody reads says nothing of where they live.
  const country = chosenCountry(services, product, cart?.buyer.country ?? typed?.country);
  // A cart that came by a link is the other browser's own; this one goes on with its content in a cart of its own.
  // So is one of a browser that keeps nothing: nobody can tell whose it is.
  const isOwn = open && open.visitorId !== null && open.visitorId === input.visitorId;
  const cartId = isOwn ? open.id : newId(clock, 'cart');
  // What was unticked in a cart that is kept stays unticked.
  const wanted = {
    values,
    country,
    cartId,
    known: { visitor: input.visitor, acceptLanguage: input.acceptLanguage },
    person: input.person,
    sent: open !== undefined,
  };
  let quoted = quoteValues(services, sold, wanted);
  if (!values.code && input.savedCode) {
    const withCode = quoteValues(services, sold, { ...wanted, values: { ...values, code: input.savedCode } });
    if (!withCode.errors.code) {
      values.code = input.savedCode;
      quoted = withCode;
    }
  }
  const suggested = suggestedAmount(product, quoted.priceId, currency);
  return {
    ...checkoutView(services, live, sold, quoted, { ...values, country, ...(suggested ? { chosen: values.chosen ?? suggested } : {}) }, cartId),
    // A code that came with the link and does not apply is told; everything else was not typed here.
    errors: quoted.errors.code && input.preset.code ? { code: quoted.errors.code } : {},
    paidOrder: justPaid
      ? {
          number: String(justPaid.number),
          paid: formatMoney(justPaid.total, currency),
          url: orderAddress(services, justPaid.token),
          againUrl: product.buyAgain ? '?again=1' : null,
        }
      : null,
  };
}

/** The countries whose regions have rates of their own, by the tables they are read from: those stay the same until they are changed. */
const regionsByShop = new WeakMap<ShopRow, CheckoutView['regions']>();
function regionsIn(shop: ShopRow): CheckoutView['regions'] {
  let found = regionsByShop.get(shop);
  if (!found) {
    const places = [...shop.taxTable.map((row) => row.country), ...shop.shippingTable.flatMap((zone) => zone.countries)];
    found = [...new Set(places)].flatMap((country) => {
      const regions = regionsOf(shop, country);
      return regions.length > 0 ? [{ country, name: countryName(country), regions }] : [];
    });
    regionsByShop.set(shop, found);
  }
  return found;
}

/** The checkout with what was typed, as it stands now. */
export function checkoutView(
  services: Paying & AsksRegister,
  live: LiveStep,
  { product, offer, bumps: named }: Sold,
  quoted: QuotedCart,
  values: OrderValues,
  cartId: string,
): CheckoutView {
  const shop = loadShop(services.db);
  const { mode } = shop.settings;
  const countries = countriesFor(services, product);
  return {
    actionUrl: `/pay/${live.step.id}`,
    quoteUrl: `/pay/${live.step.id}/quote`,
    contactUrl: `/pay/${live.step.id}/contact`,
    cartId,
    quote: quoted.quote,
    values: { ...values, option: quoted.priceId },
    errors: {},
    message: null,
    countries,
    regions: regionsIn(shop).filter(({ country }) => countries.some((offered) => offered.code === country)),
    options: offeredOptions(services, product, offer, cartId),
    bumps: bumpViews(services, live, quoted),
    needsCard: needsCard(quoted.quote),
    // A bump that is not offered yet may be once the country is known.
    mayNeedCard: needsCard(quoted.quote) || named.length > 0 || product.editions.some((edition) => edition.prices.some(({ price }) => price.kind !== 'free')),
    sentOptions: sentOptions(services, product),
    sentBumps: sentBumps(services, named),
    cardFields: cardFieldsFor(services, mode, cartId),
    testMode: mode === 'test',
    paidOrder: null,
  };
}

/** The bumps that are offered, as the page shows them. */
export function bumpViews({ db, clock }: Pick<Services, 'db' | 'clock'>, live: LiveStep, { bumps, errors }: QuotedCart): BumpView[] {
  const { currency } = loadShop(db).settings;
  const files = bumpPictureIds(live.step.sells);
  const found = { currency, now: clock.now(), pictures: files.length > 0 ? findPictures(db, files) : {} };
  return bumps.map(({ offer, product, ticked }) => bumpView(offer, product, { ...found, ticked, error: errors[tickName(offer.id)] }));
}

/** Names of the ticks with which something is shipped. */
function sentBumps({ db }: Pick<Services, 'db'>, bumps: readonly Offer[]): string[] {
  return bumps.flatMap((offer) => {
    const product = findProduct(db, offer.productId);
    if (!product) return [];
    const { edition } = offerOption(product, offer);
    return sentEditions(product, (id) => findProduct(db, id)).includes(edition) ? [tickName(offer.id)] : [];
  });
}

/** What is missing from the fields that this checkout alone asks for, by the name of the field. */
export function missingFields({ db }: Pick<Services, 'db'>, live: LiveStep, sent: boolean, form: OrderValues, country: string): Record<string, string> {
  const asksLastName = allElements(live.page).some((element) => isElementOf(element, 'order-form') && element.askLastName);
  const needed: Array<[name: string, message: string]> = [
    ...(asksLastName || sent ? [['lastName', 'Enter your last name.'] as [string, string]] : []),
    ...(sent
      ? ([
          ['street', 'Enter the street and number.'],
          ['postcode', 'Enter the postcode.'],
          ['city', 'Enter the town.'],
          // Where the shop's tables tell regions apart, one is chosen or none of them.
          ...(isRegionTyped(country, regionsOf(loadShop(db), country)) ? [['region', 'Enter the state or region; the post needs it.']] : []),
        ] as Array<[string, string]>)
      : []),
  ];
  return Object.fromEntries(needed.filter(([name]) => !form[name]?.trim()));
}

/** Names of the fields that a checkout shows, where an error can be said. */
export function shownFields({ db }: Pick<Services, 'db'>, live: LiveStep, sent: boolean): string[] {
  const form = allElements(live.page).find((element) => isElementOf(element, 'order-form'));
  if (!form || !isElementOf(form, 'order-form')) return [];
  const asksTaxNumber = form.askTaxNumber ?? loadShop(db).settings.sellsToBusinesses;
  return [
    ...['firstName', 'lastName', 'email', 'street', 'postcode', 'city', 'option', 'chosen'],
    ...(form.askCountry || sent ? ['country', 'region'] : []),
    ...(form.askQuantity ? ['quantity'] : []),
    ...(asksTaxNumber ? ['taxNumber'] : []),
    ...(form.hideCode ? [] : ['code']),
  ];
}

/**
 * Whoever has this address, if they own a product that may be bought only once. The cart that was paid for it does not
 * count: whoever sends it again is led to its order.
 */
export function ownsAlready({ db }: Pick<Services, 'db'>, product: Product, email: string, cartId: string): ContactRow | undefined {
  if (product.buyAgain) return undefined;
  const contact = findContactByEmail(db, email);
  return contact && ownsProduct(db, contact.id, product.id, loadShop(db).settings.mode, cartId) ? contact : undefined;
}
