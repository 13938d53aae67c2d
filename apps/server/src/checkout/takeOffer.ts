import { additionRole } from '@ruta/core/funnel';
import { mainOffers } from '@ruta/core/offers';
import { needsCard, storedQuote } from '@ruta/core/pricing';
import { dueSentence } from '@ruta/pages';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { wantedOf } from '../catalog/wanted';
import { orderByToken } from '../delivery/orderLink';
import { holdReceipt, releaseReceiptSoon } from '../delivery/receipt';
import { gatherFacts } from '../facts/gather';
import { buyerOf } from '../facts/who';
import type { LiveServices, LiveStep } from '../funnel/live';
import { onward } from '../offers/onward';
import { type Standing, standingOffers } from '../offers/standing';
import { additionOf, type OrderRow } from '../orders/store';
import { orders } from '../orders/tables';
import type { Paying } from '../payments/accounts';
import { additionUnderWay, outcomeOfAddition, payAddition } from '../payments/addition';
import { declineMessage } from '../payments/messages';
import { recordForOrder } from '../payments/recordForOrder';
import { whereTo } from '../payments/whereTo';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { visitorOf } from '../tracking/visitorOf';
import { DECLINED_CARDS, tooManyCards } from './fewTries';
import { holdFor } from './holds';
import { cardOnFile, type OfferPageState, shownOffer } from './offerView';
import type { Guest } from './service';

type Needs = Tracked & Paying & LiveServices;

/** What becomes of an answer to an offer, or of somebody who comes to its page. */
export type OfferAnswer =
  /** Led on: to the bank, the next step, the order. */
  | { kind: 'lead'; url: string }
  /** Told why it cannot be had, with the way on. */
  | { kind: 'told'; status: number; title: string; message: string; url: string }
  | { kind: 'show'; status: number; live: LiveStep; order: OrderRow; standing: Standing; state: OfferPageState };

const line = (max: number) => z.string().trim().max(max).default('');
const TakeSchema = z.object({
  answer: z.enum(['yes', 'no']),
  order: z.string().max(80),
  offer: z.string().max(40).default(''),
  shown: z.coerce.number().int().min(0).catch(-1),
  quantity: z.coerce.number().int().min(1).max(99).optional().catch(undefined),
  confirmed: z.literal('on').optional().catch(undefined),
  token: z.string().max(200).default(''),
  street: line(120),
  postcode: line(20),
  city: line(80),
});

const UNKNOWN: OfferAnswer = {
  kind: 'told',
  status: 404,
  title: 'This offer belongs to an order',
  message: 'We cannot tell which order it is for. Open the link in your receipt mail. Nothing was charged.',
  url: '/',
};

/** What a step offers to whoever comes to its page with an order: shown, or the way on where there is nothing for them. */
export function openOffers(services: Needs, live: LiveStep, token: unknown, guest: Guest, state: OfferPageState = {}): OfferAnswer {
  const order = orderByToken(services, token);
  if (!order || order.funnelId !== live.publication.funnelId) return UNKNOWN;
  const standing = standingFor(services, live, order, guest);
  if (standing.open.length === 0) return { kind: 'lead', url: wayOn(services, live, order, standing) };
  holdReceipt(services, order);
  for (const { offer } of standing.open) {
    if (!standing.showings.has(offer.id)) {
      recordForOrder(services, order, 'offer.shown', { offerId: offer.id, role: additionRole(live.publication.snapshot.graph, live.step.id) }, live.step.id);
    }
  }
  return { kind: 'show', status: 200, live, order, standing, state };
}

/** The page of an offer was closed: what is bought by now is told soon. */
export function leaveOffers(services: Needs, token: unknown): void {
  const order = orderByToken(services, token);
  if (order) releaseReceiptSoon(services, order);
}

/** Takes a yes or a no. Nothing is charged but what was shown, to the order that it was shown for. */
export async function answerOffer(services: Needs, stepId: string, body: unknown, guest: Guest): Promise<OfferAnswer> {
  const parsed = TakeSchema.safeParse(body);
  const order = parsed.success ? orderByToken(services, parsed.data.order) : undefined;
  if (!parsed.success || !order) return UNKNOWN;
  const sent = parsed.data;
  const live = services.live.step(stepId, buyerOf(services, order));
  // A stop that was taken off the map while somebody stood on it.
  if (live?.step.kind !== 'offer') {
    return ended(onward(services, order, order.stepId, 'paid'), 'This offer is not made any more.');
  }
  if (order.funnelId !== live.publication.funnelId) return UNKNOWN;
  if (sent.answer === 'no') return { kind: 'lead', url: decline(services, live, order, guest) };

  // A yes that arrives again is led to what became of the first one.
  const underWay = await additionUnderWay(order.id, sent.offer);
  if (underWay && underWay.state !== 'declined') return { kind: 'lead', url: whereTo(services, underWay) };
  const known = additionOf(services.db, order.id, sent.offer);
  if (known) {
    const outcome = outcomeOfAddition(services, known.id);
    if (outcome.state !== 'declined') return { kind: 'lead', url: whereTo(services, outcome) };
  }
  const quantities = sent.quantity === undefined ? {} : { [sent.offer]: sent.quantity };
  const standing = standingFor(services, live, order, guest, quantities);
  const wanted = standing.open.find(({ offer }) => offer.id === sent.offer);
  if (!wanted) return ended(wayOn(services, live, order, standing), 'This offer has ended, or what it was for is sold out.');
  const { offer, quote } = wanted;
  const values = { street: sent.street, postcode: sent.postcode, city: sent.city };
  const show = (status: number, state: OfferPageState): OfferAnswer => ({ kind: 'show', status, live, order, standing, state: { values, ...state } });

  if (sent.shown !== quote.dueToday) {
    return show(409, { message: `The price has changed to ${shownOffer(services, wanted).dueWords} since you opened this page. Nothing was charged.` });
  }
  const errors = wanted.asksAddress ? missingAddress(values) : {};
  if (Object.keys(errors).length > 0) return show(422, { errors, message: 'Say where it is to be sent. Nothing was charged.' });
  const ending = cardOnFile(services, order);
  const oneClick = sent.token === '' && ending !== null;
  // In another browser than the one that bought, a stray click must not be enough.
  const isElsewhere = order.browserId !== guest.visitorId;
  if (oneClick && needsCard(quote) && (offer.confirms || isElsewhere) && !sent.confirmed) return show(200, { asking: offer.id });
  if (needsCard(quote) && !oneClick && sent.token === '') return show(422, { message: 'Enter your card details to add this.', refused: true });
  if (needsCard(quote) && services.limits.isReached(DECLINED_CARDS, guest.person))
    return show(429, { message: tooManyCards(loadShop(services.db).settings.contactEmail), refused: true });
  const refused = holdFor(services, { cartId: order.cartId, email: order.email, ...wantedOf(services.db, quote) });
  if (refused) return show(409, { message: refused.message });
  const sendTo = wanted.asksAddress ? addressed(services, order, values) : order;
  const outcome = await payAddition(
    services,
    { order: sendTo, stepId, offerId: offer.id, quote: storedQuote(quote, loadShop(services.db).settings.seller), token: sent.token },
    (payment) => `${guest.base}/pay/return/${order.token}?from=bank&payment=${payment.id}`,
  );
  if (outcome.state === 'declined') {
    services.limits.count(DECLINED_CARDS, guest.person);
    return show(402, { message: declineMessage(outcome.reason), refused: true });
  }
  return { kind: 'lead', url: whereTo(services, outcome) };
}

/** What a yes to another quantity would charge; null if the offer does not stand. */
export function quoteOffer(services: Needs, stepId: string, body: unknown, guest: Guest): { dueToday: number; sentence: string; words: string } | null {
  const parsed = TakeSchema.extend({ answer: z.enum(['yes', 'no']).default('yes') }).safeParse(body);
  const order = parsed.success ? orderByToken(services, parsed.data.order) : undefined;
  const live = order && services.live.step(stepId, buyerOf(services, order));
  if (!parsed.success || !order || live?.step.kind !== 'offer' || order.funnelId !== live.publication.funnelId) return null;
  const { offer, quantity } = parsed.data;
  const standing = standingFor(services, live, order, guest, quantity === undefined ? {} : { [offer]: quantity });
  const wanted = standing.open.find((candidate) => candidate.offer.id === offer);
  if (!wanted) return null;
  const shown = shownOffer(services, wanted);
  return { dueToday: wanted.quote.dueToday, sentence: dueSentence(shown, cardOnFile(services, order)), words: shown.dueWords };
}

/** Where the buyer of an order goes on who has nothing left to answer here: along their yes if they gave one. */
function wayOn(services: Needs, live: LiveStep, order: OrderRow, { showings }: Standing): string {
  const taken = mainOffers(live.step).some((offer) => showings.get(offer.id)?.takenAt);
  return onward(services, order, live.step.id, taken ? 'accepted' : 'closed');
}

function decline(services: Needs, live: LiveStep, order: OrderRow, guest: Guest): string {
  const role = additionRole(live.publication.snapshot.graph, live.step.id);
  const { open, showings } = standingFor(services, live, order, guest);
  for (const { offer } of open) {
    if (!showings.get(offer.id)?.declinedAt) recordForOrder(services, order, 'offer.declined', { offerId: offer.id, role }, live.step.id);
  }
  const taken = mainOffers(live.step).some((offer) => showings.get(offer.id)?.takenAt);
  // Of several offers one was taken: the no is to the rest of them.
  return onward(services, order, live.step.id, taken ? 'accepted' : 'declined');
}

function standingFor(services: Needs, live: LiveStep, order: OrderRow, guest: Guest, quantities: Record<string, number> = {}): Standing {
  // What is known of the buyer is that of whoever bought; how they read and on what they sit is that of this browser.
  const visitor = order.visitorId ? visitorOf(services, order) : guest.visitor;
  const facts = gatherFacts(services, { order, visitor, acceptLanguage: guest.acceptLanguage });
  return standingOffers(services, live, order, facts, quantities);
}

const ended = (url: string, message: string): OfferAnswer => ({
  kind: 'told',
  status: 410,
  title: 'This offer has ended',
  message: `${message} Nothing was charged, and your order is complete as it is.`,
  url,
});

function missingAddress(values: Record<string, string>): Record<string, string> {
  const words: Record<string, string> = { street: 'Enter the street and number.', postcode: 'Enter the postcode.', city: 'Enter the town.' };
  return Object.fromEntries(Object.entries(words).filter(([name]) => !values[name]));
}

/** Keeps where an order's parcels go, which is asked with the first thing that is sent. */
function addressed({ db }: Pick<Needs, 'db'>, order: OrderRow, address: { street: string; postcode: string; city: string }): OrderRow {
  const buyer = { ...order.buyer, address };
  db.update(orders).set({ buyer }).where(eq(orders.id, order.id)).run();
  return { ...order, buyer };
}
