import { cartLine, chosenOption, quoteCart, storedQuote } from '@ruta/core/pricing';
import type { Database } from 'better-sqlite3';
import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { countRefunded } from '../src/orders/refunded';
import { chargesOfOrder, linesOf, loadOrder, openTroubles, paymentsOf } from '../src/orders/store';
import { charges } from '../src/orders/tables';
import type { NewOrder } from '../src/orders/write';
import { doAgain } from '../src/payments/consequences';
import { outcomeOf, payCart } from '../src/payments/pay';
import type { ChargeAnswer } from '../src/payments/provider';
import { reconcile } from '../src/payments/reconcile';
import { plansOf } from '../src/plans/store';
import { loadShop } from '../src/shop/store';
import { todayOf } from '../src/today/service';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';
import { CAPTURED, cartOf, openAccount, saying } from './support/till';

let services: TestServices;
let cart: NewOrder;
let answer: ChargeAnswer;
let found: ChargeAnswer;
let finds: number;
const pay = (changes: Partial<NewOrder> = {}) => payCart(services, { ...cart, ...changes }, 'tok_1', () => 'http://127.0.0.1/return');
const raw = (text: string) => (services.db as unknown as { $client: Database }).$client.exec(text);

beforeEach(() => {
  services = testServices();
  answer = CAPTURED;
  found = { state: 'unknown-charge' };
  finds = 0;
  services.providers = {
    quayside: saying(
      () => answer,
      () => {
        finds++;
        return found;
      },
    ),
  };
  openAccount(services, 'acc_1');
  cart = cartOf(services);
});
afterEach(() => services.end());

describe('what can be sold can be paid', () => {
  const month = { every: 1, unit: 'month' as const };
  it.each([
    ['a subscription as a bump, less 100 %', { kind: 'subscription' as const, regular: 900, interval: month, charges: null }, 100, 0],
    ['instalments that a discount leaves less than a cent each', { kind: 'instalments' as const, regular: 60, count: 12, interval: month }, 90, 6],
  ])('%s', async (_what, price, percent, unit) => {
    const bump = createProduct(services, selling('Clear Skies Club', price));
    const main = linesQuoted();
    const line = cartLine(
      'bump-off_1',
      'bump',
      bump,
      { priceId: chosenOption(bump, undefined).option.id },
      { discount: { kind: 'percent', percent, base: 'current' } },
    );
    const quote = storedQuote(quoteCart(loadShop(services.db), { lines: [main, line], buyer: { country: 'PT' } }, services.moment.at));
    const { state, order } = await pay({ quote, offered: ['off_1'] });
    expect(state).toBe('paid');
    expect(openTroubles(services.db)).toEqual([]);
    expect(plansOf(services.db, order.id)).toMatchObject([{ state: 'active', terms: { line: { agreed: unit } } }]);
  });

  const linesQuoted = () => {
    const [line] = cart.quote.lines;
    if (!line) throw new Error('The cart is empty.');
    const { productId, name, role, kind, taxClass, price, quantity } = line;
    return { id: 'main', productId, name, role, kind, taxClass, price, quantity, weight: 0 };
  };
});

describe('after a capture', () => {
  it('what cannot be done is left at the order, the money’s side and everything else are written down, and it can be done again', async () => {
    raw(`CREATE TRIGGER broken BEFORE INSERT ON outbox WHEN NEW.kind = 'receipt' BEGIN SELECT RAISE(ABORT, 'the pen is broken'); END`);
    const { state, order } = await pay();
    expect(state).toBe('paid');
    expect(loadOrder(services.db, order.id)).toMatchObject({ state: 'paid', number: 1001 });
    expect(chargesOfOrder(services.db, order.id)).toMatchObject([{ state: 'captured' }]);
    expect(linesOf(services.db, order.id)).toMatchObject([{ total: 13_800 }]);
    const [trouble] = openTroubles(services.db, order.id);
    expect(trouble).toMatchObject({ what: 'receipt', message: expect.stringContaining('the pen is broken') });
    expect(todayOf(services).needs).toContainEqual(
      expect.objectContaining({ title: 'A paid order lacks something: the receipt', link: `/sales/orders/${order.id}`, action: 'Open the order' }),
    );
    const again = () => doAgain(services, order.id, trouble?.id ?? '');
    expect(again).toThrow('This still cannot be done');
    expect(openTroubles(services.db, order.id)).toHaveLength(1);
    raw('DROP TRIGGER broken');
    again();
    expect(openTroubles(services.db, order.id)).toEqual([]);
    expect(again, 'done once, however often it is pressed').toThrow('was not found');
  });

  it('what lacked is owed no more once the order is refunded: it stands nowhere, and is not done', async () => {
    raw(`CREATE TRIGGER broken BEFORE INSERT ON outbox WHEN NEW.kind = 'receipt' BEGIN SELECT RAISE(ABORT, 'the pen is broken'); END`);
    const { order } = await pay();
    raw('DROP TRIGGER broken');
    const [trouble] = openTroubles(services.db, order.id);
    const [line] = linesOf(services.db, order.id);
    countRefunded(services.db, order.id, [{ id: line?.id ?? '', amount: 13_800 }]);
    expect(openTroubles(services.db)).toEqual([]);
    expect(() => doAgain(services, order.id, trouble?.id ?? '')).toThrow('Nothing of it is owed any more');
    // A refund that the processor refuses leaves it owed as before.
    countRefunded(services.db, order.id, [{ id: line?.id ?? '', amount: -13_800 }]);
    expect(openTroubles(services.db, order.id)).toMatchObject([{ what: 'receipt' }]);
  });

  it('one charge whose news cannot be written down holds up no other', async () => {
    answer = { state: 'no-answer' };
    const first = await pay();
    const second = await pay({ cartId: 'crt_000000002' });
    raw(
      `CREATE TRIGGER broken BEFORE UPDATE ON orders WHEN NEW.id = '${first.order.id}' AND NEW.state = 'paid' BEGIN SELECT RAISE(ABORT, 'no such luck'); END`,
    );
    found = CAPTURED;
    await reconcile(services);
    expect([outcomeOf(services.db, first.order.id).state, outcomeOf(services.db, second.order.id).state]).toEqual(['waiting', 'paid']);
    raw('DROP TRIGGER broken');
    services.moment.at += 11 * 60_000;
    await reconcile(services);
    expect(outcomeOf(services.db, first.order.id).state).toBe('paid');
  });
});

describe('tries', () => {
  it('are in the order in which they were made, also where the clock was set back between them', async () => {
    answer = { state: 'declined', providerChargeId: 'qs_1', last4: '0027', reason: 'no-funds' };
    const { order } = await pay();
    services.moment.at -= 3 * 60 * 60_000;
    answer = { state: 'no-answer' };
    const outcome = await pay();
    // The first one was declined, but the second may have gone through: nobody is told that nothing was charged.
    expect(outcome.state).toBe('waiting');
    expect(chargesOfOrder(services.db, order.id).map(({ state }) => state)).toEqual(['declined', 'pending']);
    found = CAPTURED;
    await reconcile(services);
    expect(outcomeOf(services.db, order.id).state).toBe('paid');
    expect(paymentsOf(services.db, order.id)).toHaveLength(1);
  });

  it('are asked after in waits that grow by time, however many have asked', async () => {
    answer = { state: 'no-answer' };
    found = { state: 'no-answer' };
    const { order } = await pay();
    const [charge] = chargesOfOrder(services.db, order.id);
    const id = charge?.id ?? '';
    // A buyer's page that is loaded again and again has it asked after as often.
    for (let times = 0; times < 40; times++) {
      services.db.update(charges).set({ askAt: null }).where(eq(charges.id, id)).run();
      await reconcile(services);
    }
    const waits = () => (chargesOfOrder(services.db, order.id)[0]?.askAt ?? 0) - services.moment.at;
    expect(waits()).toBe(1000);
    services.moment.at += 60_000;
    await reconcile(services);
    expect(waits()).toBe(15_000);
    services.moment.at += 24 * 60 * 60_000;
    await reconcile(services);
    expect(waits()).toBe(600_000);
    expect(finds).toBe(42);
  });
});
