import { allCountries, allElements, countryName, EmailSchema, formatMoney, isElementOf, needsCard, type Product, type Quote, regionsOf } from '@ruta/core';
import type { CheckoutView } from '@ruta/pages';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { findProduct } from '../catalog/store';
import { quaysideAccount } from '../connections/service';
import { findContact, findContactByEmail } from '../contacts/store';
import { newId } from '../ids';
import { findCart, findOrder, latestCart, ownsProduct } from '../sales/store';
import { carts } from '../sales/tables';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import type { VisitorRow } from '../tracking/recorder';
import { orderAddress } from './links';
import { type Offer, offeredOptions, quoteOffer, suggestedAmount, type Values } from './offer';
import type { LiveStep } from './publicPages';

/** After this long a visitor who comes again gets an empty cart instead of being shown the order they paid. */
const PAID_NOTICE_MS = 24 * 60 * 60 * 1000;

const NameSchema = z.string().trim().max(80, 'Keep the name under 80 characters.');
const LineSchema = z.string().trim().max(120, 'Keep this under 120 characters.').default('');

/** What a buyer sends from the order form. Names and prices are never among it: the server knows those. */
export const OrderFormSchema = z.object({
  cart: z.string().regex(/^crt_[0-9a-z]{6,32}$/, 'This checkout has ended. Reload the page.'),
  firstName: NameSchema.min(1, 'Enter your first name.'),
  lastName: NameSchema.default(''),
  email: EmailSchema,
  street: LineSchema,
  postcode: LineSchema,
  city: LineSchema,
  shown: z.coerce.number().int().min(0, 'The total shown is not a number.'),
  token: z.string().max(200).default(''),
});
export type OrderForm = z.infer<typeof OrderFormSchema>;

/** The product a live checkout sells, on sale or not; undefined if there is none. */
export function productOf(services: Services, live: LiveStep): Product | undefined {
  return live.step.kind === 'checkout' && live.step.productId ? findProduct(services.db, live.step.productId) : undefined;
}

/** Whether a product, or a part of it, goes by post. */
export function isSent(services: Services, product: Product): boolean {
  if (product.bundle.length === 0) return product.kind === 'physical';
  return product.bundle.some((part) => findProduct(services.db, part.productId)?.kind === 'physical');
}

/** Countries this product can be bought from: all, or those that parcels go to. */
export function countriesFor(services: Services, product: Product): Array<{ code: string; name: string }> {
  const all = allCountries();
  if (!isSent(services, product)) return all;
  const reached = new Set(loadShop(services.db).shippingTable.flatMap((zone) => zone.countries));
  return all.filter((country) => reached.has(country.code));
}

/** The country to quote for: what was chosen if it is on offer, else the shop's own. */
export function chosenCountry(services: Services, product: Product, wish: string | null | undefined): string {
  const offered = countriesFor(services, product);
  const home = loadShop(services.db).settings.country;
  return offered.find((country) => country.code === wish)?.code ?? offered.find((country) => country.code === home)?.code ?? offered[0]?.code ?? home;
}

/** A quote as the checkout's script takes it. */
export const quoteFacts = (quote: Quote) => ({
  dueToday: quote.dueToday,
  total: formatMoney(quote.dueToday, quote.currency),
  needsCard: needsCard(quote),
});

export interface CheckoutInput {
  visitor: VisitorRow | null;
  visitorId: string | undefined;
  acceptLanguage: string;
  /** The buyer asked for a new cart although one was paid. */
  again: boolean;
  /** What the link that brought them has chosen already: price, quantity, amount, code. */
  preset: Values;
  /** A code that came with an earlier link; left out in silence where it does not apply. */
  keptCode: string | undefined;
}

/** The checkout as it is first shown: known buyers do not type again what is known. */
export function openCheckout(services: Services, live: LiveStep, product: Product, input: CheckoutInput): CheckoutView {
  const { db, clock } = services;
  const contact = input.visitor?.contactId ? findContact(db, input.visitor.contactId) : undefined;
  const cart = input.visitorId ? latestCart(db, input.visitorId, live.step.id) : undefined;
  const paidOrder = cart?.paidOrderId ? findOrder(db, cart.paidOrderId) : undefined;
  const justPaid = paidOrder?.paidAt && paidOrder.paidAt + PAID_NOTICE_MS > clock.now() && !input.again ? paidOrder : undefined;
  const language = /^[a-z]{2,3}-([A-Z]{2})/.exec(input.acceptLanguage)?.[1];
  const values: Values = {
    firstName: contact?.firstName ?? '',
    lastName: contact?.lastName ?? '',
    email: contact?.email ?? '',
    ...(cart && !cart.paidOrderId ? cart.values : {}),
    ...input.preset,
  };
  const country = chosenCountry(services, product, cart?.values.country ?? contact?.country ?? language);
  const cartId = cart && !cart.paidOrderId ? cart.id : newId(clock, 'cart');
  if (!values.code && input.keptCode && !quoteOffer(services, product, { ...values, code: input.keptCode }, country, cartId).errors.code) {
    values.code = input.keptCode;
  }
  const offer = quoteOffer(services, product, values, country, cartId);
  const suggested = suggestedAmount(product, offer.priceId, offer.quote.currency);
  return {
    ...checkoutView(services, live, product, offer, { ...values, country, ...(suggested ? { chosen: values.chosen ?? suggested } : {}) }, cartId),
    // A code that came with the link and does not apply is told; everything else was not typed here.
    errors: offer.errors.code && input.preset.code ? { code: offer.errors.code } : {},
    paidOrder: justPaid
      ? { number: String(justPaid.number), url: orderAddress(services, justPaid.token), againUrl: product.buyAgain ? '?again=1' : null }
      : null,
  };
}

/** The checkout with what was typed, as it stands now. */
export function checkoutView(services: Services, live: LiveStep, product: Product, offer: Offer, values: Values, cartId: string): CheckoutView {
  const shop = loadShop(services.db);
  const { mode } = shop.settings;
  const account = quaysideAccount(services, mode);
  const { standinsUrl } = services.config;
  const countries = countriesFor(services, product);
  const regional = [
    ...new Set([...shop.taxTable, ...shop.shippingTable.flatMap((zone) => zone.countries.map((country) => ({ country })))].map((row) => row.country)),
  ];
  return {
    actionUrl: `/pay/${live.step.id}`,
    quoteUrl: `/pay/${live.step.id}/quote`,
    contactUrl: `/pay/${live.step.id}/contact`,
    cartId,
    quote: offer.quote,
    values: { ...values, option: offer.priceId },
    errors: {},
    message: null,
    countries,
    regions: regional.flatMap((country) => {
      const regions = countries.some((offered) => offered.code === country) ? regionsOf(shop, country) : [];
      return regions.length > 0 ? [{ country, name: countryName(country), regions }] : [];
    }),
    options: offeredOptions(services, product, cartId),
    needsCard: needsCard(offer.quote),
    needsAddress: isSent(services, product),
    cardFields: account && standinsUrl ? { url: `${standinsUrl}/quayside/fields?key=${encodeURIComponent(account.publicKey)}`, origin: standinsUrl } : null,
    testMode: mode === 'test',
    paidOrder: null,
  };
}

/** What is missing from the fields that this checkout alone asks for, by the name of the field. */
export function missingFields(services: Services, live: LiveStep, product: Product, form: Values): Record<string, string> {
  const asksLastName = allElements(live.page).some((element) => isElementOf(element, 'order-form') && element.askLastName);
  const sent = isSent(services, product);
  const needed: Array<[name: string, message: string]> = [
    ...(asksLastName || sent ? [['lastName', 'Enter your last name.'] as [string, string]] : []),
    ...(sent
      ? ([
          ['street', 'Enter the street and number.'],
          ['postcode', 'Enter the postcode.'],
          ['city', 'Enter the town.'],
        ] as Array<[string, string]>)
      : []),
  ];
  return Object.fromEntries(needed.filter(([name]) => !form[name]?.trim()));
}

/**
 * Whether somebody with this address owns a product that may be bought only once. The cart that was paid for it does not
 * count: whoever sends it again is led to its order.
 */
export function ownsAlready(services: Services, product: Product, email: string, cartId: string): boolean {
  if (product.buyAgain) return false;
  const { db } = services;
  const contact = findContactByEmail(db, email);
  return contact !== undefined && ownsProduct(db, contact.id, product.id, loadShop(db).settings.mode, cartId);
}

/** Keeps a cart that has an address, so that it is known who left and with what. A paid cart is left as it is. */
export function keepCart(services: Services, live: LiveStep, cartId: string, visitorId: string | null, values: Values): { isNew: boolean; belongs: boolean } {
  const { db, clock } = services;
  const now = clock.now();
  const known = findCart(db, cartId);
  if (known && (known.stepId !== live.step.id || (known.visitorId && known.visitorId !== visitorId))) return { isNew: false, belongs: false };
  if (!known) {
    db.insert(carts).values({ id: cartId, visitorId, funnelId: live.publication.funnelId, stepId: live.step.id, values, createdAt: now, updatedAt: now }).run();
  } else if (!known.paidOrderId) {
    db.update(carts).set({ values, updatedAt: now }).where(eq(carts.id, cartId)).run();
  }
  return { isNew: !known, belongs: true };
}

const MAX_KEPT_LENGTH = 300;
const FIELDS = [
  'cart',
  'firstName',
  'lastName',
  'email',
  'country',
  'region',
  'street',
  'postcode',
  'city',
  'taxNumber',
  'option',
  'quantity',
  'chosen',
  'code',
];

/** What was typed, as short strings, to be shown again whatever it is. */
export function fieldValues(body: unknown): Values {
  const kept: Values = {};
  if (typeof body !== 'object' || body === null) return kept;
  for (const name of FIELDS) {
    const value = (body as Record<string, unknown>)[name];
    if (typeof value === 'string') kept[name] = value.slice(0, MAX_KEPT_LENGTH);
  }
  return kept;
}

/** What a link to a checkout may choose beforehand: `?option=…&quantity=2&chosen=8&code=LONGNIGHT`. */
export function presetOf(query: Record<string, unknown>): Values {
  const preset: Values = {};
  for (const name of ['option', 'quantity', 'chosen', 'code'] as const) {
    const value = query[name];
    if (typeof value === 'string' && value !== '') preset[name] = value.slice(0, 40);
  }
  return preset;
}
