import { randomBytes } from 'node:crypto';
import { optionsOf } from '@ruta/core/catalog';
import { tickName } from '@ruta/core/checkout';
import { additionRole, nextStep, type Outcome, type Step, stepKindOf } from '@ruta/core/funnel';
import { makeId } from '@ruta/core/ids';
import { mainOffer } from '@ruta/core/offers';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import type { EventKind, EventPayload } from '@ruta/core/tracking';
import { findProduct } from '../apps/server/src/catalog/store';
import { saveCart } from '../apps/server/src/checkout/cart';
import { quoteValues } from '../apps/server/src/checkout/quotedCart';
import { soldAt } from '../apps/server/src/checkout/view';
import { saveContact } from '../apps/server/src/contacts/store';
import { gatherFacts } from '../apps/server/src/facts/gather';
import type { LiveServices, LiveStep } from '../apps/server/src/funnel/live';
import { nextOf } from '../apps/server/src/offers/onward';
import { standingOffers } from '../apps/server/src/offers/standing';
import { linesOf, loadOrder, type OrderRow, type PaymentRow } from '../apps/server/src/orders/store';
import { charges } from '../apps/server/src/orders/tables';
import { openAddition, openOrder } from '../apps/server/src/orders/write';
import { broughtBy } from '../apps/server/src/partners/broughtBy';
import type { Paying } from '../apps/server/src/payments/accounts';
import { markAdded, markPaid } from '../apps/server/src/payments/fulfil';
import { recordForOrder } from '../apps/server/src/payments/recordForOrder';
import { giveMoneyBack } from '../apps/server/src/payments/refund';
import { loadShop } from '../apps/server/src/shop/store';
import type { AsksRegister } from '../apps/server/src/taxNumbers/register';
import type { Tracked, VisitorRow } from '../apps/server/src/tracking/recorder';
import { recordRoutes } from '../apps/server/src/tracking/routesTaken';
import { makeEvent } from '../apps/server/src/tracking/visitor';
import { seeded } from './random';
import { type PastVisitor, pastVisitors, type Rates } from './traffic';

const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;
/** Who left an address comes back by the letter that often, some days later. */
const COMES_BACK = 0.3;
/** So many of those who come leave an address, roughly. */
const USUAL_LEADS = 0.24;
const LETTER = { source: 'letter', medium: 'email', campaign: 'weekly-letter' };

/** So many of those who paid ask for their money back, within three weeks. */
const GIVEN_BACK = 0.057;
const WEEKS_TO_RETURN = 3;
const REASONS = ['It was cloudy for weeks', 'Bought it twice by mistake', 'Arrived bent', 'No time this season', ''];

type Needs = Tracked & LiveServices & Paying & AsksRegister;

/** How much better an arm of a test does than the original: of those who would leave an address, and who would pay. */
export interface ArmEffect {
  leads: number;
  pays: number;
}

/** Something that the seller did, at its moment among what visitors did. */
export interface Happening {
  at: number;
  run: () => void;
}

/** A live funnel of the past: who came to it, and how willing they were. */
export interface PastFunnel {
  id: string;
  rates: Rates;
}

/** Lets the past happen: every visitor goes through the same code as a real one, at their own time. */
export function replayTraffic(
  services: Needs,
  moment: { at: number },
  plan: { funnels: PastFunnel[]; until: number; days: number; happenings: Happening[]; effectOf: (armId: string) => ArmEffect },
): void {
  const all = plan.funnels.flatMap((funnel, index) =>
    pastVisitors(plan.until, plan.days, funnel.rates, 1609 + index * 7919).map((past, number) => ({ past, funnel, seed: index * 100_000 + number })),
  );
  all.sort((a, b) => a.past.at - b.past.at);
  // Who comes back does so in turn with all others, so that orders are numbered as they were paid.
  const later: Array<{ at: number; walk: Generator<number> }> = [];
  const goOn = (walk: Generator<number>, at: number) => {
    moment.at = at;
    const back = walk.next();
    if (back.done || back.value > plan.until - HOUR_MS) return;
    const place = later.findIndex((other) => other.at > back.value);
    later.splice(place < 0 ? later.length : place, 0, { at: back.value, walk });
  };
  const happenings = [...plan.happenings];
  for (const { past, funnel, seed } of all) {
    for (let next = happenings[0]; next && next.at <= past.at; next = happenings[0]) {
      happenings.shift();
      moment.at = next.at;
      next.run();
    }
    for (let next = later[0]; next && next.at <= past.at; next = later[0]) {
      later.shift();
      goOn(next.walk, next.at);
    }
    goOn(new Walk(services, moment, past, funnel, seeded(seed + 31), plan.effectOf).go(), past.at);
  }
  for (const { at, run } of happenings) {
    moment.at = at;
    run();
  }
  for (let next = later.shift(); next; next = later.shift()) goOn(next.walk, next.at);
}

/** One person on their way through a funnel. */
class Walk {
  private readonly visitor: VisitorRow;
  private order: OrderRow | null = null;
  /** The arms of tests in which they are at the stop where they are. */
  private arms: LiveStep['arms'] = [];

  constructor(
    private readonly services: Needs,
    private readonly moment: { at: number },
    private readonly past: PastVisitor,
    private readonly funnel: PastFunnel,
    private readonly random: () => number,
    private readonly effectOf: (armId: string) => ArmEffect,
  ) {
    const { at, device, campaign } = past;
    const [firstCampaign, lastCampaign] = [campaign, campaign];
    const click = campaign?.source === 'skylark' ? { sky_click: `sk.${past.agent.toString(36)}` } : null;
    const clicked = { firstClicks: click, lastClicks: click };
    const partner = past.partner ? services.recorder.partnerWith(past.partner) : null;
    const seen = { partner: partner === null ? null : { id: partner, at }, firstAt: at, lastAt: at, visits: 1, device, firstCampaign, lastCampaign };
    this.visitor = {
      id: this.id('visitor'),
      visitId: this.id('visit'),
      countsAs: null,
      contactId: null,
      typed: null,
      ...clicked,
      consent: null,
      address: null,
      agent: null,
      ...seen,
    };
    services.recorder.saveVisitor(this.visitor);
  }

  private id(kind: 'visitor' | 'visit' | 'cart' | 'charge'): string {
    return makeId(kind, this.moment.at, randomBytes(10));
  }

  private lift(of: keyof ArmEffect): number {
    return this.arms.reduce((product, { armId }) => product * this.effectOf(armId)[of], 1);
  }

  private wait(minutes: number): void {
    this.moment.at += minutes * MINUTE_MS;
    this.visitor.lastAt = this.moment.at;
  }

  private happen<Kind extends EventKind>(kind: Kind, stepId: string, data?: EventPayload<Kind>): void {
    this.services.recorder.record(
      makeEvent(this.services, kind, 'live', this.visitor, { funnelId: this.funnel.id, stepId, arms: this.arms, ...(data ? { data } : {}) }),
    );
  }

  /** All that this person does. Yields the moments at which they come back, Unix time in milliseconds. */
  *go(): Generator<number> {
    yield* this.walk();
    if (!this.order || this.order.total === 0 || this.random() > GIVEN_BACK) return;
    yield this.moment.at + Math.floor((0.05 + this.random() * WEEKS_TO_RETURN) * 7 * 24 * HOUR_MS);
    this.giveBack(this.order.id);
  }

  /** Everything, or of several things the first alone. */
  private giveBack(orderId: string): void {
    const lines = linesOf(this.services.db, orderId).filter(({ total }) => total > 0);
    const given = this.random() < 0.6 ? lines : lines.slice(0, 1);
    giveMoneyBack(this.services, orderId, {
      id: makeId('refund', this.moment.at, randomBytes(10)),
      lines: given.map(({ id, total }) => ({ id, amount: total })),
      way: 'noted',
      reason: REASONS[Math.floor(this.random() * REASONS.length)] ?? '',
      takesBack: true,
      tells: true,
    });
  }

  /** Goes from stop to stop. */
  private *walk(): Generator<number> {
    const publication = this.services.live.all().find((each) => each.funnelId === this.funnel.id);
    let stepId: string | undefined = publication?.snapshot.graph.entryId;
    for (let steps = 0; stepId !== undefined && steps < 12; steps++) {
      const live = this.services.live.step(stepId, {
        visitorId: this.visitor.id,
        arms: this.order?.arms ?? null,
        facts: () => gatherFacts(this.services, { visitor: this.visitor }),
      });
      if (!live) return;
      this.arms = live.arms;
      this.happen('page.viewed', stepId);
      const outcome = this.at(live);
      if (!outcome) return;
      stepId = this.onward(live, outcome)?.id;
      if (outcome === 'submitted' && this.random() < COMES_BACK) {
        yield this.moment.at + Math.floor((8 + this.random() * 150) * HOUR_MS);
        this.comeBack();
      }
      this.wait(0.5);
    }
  }

  /** A further visit, by the letter. */
  private comeBack(): void {
    Object.assign(this.visitor, { visitId: this.id('visit'), visits: this.visitor.visits + 1, lastAt: this.moment.at, lastCampaign: LETTER });
    this.services.recorder.saveVisitor(this.visitor);
  }

  /** Where an answer leads, by what decides it for everybody. */
  private onward(live: LiveStep, outcome: Outcome): Step | undefined {
    const { graph } = live.publication.snapshot;
    const facts = gatherFacts(this.services, { visitor: this.visitor });
    const led = this.order
      ? nextOf(this.services, this.order, live.step.id, outcome)
      : { next: nextStep(graph, live.step.id, { outcome }, facts), routes: [] as Parameters<typeof recordRoutes>[4] };
    if (!led) return undefined;
    const routes = this.order ? led.routes : led.next.kind === 'step' && led.next.route ? [led.next.route] : [];
    recordRoutes(this.services, 'live', this.visitor, this.funnel.id, routes);
    return led.next.kind === 'step' ? led.next.step : undefined;
  }

  /** What this person does at a step; null if they leave. */
  private at(live: LiveStep): Outcome | null {
    const { rates } = this.funnel;
    const { step } = live;
    switch (stepKindOf(step.kind).goal.outcome) {
      case 'submitted':
        return this.leaveAddress(live);
      case 'paid':
        return this.checkOut(live);
      case 'accepted':
        return this.answerOffer(live);
      default:
        if (step.kind === 'thank-you') {
          if (this.past.fetches) this.happen('file.fetched', step.id, { file: 'First Light, week one.pdf' });
          return null;
        }
        if (this.random() > rates.goesOn * this.past.lift) return null;
        this.wait(1);
        this.happen('step.left', step.id);
        return 'next';
    }
  }

  private leaveAddress(live: LiveStep): Outcome | null {
    const { db, recorder } = this.services;
    // An arm that does better wins over some who would have left.
    const more = this.lift('leads') - 1;
    if (!this.past.isLead && this.random() > more * USUAL_LEADS) return null;
    this.wait(1);
    const contact = saveContact(db, this.services, { ...this.past.person, funnelId: this.funnel.id, campaign: this.past.campaign, isOwner: false });
    Object.assign(this.visitor, { contactId: contact.id });
    recorder.saveVisitor(this.visitor);
    this.happen('lead.submitted', live.step.id);
    const offer = mainOffer(live.step);
    const gift = offer && findProduct(db, offer.productId);
    if (!gift) return 'submitted';
    const { person } = this.past;
    const quote = quoteCart(loadShop(db), { lines: [cartLine('main', 'main', gift)], buyer: { country: person.country } }, this.moment.at);
    const { order, payment } = openOrder(db, this.services, {
      funnelId: this.funnel.id,
      stepId: live.step.id,
      cartId: this.id('cart'),
      visitorId: this.visitor.id,
      browserId: this.visitor.id,
      mode: 'live',
      quote: storedQuote(quote),
      codeId: null,
      buyer: { email: person.email, firstName: person.firstName, lastName: '', country: person.country },
      campaign: this.visitor.lastCampaign,
      partnerId: broughtBy(this.services, this.visitor, person.email),
    });
    markPaid(db, this.services, order, payment);
    return 'submitted';
  }

  private checkOut(live: LiveStep): Outcome | null {
    const { db } = this.services;
    const { rates } = this.funnel;
    const sold = soldAt(this.services, live);
    if (!sold || this.random() > rates.begins * this.past.lift) return null;
    this.wait(2);
    const { person } = this.past;
    const options = optionsOf(sold.product);
    // The first way to buy is taken most, the dearer ones less.
    const option = options[Math.min(options.length - 1, Math.floor(this.random() ** 2.2 * options.length))];
    const cartId = this.id('cart');
    const ticked = sold.bumps.filter(() => this.random() < rates.bump).map((offer) => [tickName(offer.id), 'on']);
    const values = {
      email: person.email,
      firstName: person.firstName,
      lastName: person.lastName,
      country: person.country,
      ...(option ? { option: option.option.id } : {}),
      ...(this.random() < rates.code ? { code: 'LONGNIGHT' } : {}),
      ...Object.fromEntries(ticked),
    };
    const known = { visitor: this.visitor };
    const quoted = quoteValues(this.services, sold, { values, country: person.country, cartId, known, person: this.visitor.id, sent: true });
    if (quoted.quote.problems.length > 0) return null;
    saveCart(this.services, live, cartId, { visitorId: this.visitor.id, person: this.visitor.id }, quoted, values);
    this.happen('checkout.started', live.step.id);
    if (this.random() > rates.pays * this.past.lift * this.lift('pays')) return null;
    this.wait(1);
    const { order, payment } = openOrder(db, this.services, {
      funnelId: this.funnel.id,
      stepId: live.step.id,
      cartId,
      visitorId: this.visitor.id,
      browserId: this.visitor.id,
      mode: 'live',
      quote: storedQuote(quoted.quote),
      codeId: quoted.code?.id ?? null,
      offered: quoted.bumps.map(({ offer }) => offer.id),
      buyer: {
        email: person.email,
        firstName: person.firstName,
        lastName: person.lastName,
        country: person.country,
        ...(quoted.quote.shipping ? { address: { street: 'Lane of Owls 3', postcode: '1000', city: 'Moorby' } } : {}),
      },
      campaign: this.visitor.lastCampaign,
      partnerId: broughtBy(this.services, this.visitor, person.email),
      arms: this.arms,
    });
    this.take(order, payment);
    markPaid(db, this.services, order, payment);
    this.order = loadOrder(db, order.id);
    return 'paid';
  }

  private answerOffer(live: LiveStep): Outcome | null {
    const { db } = this.services;
    const { order } = this;
    if (!order) return null;
    const role = additionRole(live.publication.snapshot.graph, live.step.id);
    const facts = gatherFacts(this.services, { order, visitor: this.visitor });
    const [standing] = standingOffers(this.services, live, order, facts).open;
    if (!standing) return 'closed';
    const { offer, quote } = standing;
    recordForOrder(this.services, order, 'offer.shown', { offerId: offer.id, role }, live.step.id);
    // Some close the page without an answer.
    if (this.random() < 0.06) return null;
    this.wait(1);
    const chance = role === 'upsell' ? this.funnel.rates.upsell : this.funnel.rates.downsell;
    if (this.random() > chance) {
      recordForOrder(this.services, order, 'offer.declined', { offerId: offer.id, role }, live.step.id);
      return 'declined';
    }
    const payment = openAddition(db, this.services, {
      orderId: order.id,
      kind: 'addition',
      quote: storedQuote(quote),
      methodId: null,
      stepId: live.step.id,
      offerId: offer.id,
    });
    this.take(order, payment);
    markAdded(db, this.services, order, payment);
    this.order = loadOrder(db, order.id);
    return 'accepted';
  }

  /** What the processor took in the past. */
  private take(order: OrderRow, payment: PaymentRow): void {
    if (payment.amount === 0) return;
    const chargeId = this.id('charge');
    this.services.db
      .insert(charges)
      .values({
        id: chargeId,
        orderId: order.id,
        paymentId: payment.id,
        accountId: null,
        provider: 'quayside',
        mode: 'live',
        idempotencyKey: `${payment.id}-1`,
        providerChargeId: `qs_past_${chargeId.slice(4)}`,
        amount: payment.amount,
        currency: order.currency,
        state: 'captured',
        cardLast4: '0019',
        createdAt: this.moment.at,
        updatedAt: this.moment.at,
      })
      .run();
  }
}
