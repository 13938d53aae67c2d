import { allCountries, allElements, EmailSchema, formatMoney, type Product, type Quote, quoteProduct } from '@ruta/core';
import type { CheckoutView } from '@ruta/pages';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { findProduct } from '../catalog/store';
import { quaysideAccount } from '../connections/service';
import { findContact } from '../contacts/store';
import { newId } from '../ids';
import { findCart, findOrder, latestCart } from '../sales/store';
import { carts } from '../sales/tables';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import type { VisitorRow } from '../tracking/recorder';
import { orderAddress } from './links';
import type { LiveStep } from './publicPages';

/** After this long a visitor who comes again gets an empty cart instead of being shown the order they paid. */
const PAID_NOTICE_MS = 24 * 60 * 60 * 1000;

/** What a buyer sends from the order form. Names and prices are never among it: the server knows those. */
export const OrderFormSchema = z.object({
  cart: z.string().regex(/^crt_[0-9a-z]{6,32}$/, 'This checkout has ended. Reload the page.'),
  firstName: z.string().trim().min(1, 'Enter your first name.').max(80, 'Keep the name under 80 characters.'),
  lastName: z.string().trim().max(80, 'Keep the name under 80 characters.').default(''),
  email: EmailSchema,
  country: z.string().optional(),
  shown: z.coerce.number().int().min(0, 'The total shown is not a number.'),
  token: z.string().max(200).default(''),
});
export type OrderForm = z.infer<typeof OrderFormSchema>;

/** The product a live checkout sells; undefined if it cannot be sold. */
export function productOf(services: Services, live: LiveStep): Product | undefined {
  const product = live.step.kind === 'checkout' && live.step.productId ? findProduct(services.db, live.step.productId) : undefined;
  return product?.archivedAt ? undefined : product;
}

/** Countries this product can be bought from: all, or those that parcels go to. */
export function countriesFor(services: Services, product: Product): Array<{ code: string; name: string }> {
  const all = allCountries();
  if (product.kind !== 'physical') return all;
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
export const quoteFacts = (quote: Quote) => ({ dueToday: quote.dueToday, total: formatMoney(quote.dueToday, quote.currency) });

export interface CheckoutInput {
  visitor: VisitorRow | null;
  visitorId: string | undefined;
  acceptLanguage: string;
  /** The buyer asked for a new cart although one was paid. */
  again: boolean;
}

/** The checkout as it is first shown: known buyers do not type again what is known. */
export function openCheckout(services: Services, live: LiveStep, product: Product, input: CheckoutInput): CheckoutView {
  const { db, clock } = services;
  const contact = input.visitor?.contactId ? findContact(db, input.visitor.contactId) : undefined;
  const cart = input.visitorId ? latestCart(db, input.visitorId, live.step.id) : undefined;
  const paidOrder = cart?.paidOrderId ? findOrder(db, cart.paidOrderId) : undefined;
  const justPaid = paidOrder?.paidAt && paidOrder.paidAt + PAID_NOTICE_MS > clock.now() && !input.again ? paidOrder : undefined;
  const language = /^[a-z]{2,3}-([A-Z]{2})/.exec(input.acceptLanguage)?.[1];
  const values = {
    firstName: contact?.firstName ?? '',
    lastName: contact?.lastName ?? '',
    email: contact?.email ?? '',
    ...(cart && !cart.paidOrderId ? cart.values : {}),
  };
  const country = chosenCountry(services, product, cart?.values.country ?? contact?.country ?? language);
  return {
    ...checkoutView(services, live, product, quoteProduct(loadShop(db), product, country, clock.now())),
    cartId: cart && !cart.paidOrderId ? cart.id : newId(clock, 'cart'),
    values: { ...values, country },
    paidOrder: justPaid ? { number: String(justPaid.number), url: orderAddress(services, justPaid.token), againUrl: '?again=1' } : null,
  };
}

/** The parts of a checkout that depend on the shop and the quote alone. */
export function checkoutView(services: Services, live: LiveStep, product: Product, quote: Quote): CheckoutView {
  const { mode } = loadShop(services.db).settings;
  const account = quaysideAccount(services, mode);
  const { standinsUrl } = services.config;
  return {
    actionUrl: `/pay/${live.step.id}`,
    quoteUrl: `/pay/${live.step.id}/quote`,
    contactUrl: `/pay/${live.step.id}/contact`,
    cartId: '',
    quote,
    values: {},
    errors: {},
    message: null,
    countries: countriesFor(services, product),
    cardFields: account && standinsUrl ? { url: `${standinsUrl}/quayside/fields?key=${encodeURIComponent(account.publicKey)}`, origin: standinsUrl } : null,
    testMode: mode === 'test',
    paidOrder: null,
  };
}

/** Whether this checkout asks for a last name, so that it is required only there. */
export function asksLastName(live: LiveStep): boolean {
  return allElements(live.page).some((element) => element.type === 'order-form' && element.askLastName);
}

/** Keeps a cart that has an address, so that it is known who left and with what. A paid cart is left as it is. */
export function keepCart(
  services: Services,
  live: LiveStep,
  cartId: string,
  visitorId: string | null,
  values: Record<string, string>,
): { isNew: boolean; belongs: boolean } {
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
