import { sql } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { sendDue } from '../src/base/outbox/outbox';
import { isTireless } from '../src/base/outbox/registry';
import { outbox } from '../src/base/outbox/tables';
import { countSold, leftOf } from '../src/catalog/availability';
import { forgetProducts, loadProduct } from '../src/catalog/store';
import { holdFor } from '../src/checkout/holds';
import { chargesOfOrder, linesOf, loadOrder } from '../src/orders/store';
import { orders } from '../src/orders/tables';
import type { NewOrder } from '../src/orders/write';
import { outcomeOf, payCart } from '../src/payments/pay';
import type { ChargeAnswer, PaymentProvider } from '../src/payments/provider';
import { reconcile } from '../src/payments/reconcile';
import { giveBack } from '../src/payments/settle';
import { todayOf } from '../src/today/service';
import { Buyer, CARD, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { type TestServices, testServices } from './support/services';
import { CAPTURED as captured, cartOf, openAccount, saying } from './support/till';

let services: TestServices;
let cart: NewOrder;
let charged: number;
let answer: ChargeAnswer;
let found: ChargeAnswer;
let provider: PaymentProvider;

const pay = () => payCart(services, cart, 'tok_1', () => 'http://127.0.0.1/return');

beforeEach(() => {
  services = testServices();
  charged = 0;
  answer = captured;
  found = { state: 'unknown-charge' };
  provider = saying(
    () => {
      charged++;
      return answer;
    },
    () => found,
  );
  services.providers = { quayside: provider };
  openAccount(services, 'acc_1');
  cart = cartOf(services);
});
afterEach(() => services.end());

describe('while a payment is under way', () => {
  const MINUTE = 60_000;
  const DAY = 24 * 60 * MINUTE;
  const asking: ChargeAnswer = { state: 'needs-confirmation', providerChargeId: 'qs_1', last4: '0050', confirmUrl: 'http://127.0.0.1/confirm' };
  /** What the cart buys, of which there is one. */
  const theLastOne = () => {
    const product = loadProduct(services.db, cart.quote.lines[0]?.productId ?? '');
    const [edition] = product.editions;
    services.db.run(sql`UPDATE products SET editions = json_set(editions, '$[0].stock', 1) WHERE id = ${product.id}`);
    forgetProducts(services.db);
    const place = { id: edition?.id ?? '', stock: 1, name: 'First Light', quantity: 1 };
    expect(holdFor(services, { cartId: cart.cartId, email: 'ilse@moonmail.test', editions: [place] })).toBeUndefined();
    return { left: () => leftOf(services, place, 'crt_other'), sellIt: () => countSold(services.db, place.id, 'live', 1) };
  };
  const mailed = () =>
    services.db
      .select()
      .from(outbox)
      .all()
      .filter(({ kind }) => kind === 'mail')
      .map(({ payload }) => JSON.stringify(payload));

  it('its processor is asked after growing waits, and not again and again', async () => {
    answer = { state: 'no-answer' };
    found = { state: 'no-answer' };
    await pay();
    let asks = 0;
    provider.find = async () => {
      asks++;
      return found;
    };
    for (let second = 0; second < 3600; second++) {
      services.moment.at += 1000;
      await reconcile(services);
    }
    // Each second at first, then whenever a quarter of the time gone by has passed: ln(3600 / 4) / ln 1.25 are some thirty.
    expect(asks).toBeGreaterThan(20);
    expect(asks).toBeLessThan(45);
    provider.find = async () => found;
    found = captured;
    services.moment.at += 10 * MINUTE;
    await reconcile(services);
    expect(services.db.select({ state: orders.state }).from(orders).all()).toEqual([{ state: 'paid' }]);
  });

  it('its place is held, however long that takes, and a declined card gives it back at once', async () => {
    const { left } = theLastOne();
    answer = asking;
    const { order } = await pay();
    services.moment.at += 5 * 60 * MINUTE;
    expect(left()).toBe(0);
    found = { state: 'declined', providerChargeId: 'qs_1', last4: '0050', reason: 'no-funds' };
    await reconcile(services);
    expect(outcomeOf(services.db, order.id)).toMatchObject({ state: 'declined', reason: 'no-funds' });
    expect(left()).toBe(1);
  });

  it('that nobody confirms, it is given up after two days', async () => {
    const { left } = theLastOne();
    answer = asking;
    found = asking;
    const { order } = await pay();
    provider.cancel = async () => true;
    services.moment.at += 2 * DAY - MINUTE;
    await reconcile(services);
    expect(left()).toBe(0);
    services.moment.at += 2 * MINUTE + 10 * MINUTE;
    await reconcile(services);
    expect(chargesOfOrder(services.db, order.id).map(({ state }) => state)).toEqual(['voided']);
    expect(left()).toBe(1);
    provider.cancel = async () => false;
  });

  it('of a place that was sold meanwhile, the money goes back, and the buyer is told so', async () => {
    const { sellIt } = theLastOne();
    answer = { state: 'no-answer' };
    const { order } = await pay();
    services.moment.at += 61_000;
    await reconcile(services);
    services.db.run(sql`DELETE FROM holds`);
    sellIt();
    found = captured;
    services.moment.at += 11 * MINUTE;
    await reconcile(services);
    expect(loadOrder(services.db, order.id).state).toBe('open');
    expect(linesOf(services.db, order.id)).toEqual([]);
    expect(outcomeOf(services.db, order.id)).toMatchObject({ state: 'declined', reason: 'sold-out' });
    expect(mailed()).toEqual([
      expect.stringContaining('was sold out while your payment was on its way, so nothing was bought. What was taken, €138.00, goes back'),
    ]);
    const [owed] = services.db
      .select()
      .from(outbox)
      .all()
      .filter(({ kind }) => kind === 'void-charge');
    await giveBack(services, (owed?.payload as { chargeId: string } | undefined)?.chargeId ?? '');
    expect(chargesOfOrder(services.db, order.id).map(({ state }) => state)).toEqual(['voided']);
    expect(outcomeOf(services.db, order.id)).toMatchObject({ state: 'declined', reason: 'sold-out' });
  });

  it('a clock that jumps ahead or back by a day charges nothing twice and gives nothing up', async () => {
    for (const [jump, cartId] of [
      [DAY, 'crt_ahead0001'],
      [-DAY, 'crt_back00001'],
    ] as const) {
      cart = { ...cart, cartId };
      provider.charge = async () => {
        charged++;
        services.moment.at += jump;
        await reconcile(services);
        return captured;
      };
      const { state, order } = await pay();
      expect([state, chargesOfOrder(services.db, order.id).map((each) => each.state)]).toEqual(['paid', ['captured']]);
    }
    expect(charged).toBe(2);
  });

  it('money that pays for nothing goes back however long it takes: given back whole where it cannot be voided', async () => {
    answer = { ...captured, amount: 1 };
    const { order } = await pay();
    let refused = true;
    provider.void = async () => false;
    provider.refund = async () => (refused ? { state: 'refused', reason: 'Ask again later.' } : { state: 'refunded' });
    const send = () => sendDue(services, (row) => giveBack(services, (row.payload as { chargeId: string }).chargeId), { only: ['void-charge'] }, isTireless);
    for (let tries = 0; tries < 40; tries++) {
      await send();
      services.moment.at += 4 * 60 * MINUTE;
    }
    const row = () =>
      services.db
        .select()
        .from(outbox)
        .all()
        .find(({ kind }) => kind === 'void-charge');
    expect(row()).toMatchObject({ attempts: 40, failedAt: null, sentAt: null, lastError: 'The processor says: Ask again later.' });
    expect(todayOf(services).needs).toContainEqual(
      expect.objectContaining({ title: 'Money that pays for nothing is not back yet', link: `/sales/orders/${order.id}` }),
    );
    refused = false;
    await send();
    expect(chargesOfOrder(services.db, order.id).map(({ state }) => state)).toEqual(['voided']);
    expect(row()?.sentAt).not.toBeNull();
    provider.void = async () => true;
  });
});

describe('a processor that does not answer', () => {
  it('holds up no mail, and not the end of the server', async () => {
    const ruta = await Installation.start({ settings: { STANDINS_LATE_MS: '60000', RUTA_PROVIDER_TIMEOUT_MS: '40000' } });
    try {
      const seller = await Seller.ofNewShop(ruta.studio);
      const funnel = await seller.sellingFunnel();
      const slow = new Buyer(ruta.site);
      await slow.openCheckout(`/${funnel.slug}/checkout`);
      const waiting = slow.pay(funnel.checkout, ruta.standinsUrl, CARD.late, { email: 'slow@moonmail.test' }).catch(() => null);
      const quick = new Buyer(ruta.site);
      await quick.openCheckout(`/${funnel.slug}/checkout`);
      expect((await quick.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'quick@moonmail.test' })).status).toBe(200);
      await until(async () => (await mails(ruta.standinsUrl, 'quick@moonmail.test')).length > 0, 'the receipt of somebody else is there');
      const began = Date.now();
      await ruta.stopServer();
      expect(Date.now() - began).toBeLessThan(10_000);
      await waiting;
      // What was under way is finished by the next start.
      await ruta.startServer();
      await until(async () => (await seller.orderOf('slow@moonmail.test')) !== undefined, 'the slow payment became its order');
    } finally {
      await ruta.stop();
    }
  });
});
