import { cartLine, type Product, quoteCart } from '@ruta/core';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { createFunnel } from '../src/funnel/service';
import { loadFunnel } from '../src/funnel/store';
import { outbox } from '../src/outbox/tables';
import type { ChargeAnswer, ChargeRequest, KeepAnswer, PaymentProvider } from '../src/payments/provider';
import type { NewOrder } from '../src/sales/fulfil';
import { outcomeOf, payCart, settle } from '../src/sales/pay';
import { reconcile } from '../src/sales/reconcile';
import { chargesOf, linesOf, loadOrder } from '../src/sales/store';
import { charges, orders } from '../src/sales/tables';
import { loadShop } from '../src/shop/store';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

let services: TestServices;
let cart: NewOrder;
let asked: ChargeRequest[];
/** What the processor answers to a charge, and what it says when asked after one. */
let answer: ChargeAnswer;
let found: ChargeAnswer;

const provider: PaymentProvider = {
  keepMethod: async () => kept,
  charge: async (_mode, request) => {
    asked.push(request);
    return answer;
  },
  find: async () => found,
  cancel: async () => false,
  void: async () => true,
  readWebhook: () => null,
};
const kept: KeepAnswer = { state: 'kept', method: 'qs_pm_1', last4: '0019' };
const captured: ChargeAnswer = { state: 'captured', providerChargeId: 'qs_1', last4: '0019' };
const quoteOf = (product: Product) =>
  quoteCart(loadShop(services.db), { lines: [cartLine('main', 'main', product)], buyer: { country: 'PT' } }, services.moment.at);
const pay = () => payCart(services, provider, cart, 'tok_1', () => 'http://127.0.0.1/return');

beforeEach(() => {
  services = testServices();
  asked = [];
  answer = captured;
  found = { state: 'unknown-charge' };
  const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 13_800 }));
  const funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: product.id });
  const stepId = loadFunnel(services.db, funnelId).graph.steps.find((step) => step.kind === 'checkout')?.id ?? '';
  cart = {
    funnelId,
    stepId,
    cartId: 'crt_000000001',
    visitorId: null,
    mode: 'live',
    quote: quoteOf(product),
    codeId: null,
    buyer: { email: 'ilse@moonmail.test', firstName: 'Ilse', lastName: '', country: 'PT' },
    campaign: null,
  };
});
afterEach(() => services.end());

describe('each captured charge belongs to exactly one paid line', () => {
  it('when all goes well', async () => {
    const outcome = await pay();
    expect(outcome.state).toBe('paid');
    expect(asked).toHaveLength(1);
    expect(asked[0]).toMatchObject({ amount: 13_800, currency: 'EUR', idempotencyKey: `${outcome.order.id}-1` });
    expect(linesOf(services.db, outcome.order.id)).toMatchObject([{ total: 13_800, tax: 2580, chargeId: chargesOf(services.db, outcome.order.id)[0]?.id }]);
  });

  it('when the same news comes many times', async () => {
    const { order } = await pay();
    const [charge] = chargesOf(services.db, order.id);
    for (let i = 0; i < 3; i++) settle(services, charge?.id ?? '', captured);
    settle(services, charge?.id ?? '', { state: 'declined', providerChargeId: 'qs_1', last4: null, reason: 'no-funds' });
    expect(linesOf(services.db, order.id)).toHaveLength(1);
    expect(chargesOf(services.db, order.id)).toMatchObject([{ state: 'captured' }]);
    expect(
      services.db
        .select()
        .from(outbox)
        .all()
        .map((row) => row.idempotencyKey)
        .toSorted(),
    ).toEqual([`receipt ${order.id}`, `sale ${order.id}`]);
  });

  it('when a second charge of the same order turns out captured: it is given back', async () => {
    const { order } = await pay();
    const [first] = chargesOf(services.db, order.id);
    if (!first) throw new Error('nothing was charged');
    services.db
      .insert(charges)
      .values({ ...first, id: 'chg_second00', idempotencyKey: `${order.id}-2`, state: 'pending', providerChargeId: null })
      .run();
    settle(services, 'chg_second00', { ...captured, providerChargeId: 'qs_2' });
    expect(linesOf(services.db, order.id)).toHaveLength(1);
    const queued = services.db
      .select()
      .from(outbox)
      .all()
      .filter((row) => row.kind === 'void-charge');
    expect(queued).toMatchObject([{ payload: { chargeId: 'chg_second00' } }]);
  });

  it('when no answer came: nothing is delivered, nothing is charged again, and the reconciler finishes it', async () => {
    answer = { state: 'no-answer' };
    const { order, state } = await pay();
    expect(state).toBe('waiting');
    expect((await pay()).state).toBe('waiting');
    expect(asked).toHaveLength(1);
    expect(linesOf(services.db, order.id)).toHaveLength(0);
    found = captured;
    await reconcile(services, provider);
    expect(outcomeOf(services.db, order.id).state).toBe('paid');
  });

  it('when the charge never arrived: it is given up only once it cannot be on its way any more', async () => {
    answer = { state: 'no-answer' };
    const { order } = await pay();
    await reconcile(services, provider);
    expect(outcomeOf(services.db, order.id).state).toBe('waiting');
    services.moment.at += 61_000;
    await reconcile(services, provider);
    expect(outcomeOf(services.db, order.id)).toMatchObject({ state: 'declined', reason: 'never-arrived' });
    answer = captured;
    expect((await pay()).state).toBe('paid');
    expect(asked.map((request) => request.idempotencyKey)).toEqual([`${order.id}-1`, `${order.id}-2`]);
  });

  it('after a restart at once, since nothing can be on its way then', async () => {
    answer = { state: 'no-answer' };
    const { order } = await pay();
    await reconcile(services, provider, true);
    expect(outcomeOf(services.db, order.id).state).toBe('declined');
  });
});

describe('orders', () => {
  it('take numbers only when they are paid, without gaps', async () => {
    answer = { state: 'declined', providerChargeId: 'qs_0', last4: null, reason: 'no-funds' };
    await pay();
    cart = { ...cart, cartId: 'crt_000000002' };
    answer = captured;
    const second = await pay();
    cart = { ...cart, cartId: 'crt_000000001' };
    const first = await pay();
    expect([second, first].map(({ order }) => loadOrder(services.db, order.id).number)).toEqual([1001, 1002]);
    expect(services.db.select().from(orders).all()).toHaveLength(2);
  });

  it('of value 0 are paid without a charge, and tell nobody of a sale', async () => {
    const free = createProduct(services, selling('Gift', { kind: 'free' }));
    cart = { ...cart, quote: quoteOf(free) };
    const { order, state } = await pay();
    expect(state).toBe('paid');
    expect(order.number).toBeNull();
    expect(asked).toHaveLength(0);
    const queued = services.db.select().from(outbox).all();
    expect(queued.map((row) => row.payload.subject)).toEqual(['Your download: Gift']);
  });
});
