import type { Product } from '@ruta/core/catalog';
import type { Database } from 'better-sqlite3';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { outbox } from '../src/base/outbox/tables';
import { createProduct } from '../src/catalog/service';
import { placeOrder } from '../src/checkout/service';
import { chargesOfOrder, firstPaymentOf, linesOf, loadOrder, paymentsOf } from '../src/orders/store';
import { charges, orders } from '../src/orders/tables';
import type { NewOrder } from '../src/orders/write';
import { outcomeOf, payCart } from '../src/payments/pay';
import type { ChargeAnswer, ChargeRequest, PaymentProvider } from '../src/payments/provider';
import { reconcile } from '../src/payments/reconcile';
import { settle } from '../src/payments/settle';
import { accounts } from '../src/payments/tables';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';
import { CAPTURED, cartOf, openAccount, quoted, saying } from './support/till';

let services: TestServices;
let cart: NewOrder;
let asked: ChargeRequest[];
/** What the processor answers to a charge, and what it says when asked after one. */
let answer: ChargeAnswer;
let found: ChargeAnswer;
let provider: PaymentProvider;

const captured = CAPTURED;
const quoteOf = (product: Product, quantity = 1) => quoted(services, product, quantity);
const pay = () => payCart(services, cart, 'tok_1', () => 'http://127.0.0.1/return');
const firstPayment = (orderId: string) => paymentsOf(services.db, orderId)[0]?.id ?? '';
const account = (id: string, changes: Parameters<typeof openAccount>[2] = {}) => openAccount(services, id, changes);

beforeEach(() => {
  services = testServices();
  provider = saying(
    (request) => {
      asked.push(request);
      return answer;
    },
    () => found,
  );
  services.providers = { quayside: provider };
  account('acc_1');
  asked = [];
  answer = captured;
  found = { state: 'unknown-charge' };
  cart = cartOf(services);
});
afterEach(() => services.end());

describe('each captured charge belongs to exactly one paid line', () => {
  it('when all goes well', async () => {
    const outcome = await pay();
    expect(outcome.state).toBe('paid');
    expect(asked).toHaveLength(1);
    expect(asked[0]).toMatchObject({ amount: 13_800, currency: 'EUR', idempotencyKey: `${firstPayment(outcome.order.id)}-1` });
    const [charge] = chargesOfOrder(services.db, outcome.order.id);
    expect(charge).toMatchObject({ state: 'captured', accountId: 'acc_1', paymentId: firstPayment(outcome.order.id) });
    expect(linesOf(services.db, outcome.order.id)).toMatchObject([{ role: 'main', total: 13_800, tax: 2580, refunded: 0, paymentId: charge?.paymentId }]);
  });

  it('when the same news comes many times', async () => {
    const { order } = await pay();
    const [charge] = chargesOfOrder(services.db, order.id);
    for (let i = 0; i < 3; i++) settle(services, charge?.id ?? '', captured);
    settle(services, charge?.id ?? '', { state: 'declined', providerChargeId: 'qs_1', last4: null, reason: 'no-funds' });
    expect(linesOf(services.db, order.id)).toHaveLength(1);
    expect(chargesOfOrder(services.db, order.id)).toMatchObject([{ state: 'captured' }]);
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
    const [first] = chargesOfOrder(services.db, order.id);
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
    // Whatever is wrong with the cart meanwhile, its buyer is led to the page that waits, and not told that nothing was charged.
    const guest = { visitorId: null, visitor: null, counted: null, acceptLanguage: undefined, person: '198.18.0.1', base: services.config.siteUrl };
    const sentAgain = () => placeOrder(services, cart.stepId, { cart: cart.cartId, shown: '1' }, guest);
    expect(await sentAgain()).toEqual({ kind: 'lead', status: 200, url: `/pay/return/${order.token}` });
    found = captured;
    await reconcile(services);
    expect(outcomeOf(services.db, order.id).state).toBe('paid');
    expect(await sentAgain()).toMatchObject({ kind: 'lead', url: expect.stringContaining(`/order/${order.token}`) });
  });

  it('when the charge never arrived: it is given up only once it cannot be on its way any more', async () => {
    answer = { state: 'no-answer' };
    const { order } = await pay();
    await reconcile(services);
    expect(outcomeOf(services.db, order.id).state).toBe('waiting');
    services.moment.at += 61_000;
    await reconcile(services);
    expect(outcomeOf(services.db, order.id)).toMatchObject({ state: 'declined', reason: 'never-arrived' });
    answer = captured;
    expect((await pay()).state).toBe('paid');
    expect(asked.map((request) => request.idempotencyKey)).toEqual([`${firstPayment(order.id)}-1`, `${firstPayment(order.id)}-2`]);
  });

  it('when the processor takes it after it was given up as never arrived: it is asked after for a day', async () => {
    answer = { state: 'no-answer' };
    const { order } = await pay();
    services.moment.at += 61_000;
    await reconcile(services);
    expect(outcomeOf(services.db, order.id).state).toBe('declined');
    found = captured;
    services.moment.at += 11 * 60_000;
    await reconcile(services);
    expect(outcomeOf(services.db, order.id).state).toBe('paid');
    expect(linesOf(services.db, order.id)).toHaveLength(1);
  });

  it('when it is told late, of a cart that has changed: it pays for what it was tried for, not for more', async () => {
    answer = { state: 'no-answer' };
    const { order } = await pay();
    services.moment.at += 61_000;
    await reconcile(services);
    // The buyer now wants three, and their card is declined.
    const one = cart.quote;
    const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 13_800 }));
    cart = { ...cart, quote: quoteOf(product, 3) };
    answer = { state: 'declined', providerChargeId: 'qs_2', last4: null, reason: 'no-funds' };
    expect((await pay()).state).toBe('declined');
    expect(asked.map(({ amount }) => amount)).toEqual([13_800, 41_400]);
    const [first] = chargesOfOrder(services.db, order.id);
    settle(services, first?.id ?? '', captured);
    expect(loadOrder(services.db, order.id)).toMatchObject({ state: 'paid', total: 13_800, goods: one.lines[0]?.name });
    expect(linesOf(services.db, order.id)).toMatchObject([{ quantity: 1, total: 13_800 }]);
    expect(firstPaymentOf(services.db, order.id)).toMatchObject({ state: 'paid', amount: 13_800 });
  });

  it('when the processor took another amount than was asked for: it is given back', async () => {
    answer = { ...captured, amount: 1 };
    const { order, state } = await pay();
    expect(state).toBe('waiting');
    expect(linesOf(services.db, order.id)).toHaveLength(0);
    expect(
      services.db
        .select()
        .from(outbox)
        .all()
        .map((row) => row.kind),
    ).toEqual(['void-charge']);
  });

  it('when the answer cannot be written down: the buyer is not told that nothing happened, and it is finished later', async () => {
    const { $client } = services.db as unknown as { $client: Database };
    provider.charge = async (_account, request) => {
      asked.push(request);
      $client.pragma('query_only = ON');
      return answer;
    };
    const { order, state } = await pay();
    $client.pragma('query_only = OFF');
    expect(state).toBe('waiting');
    expect(linesOf(services.db, order.id)).toHaveLength(0);
    found = captured;
    await reconcile(services);
    expect(outcomeOf(services.db, order.id).state).toBe('paid');
    expect(asked).toHaveLength(1);
  });
});

describe('accounts', () => {
  const usedBy = (orderId: string) => chargesOfOrder(services.db, orderId).map((charge) => charge.accountId);

  it('that are full or take nothing are passed over, and a payment that is tried again stays where it was', async () => {
    account('acc_2', { weight: 5, createdAt: 2, cap: 20_000 });
    account('acc_3', { weight: 0, createdAt: 3 });
    account('acc_4', { mode: 'test', createdAt: 4 });
    const used = new Map<string | null, number>();
    for (let number = 0; number < 12; number++) {
      cart = { ...cart, cartId: `crt_many${String(number).padStart(6, '0')}` };
      answer = { state: 'declined', providerChargeId: `qs_${number}`, last4: null, reason: 'no-funds' };
      await pay();
      answer = { ...captured, providerChargeId: `qs_ok_${number}` };
      const { order } = await pay();
      const accountIds = usedBy(order.id);
      expect(accountIds).toHaveLength(2);
      expect(new Set(accountIds).size).toBe(1);
      used.set(accountIds[1] ?? null, (used.get(accountIds[1] ?? null) ?? 0) + 1);
    }
    // 138.00 fits into 200.00 once only; everything else is taken by the account without a limit.
    expect([...used]).toEqual(
      expect.arrayContaining([
        ['acc_2', 1],
        ['acc_1', 11],
      ]),
    );
    expect(used.size).toBe(2);
  });

  it('of whom none can take it refuse in words, and write no charge', async () => {
    services.db.update(accounts).set({ closedAt: 1 }).run();
    const { state, order } = await pay();
    expect(state).toBe('declined');
    expect(usedBy(order.id)).toEqual([]);
    expect(asked).toEqual([]);
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
    expect(queued.map((row) => (row.payload as { subject: string }).subject)).toEqual(['Your download: Gift']);
  });
});
