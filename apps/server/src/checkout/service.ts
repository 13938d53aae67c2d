import { formValues, type OrderForm, OrderFormSchema, type OrderValues } from '@ruta/core/checkout';
import { leadsToOffers } from '@ruta/core/funnel';
import { needsCard, needsRegister, type Quote, regionsOf, storedQuote } from '@ruta/core/pricing';
import { isRegionTyped } from '@ruta/core/shop';
import type { CheckoutView } from '@ruta/pages';
import { wantedOf } from '../catalog/wanted';
import { gatherFacts } from '../facts/gather';
import { guestWho } from '../facts/who';
import type { LiveServices, LiveStep } from '../funnel/live';
import { ownOrderOf, wasPaid } from '../orders/store';
import type { NewOrder } from '../orders/write';
import { broughtBy } from '../partners/broughtBy';
import type { Paying } from '../payments/accounts';
import { declineMessage } from '../payments/messages';
import { isUnknown, payCart } from '../payments/pay';
import { whereTo } from '../payments/whereTo';
import { loadShop } from '../shop/store';
import type { AsksRegister } from '../taxNumbers/register';
import { onceId } from '../tracking/onceId';
import type { Tracked, VisitorRow } from '../tracking/recorder';
import { countedIdOf, makeEvent, placeOf } from '../tracking/visitor';
import { type SavedCart, saveCart } from './cart';
import { closedAnswer, closedHere } from './closed';
import { DECLINED_CARDS, TOO_MANY_CARTS, tooManyCards } from './fewTries';
import { holdFor } from './holds';
import { tellOwner } from './ownership';
import { type QuotedCart, quoteValues, type Sold } from './quotedCart';
import { checkoutView, chosenCountry, isShipped, missingFields, ownsAlready, quoteFacts, shownFields, soldAt } from './view';

type Needs = Tracked & Paying & LiveServices & AsksRegister;

/** Who is at a checkout, as far as their browser tells. */
export interface Guest {
  /** The browser's own id, whether or not the visit counts. */
  visitorId: string | null;
  visitor: VisitorRow | null;
  /** The same, if the visit counts in the figures. */
  counted: VisitorRow | null;
  acceptLanguage: string | undefined;
  /** Whose tries are counted together: of one computer, or one household. */
  person: string;
  /** The address of the public site as they came to it: by a domain of the seller's they stay there. */
  base: string;
}

/** A live checkout with what somebody wants there, quoted. */
export interface OpenCheckout {
  live: LiveStep;
  sold: Sold;
  values: OrderValues;
  country: string;
  quoted: QuotedCart;
}

/** What becomes of what was sent to a checkout. */
export type CheckoutAnswer =
  /** Led on: to the bank, the order, the next step, or where one goes whose product has closed. */
  | { kind: 'lead'; status: 200 | 409; url: string }
  /** Refused as a whole: there is no form to show again. */
  | { kind: 'refused'; status: number; message: string }
  /** The form as it was left, with what is wrong at its place. */
  | { kind: 'show'; status: number; live: LiveStep; view: CheckoutView };

/** The live checkout of a step and what is wanted there, or why not: ids come from the browser and may be anything. */
export function findCheckout(services: Needs, stepId: string, body: unknown, guest: Guest): OpenCheckout | CheckoutAnswer {
  // A stop that only an arm of a test has is found for a browser that keeps nothing, too.
  const live = services.live.stepHaving(stepId, guestWho(services, guest), () => true);
  const sold = live && soldAt(services, live);
  if (!live || !sold) return { kind: 'refused', status: 404, message: 'This checkout does not exist, or nothing is sold here any more. Nothing was charged.' };
  const values = formValues(body);
  const known = { visitor: guest.visitor, acceptLanguage: guest.acceptLanguage };
  const closed = closedHere(services, sold.product, sold.offer, values.cart ?? null);
  if (closed) {
    const { url } = closedAnswer(services, live, sold.product, closed, gatherFacts(services, guest));
    return url ? { kind: 'lead', status: 409, url } : { kind: 'refused', status: 409, message: `${closed.message} Nothing was charged.` };
  }
  // A code that the form does not ask for can only have come with a link, and is then among the values.
  const country = chosenCountry(services, sold.product, values.country);
  return {
    live,
    sold,
    values,
    country,
    quoted: quoteValues(services, sold, { values, country, cartId: values.cart ?? null, known, person: guest.person, sent: true }),
  };
}

/** Has the register's answer for a business's tax number ready before anything is quoted with it. */
export async function askRegister({ db, taxRegister }: Needs, body: unknown, { person }: Guest): Promise<void> {
  await taxRegister.consult(formValues(body).taxNumber, loadShop(db).settings.country, person);
}

/** Saves the cart and says once that a checkout was begun. @returns what became of the cart: somebody else's, and one of too many, are not kept */
export function beginCheckout(services: Needs, guest: Guest, cartId: string, { live, quoted, values }: OpenCheckout): SavedCart {
  const saved = saveCart(services, live, cartId, guest, quoted, values);
  const { counted } = guest;
  if (!counted || !saved.belongs || saved.isOneTooMany) return saved;
  const { mode } = loadShop(services.db).settings;
  // Under an id of its own: a cart that could not be written, and is written again, began one checkout.
  if (saved.isNew) services.recorder.gather(makeEvent(services, 'checkout.started', mode, counted, placeOf(live), onceId('checkout', cartId)), counted);
  // What is in the cart is told once for each product, whatever is changed of it and put back.
  for (const { productId, name, role, quantity, discounted, part } of quoted.quote.lines) {
    if (part === 'set-up fee') continue;
    const place = { ...placeOf(live), data: { productId, name, role, quantity, value: discounted } };
    services.recorder.gather(makeEvent(services, 'cart.added', mode, counted, place, onceId('cart', cartId, productId)), counted);
  }
  return saved;
}

/**
 * Takes an order form: whatever is wrong is said at its field, the total must be the one that was shown, what is wanted
 * is held, and only then is anything charged.
 */
export async function placeOrder(services: Needs, stepId: string, body: unknown, guest: Guest): Promise<CheckoutAnswer> {
  const { db } = services;
  // Sent again after it was paid: led to the order, whatever has been sold out or closed meanwhile.
  const order = ownOrderOf(db, formValues(body).cart, guest.visitorId);
  if (order && wasPaid(order.state)) return { kind: 'lead', status: 200, url: whereTo(services, { state: 'paid', order }) };
  // Nor may anything be said of a cart whose charge may have gone through, least of all that nothing was charged.
  if (order && isUnknown(db, order)) return { kind: 'lead', status: 200, url: whereTo(services, { state: 'waiting', order }) };
  await askRegister(services, body, guest);
  const found = findCheckout(services, stepId, body, guest);
  if ('kind' in found) return found;
  const { live, sold, values, country, quoted } = found;
  const { quote } = quoted;
  const show = (status: number, view: Partial<CheckoutView>): CheckoutAnswer => ({
    kind: 'show',
    status,
    live,
    view: { ...checkoutView(services, live, sold, quoted, { ...values, country }, values.cart ?? ''), ...view },
  });

  const parsed = OrderFormSchema.safeParse(body);
  const sent = isShipped(quote);
  const errors: Record<string, string> = {
    ...quoted.errors,
    ...missingFields(services, live, sent, values, country),
    ...(parsed.success ? {} : Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issue.message]))),
    ...(values.country && values.country !== country ? { country: 'We do not sell to this country. Choose another.' } : {}),
  };
  if (!parsed.success || Object.keys(errors).length > 0) {
    const shownAt = new Set(shownFields(services, live, sent));
    const elsewhere = Object.entries(errors).find(([name]) => !shownAt.has(name))?.[1] ?? null;
    return show(422, { errors, message: elsewhere });
  }
  const form = parsed.data;
  const saved = beginCheckout(services, guest, form.cart, found);
  if (!saved.belongs) {
    return { kind: 'refused', status: 409, message: 'This cart belongs to another checkout. Reload the page; nothing was charged.' };
  }
  if (saved.isOneTooMany) return show(429, { message: TOO_MANY_CARTS });
  if (form.shown !== quote.dueToday) {
    return show(409, {
      message: `The total has changed to ${quoteFacts(quote).total} since you opened this page. Nothing was charged. Look it over, then press the button again.`,
    });
  }
  if (needsCard(quote) && form.token === '') return show(422, { message: 'Enter your card details to pay.' });
  for (const product of [sold.product, ...quoted.bumps.filter((bump) => bump.ticked).map((bump) => bump.product)]) {
    const owner = ownsAlready(services, product, form.email, form.cart);
    if (!owner) continue;
    // Who owns what is told to the address alone, never to whoever typed it.
    tellOwner(services, owner, product);
    return show(409, { message: 'We have written to this address about your order; look into your mailbox. Nothing was charged.' });
  }
  if (needsCard(quote) && services.limits.isReached(DECLINED_CARDS, guest.person))
    return show(429, { message: tooManyCards(loadShop(db).settings.contactEmail) });
  const refused = holdFor(services, { cartId: form.cart, email: form.email.toLowerCase(), ...wantedOf(db, quote), code: quoted.code });
  if (refused) return show(409, { errors: { [refused.field]: refused.message }, message: refused.message });
  // Coming back from the bank is told apart, so that nobody is led there in a circle.
  const outcome = await payCart(services, newOrder(services, guest, form, found), form.token, (order) => `${guest.base}/pay/return/${order.token}?from=bank`);
  if (outcome.state === 'declined') {
    services.limits.count(DECLINED_CARDS, guest.person);
    return show(402, { message: declineMessage(outcome.reason), isOfCard: true });
  }
  return { kind: 'lead', status: 200, url: whereTo(services, outcome) };
}

/** The order that a form stands for, quoted by the server's own sums. */
function newOrder(
  services: Needs,
  { counted, visitorId }: Guest,
  form: OrderForm,
  { live, country, values, quoted: { quote, code, bumps } }: OpenCheckout,
): NewOrder {
  const { db } = services;
  const shop = loadShop(db);
  const { settings } = shop;
  const region = quote.taxRegion ?? (isShipped(quote) && isRegionTyped(country, regionsOf(shop, country)) ? values.region?.trim() : undefined);
  return {
    ...placeOf(live),
    cartId: form.cart,
    visitorId: countedIdOf(counted),
    browserId: visitorId,
    mode: settings.mode,
    quote: storedQuote(quote, settings.seller),
    codeId: code?.id ?? null,
    offered: bumps.map(({ offer }) => offer.id),
    keeps: leadsToOffers(live.publication.snapshot.graph, live.step.id),
    buyer: {
      email: form.email.toLowerCase(),
      firstName: form.firstName,
      lastName: form.lastName,
      country,
      ...(region ? { region } : {}),
      ...(quote.taxNumber?.valid ? { taxNumber: quote.taxNumber.number } : {}),
      ...(isShipped(quote) ? { address: { street: form.street, postcode: form.postcode, city: form.city } } : {}),
    },
    ...proofFor(services, quote),
    campaign: counted?.lastCampaign ?? null,
    partnerId: broughtBy(services, counted, form.email),
  };
}

/** Where tax is left to the buyer: that the register was asked, and what it said, as it is kept with the order. */
function proofFor({ db, taxRegister }: Needs, { reverseCharge, taxNumber }: Quote): Pick<NewOrder, 'taxNumberProof'> {
  const said = reverseCharge && taxNumber ? taxRegister.latest(taxNumber.number) : undefined;
  if (!said || !taxNumber || !needsRegister(taxNumber.number, loadShop(db).settings.country)) return {};
  const { at, ...rest } = said;
  return { taxNumberProof: { ...rest, number: taxNumber.number, askedAt: at } };
}
