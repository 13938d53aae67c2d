import { randomBytes } from 'node:crypto';
import type { Product } from '@ruta/core/catalog';
import { CartLineSchema } from '@ruta/core/checkout';
import { makeId } from '@ruta/core/ids';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import type { EventKind, EventPayload } from '@ruta/core/tracking';
import { newToken } from '../apps/server/src/base/ids';
import { carts } from '../apps/server/src/checkout/tables';
import { saveContact } from '../apps/server/src/contacts/store';
import type { LiveServices } from '../apps/server/src/funnel/live';
import { loadFunnel } from '../apps/server/src/funnel/store';
import type { OrderRow, PaymentRow } from '../apps/server/src/orders/store';
import { charges } from '../apps/server/src/orders/tables';
import { openOrder } from '../apps/server/src/orders/write';
import { markPaid } from '../apps/server/src/payments/fulfil';
import { loadShop } from '../apps/server/src/shop/store';
import type { Tracked, VisitorRow } from '../apps/server/src/tracking/recorder';
import { makeEvent } from '../apps/server/src/tracking/visitor';
import { type PastVisitor, pastVisitors } from './traffic';

const MINUTE_MS = 60_000;
const VISITORS_PER_DAY = 52;

interface Plan {
  funnelId: string;
  calendar: Product;
  course: Product;
  until: number;
  days: number;
}

/** Lets the past happen: every visitor, lead and order goes through the same code as a real one, at its own time. */
export function replayTraffic(services: Tracked & LiveServices, moment: { at: number }, plan: Plan): void {
  const { db, recorder, clock } = services;
  const shop = loadShop(db);
  const { graph } = loadFunnel(db, plan.funnelId);
  const stepOf = (kind: string) => graph.steps.find((step) => step.kind === kind)?.id ?? '';
  const [optIn, checkout, thankYou] = [stepOf('opt-in'), stepOf('checkout'), stepOf('thank-you')];
  const id = (kind: 'visitor' | 'visit' | 'cart' | 'charge') => makeId(kind, clock.now(), randomBytes(10));

  const happen = <Kind extends EventKind>(kind: Kind, visitor: VisitorRow, stepId: string, data?: EventPayload<Kind>) =>
    recorder.record(makeEvent(services, kind, 'live', visitor, { funnelId: plan.funnelId, stepId, data }));

  function order(past: PastVisitor, visitor: VisitorRow, stepId: string, product: Product, cartId: string) {
    const lead = past.lead as NonNullable<PastVisitor['lead']>;
    const { order: row, payment } = openOrder(db, services, {
      funnelId: plan.funnelId,
      stepId,
      cartId,
      visitorId: visitor.id,
      mode: 'live',
      quote: storedQuote(quoteCart(shop, { lines: [cartLine('main', 'main', product)], buyer: { country: lead.country } }, clock.now())),
      codeId: null,
      buyer: { email: lead.email, firstName: lead.firstName, lastName: '', country: lead.country },
      campaign: past.campaign,
    });
    if (row.total > 0) pay(row, payment);
    markPaid(db, services, row, payment);
  }

  /** What the processor took in the past. */
  function pay(row: OrderRow, payment: PaymentRow): void {
    const chargeId = id('charge');
    db.insert(charges)
      .values({
        id: chargeId,
        orderId: row.id,
        paymentId: payment.id,
        accountId: null,
        provider: 'quayside',
        mode: 'live',
        idempotencyKey: `${payment.id}-1`,
        providerChargeId: `qs_past_${chargeId.slice(4)}`,
        amount: payment.amount,
        currency: row.currency,
        state: 'captured',
        cardLast4: '0019',
        createdAt: clock.now(),
        updatedAt: clock.now(),
      })
      .run();
  }

  for (const past of pastVisitors(plan.until, plan.days, VISITORS_PER_DAY)) {
    moment.at = past.at;
    const visitor: VisitorRow = {
      id: id('visitor'),
      contactId: null,
      typed: null,
      firstAt: past.at,
      lastAt: past.at,
      visitId: id('visit'),
      visits: 1,
      device: past.device,
      firstCampaign: past.campaign,
      lastCampaign: past.campaign,
    };
    recorder.saveVisitor(visitor);
    happen('page.viewed', visitor, optIn);
    if (!past.lead) continue;
    moment.at += MINUTE_MS;
    const contact = saveContact(db, services, { ...past.lead, funnelId: plan.funnelId, campaign: past.campaign, isOwner: false });
    visitor.contactId = contact.id;
    visitor.lastAt = clock.now();
    recorder.saveVisitor(visitor);
    happen('lead.submitted', visitor, optIn);
    order(past, visitor, optIn, plan.calendar, id('cart'));
    moment.at += MINUTE_MS / 2;
    happen('page.viewed', visitor, checkout);
    if (past.checkout === 'none') continue;
    moment.at += 2 * MINUTE_MS;
    const cartId = id('cart');
    const buyer = { firstName: past.lead.firstName, email: past.lead.email, country: past.lead.country };
    const lines = [CartLineSchema.parse({ role: 'main', productId: plan.course.id })];
    const place = { id: cartId, visitorId: visitor.id, funnelId: plan.funnelId, stepId: checkout, mode: 'live' as const };
    db.insert(carts)
      .values({ ...place, lines, buyer, code: null, token: newToken(), createdAt: clock.now(), updatedAt: clock.now() })
      .run();
    happen('checkout.started', visitor, checkout);
    if (past.checkout === 'left') continue;
    moment.at += MINUTE_MS;
    order(past, visitor, checkout, plan.course, cartId);
    happen('page.viewed', visitor, thankYou);
    if (past.fetches) happen('file.fetched', visitor, thankYou, { file: 'First Light, week one.pdf' });
  }
}
