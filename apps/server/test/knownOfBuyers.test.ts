import { type Condition, evaluate } from '@ruta/core/conditions';
import { FactsSchema } from '@ruta/core/facts';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct, setArchived, updateProduct } from '../src/catalog/service';
import { findProduct, findProducts, loadProduct, saveProduct } from '../src/catalog/store';
import { findContactByEmail } from '../src/contacts/store';
import { gatherFacts } from '../src/facts/gather';
import { loadFunnel } from '../src/funnel/store';
import { loadOrder } from '../src/orders/store';
import { orders } from '../src/orders/tables';
import { openOrder } from '../src/orders/write';
import { markPaid } from '../src/payments/fulfil';
import { ordersFor } from '../src/reports/filter';
import { loadShop, saveShop } from '../src/shop/store';
import { createFunnel } from '../src/templates/createFunnel';
import type { VisitorRow } from '../src/tracking/recorder';
import { makeEvent } from '../src/tracking/visitor';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

let services: TestServices;
beforeEach(() => {
  services = testServices();
});
afterEach(() => services.end());

const product = (name: string, changes: object = {}) => createProduct(services, selling(name, { kind: 'one-time', regular: 12_300 }, changes));

/** An order of one product that was paid. */
function buys(productId: string, email: string, cartId: string, mode: 'live' | 'test' = 'live') {
  const line = { ...cartLine('main', 'main', loadProduct(services.db, productId)), quantity: 2 };
  const quote = storedQuote(quoteCart(loadShop(services.db), { lines: [line], buyer: { country: 'PT' } }, services.moment.at));
  const { order, payment } = openOrder(services.db, services, {
    funnelId: 'fun_000000000001',
    stepId: 'stp_000000000001',
    cartId,
    visitorId: null,
    mode,
    quote,
    codeId: null,
    buyer: { email, firstName: 'Ilse', lastName: '', country: 'PT' },
    campaign: { source: 'letter' },
  });
  markPaid(services.db, services, order, payment);
  return loadOrder(services.db, order.id);
}

describe('what is known of a buyer', () => {
  const visitor: VisitorRow = {
    id: 'vis_aaaaaaaaaa',
    countsAs: null,
    contactId: null,
    typed: null,
    firstAt: 1,
    lastAt: 2,
    visitId: 'vst_1',
    visits: 2,
    device: 'phone',
    firstCampaign: { source: 'letter' },
    lastCampaign: null,
    firstClicks: null,
    lastClicks: null,
    consent: null,
    partner: null,
    address: null,
    agent: null,
  };

  it('of nobody is the time in the shop’s own zone, and nothing else', () => {
    // 1 June 2026, 12:00 UTC, a Monday, is 13:00 in Lisbon.
    const facts = gatherFacts(services, {});
    expect(Object.entries(facts).filter(([, value]) => value !== undefined)).toEqual([['now', { hour: 13, weekday: 1, date: '2026-06-01' }]]);
    expect(FactsSchema.safeParse(facts).success).toBe(true);
  });

  it('of a visitor is where they came from, with what, and whether they were here before', () => {
    expect(gatherFacts(services, { visitor, acceptLanguage: 'pt-PT,pt;q=0.9' })).toMatchObject({
      device: 'phone',
      language: 'pt',
      returning: true,
      firstCampaign: { source: 'letter' },
      lastCampaign: null,
    });
    expect(gatherFacts(services, { visitor: { ...visitor, visits: 1 }, acceptLanguage: '*' })).toMatchObject({ returning: false });
    // Who is not known to be anybody may own anything.
    expect(gatherFacts(services, { visitor }).owned).toBeUndefined();
  });

  it('of an order is what it holds and how it was paid; of its contact what any order holds', () => {
    const chart = product('Star chart', { categories: ['Prints'], tags: ['wall'] });
    const torch = product('Red torch');
    buys(torch.id, 'ilse@moonmail.test', 'crt_000000001');
    const order = buys(chart.id, 'ilse@moonmail.test', 'crt_000000002');
    const facts = gatherFacts(services, { order });
    expect(facts.bought).toEqual([
      {
        productId: chart.id,
        editionId: chart.editions[0]?.id,
        priceId: chart.editions[0]?.prices[0]?.id,
        role: 'main',
        quantity: 2,
        categories: ['Prints'],
        tags: ['wall'],
      },
    ]);
    expect(facts.owned?.map((purchase) => purchase.productId).toSorted()).toEqual([chart.id, torch.id].toSorted());
    // 2 × 123.00 hold 246 × 23 ÷ 123 = 46.00 tax
    expect(facts).toMatchObject({
      orderTotal: 20_000,
      paymentMethod: 'card',
      shippingMethod: null,
      country: 'PT',
      code: null,
      lastCampaign: { source: 'letter' },
    });
    expect(FactsSchema.safeParse(facts).error).toBeUndefined();
  });

  it('of an address that was only typed is that of a new person, until they have bought from this browser', () => {
    const chart = product('Star chart');
    const order = buys(chart.id, 'ilse@moonmail.test', 'crt_000000001');
    const contact = findContactByEmail(services.db, 'ilse@moonmail.test') ?? null;
    const typed = { ...visitor, contactId: contact?.id ?? null, typed: { email: 'ilse@moonmail.test', country: 'NL' } };
    expect(gatherFacts(services, { visitor: typed })).toMatchObject({ owned: [], country: 'NL' });
    expect(gatherFacts(services, { visitor: typed, contact })).toMatchObject({ owned: [], country: 'NL' });
    services.db.update(orders).set({ browserId: visitor.id }).where(eq(orders.id, order.id)).run();
    expect(gatherFacts(services, { visitor: typed })).toMatchObject({ owned: [{ productId: chart.id }], country: 'PT' });
  });

  it('is which pages they saw, whether a checkout was among them, and what they declined', () => {
    const chart = product('Star chart');
    const funnelId = createFunnel(services, { name: 'Sky', template: 'straight-sale', productId: chart.id });
    const steps = loadFunnel(services.db, funnelId).graph.steps;
    const at = (kind: string) => ({ funnelId, stepId: steps.find((step) => step.kind === kind)?.id ?? '' });
    const view = (kind: string) => services.recorder.gather(makeEvent(services, 'page.viewed', 'live', visitor, at(kind)), visitor);
    const known = () => {
      services.recorder.flush();
      return gatherFacts(services, { visitor });
    };
    expect(known()).toMatchObject({ seen: [], openedCheckout: false });
    view('sales');
    expect(known()).toMatchObject({ seen: [at('sales').stepId], openedCheckout: false });
    view('checkout');
    view('checkout');
    expect(known().seen?.toSorted()).toEqual([at('sales').stepId, at('checkout').stepId].toSorted());
    expect(known().openedCheckout).toBe(true);
    // Of nobody nothing is known, rather than that they saw nothing.
    expect(gatherFacts(services, {})).toMatchObject({ seen: undefined, openedCheckout: undefined, declined: undefined });

    const order = buys(chart.id, 'ilse@moonmail.test', 'crt_000000001');
    const offered = (kind: 'offer.shown' | 'offer.declined' | 'offer.taken', offerId: string, stepId: string) =>
      services.recorder.gather(
        { ...makeEvent(services, kind, 'live', visitor, { funnelId, stepId, orderId: order.id, data: { offerId, role: 'upsell', value: 100 } }) },
        visitor,
      );
    const declined = () => {
      services.recorder.flush();
      return gatherFacts(services, { order }).declined;
    };
    offered('offer.shown', 'ofr_one0000000', 'stp_one0000000');
    expect(declined()).toEqual([]);
    offered('offer.declined', 'ofr_one0000000', 'stp_one0000000');
    expect(declined()).toEqual(['stp_one0000000']);
    // Who comes back and takes it after all has declined nothing.
    offered('offer.taken', 'ofr_one0000000', 'stp_one0000000');
    expect(declined()).toEqual([]);
    // Many at once are told the same as one by one.
    services.db.update(orders).set({ visitorId: visitor.id }).where(eq(orders.id, order.id)).run();
    offered('offer.declined', 'ofr_two0000000', 'stp_two0000000');
    services.recorder.flush();
    const period = { from: 0, until: services.moment.at + 1000 };
    const found = (filter: Condition) => JSON.parse(ordersFor(services, filter, 'product', period)) as string[];
    expect(found({ fact: 'declined', stepId: 'stp_two0000000' })).toEqual([order.id]);
    expect(found({ fact: 'declined', stepId: 'stp_one0000000' })).toEqual([]);
    expect(found({ fact: 'saw', stepId: at('sales').stepId })).toEqual([order.id]);
    expect(found({ fact: 'openedCheckout', opened: false })).toEqual([]);
  });

  it('of test orders gives nobody anything in live mode', () => {
    const chart = product('Star chart');
    buys(chart.id, 'ilse@moonmail.test', 'crt_000000001', 'test');
    const contact = findContactByEmail(services.db, 'ilse@moonmail.test') ?? null;
    const owns = { fact: 'owned', what: { by: 'product', productId: chart.id } } as const;
    expect(evaluate(owns, gatherFacts(services, { contact }))).toBe(false);
    expect(evaluate(owns, gatherFacts(services, { contact, mode: 'test' }))).toBe(true);
    // Of somebody unknown neither holds.
    expect([owns, { not: owns }].map((condition) => evaluate(condition, gatherFacts(services, {})))).toEqual([false, false]);
  });
});

describe('what is kept in memory', () => {
  it('is a product until it changes, and never what was undone', () => {
    const { id } = product('Star chart');
    expect(findProduct(services.db, id)).toBe(findProduct(services.db, id));
    updateProduct(services, id, selling('Moon chart', { kind: 'one-time', regular: 100 }, { editions: loadProduct(services.db, id).editions }));
    expect(findProduct(services.db, id)?.name).toBe('Moon chart');
    expect(() =>
      services.db.transaction((tx) => {
        saveProduct(tx, id, { name: 'Never' }, 1);
        services.changes.announce();
        expect(findProduct(services.db, id)?.name).toBe('Never');
        throw new Error('taken back');
      }),
    ).toThrow('taken back');
    expect(findProduct(services.db, id)?.name).toBe('Moon chart');
    setArchived(services, id, true);
    expect(findProduct(services.db, id)?.archivedAt).toBe(services.moment.at);
  });

  it('brings what was asked for, each once and in that order', () => {
    const [a, b] = [product('A'), product('B')];
    findProduct(services.db, b.id);
    expect(findProducts(services.db, [b.id, a.id, b.id, 'prd_none']).map(({ name }) => name)).toEqual(['B', 'A']);
  });

  it('is the shop until it is changed', () => {
    const { settings } = loadShop(services.db);
    expect(loadShop(services.db).settings).toBe(settings);
    saveShop(services, { settings: { ...settings, name: 'Apogee Lane' } });
    expect(loadShop(services.db).settings.name).toBe('Apogee Lane');
  });
});
