import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { systemClock } from '../src/base/clock';
import { newId as makeNewId } from '../src/base/ids';
import { sendDue } from '../src/base/outbox/outbox';
import { createProduct } from '../src/catalog/service';
import { loadFunnel } from '../src/funnel/store';
import { refundsOf } from '../src/orders/refunded';
import { chargesOfOrder, linesOf, loadOrder, paymentsOf } from '../src/orders/store';
import { charges } from '../src/orders/tables';
import { openOrder } from '../src/orders/write';
import { markPaid } from '../src/payments/fulfil';
import { hearOfRefunds } from '../src/payments/hearOfRefunds';
import { payCart } from '../src/payments/pay';
import type { ChargeAnswer, PaymentProvider, RefundAnswer } from '../src/payments/provider';
import { giveMoneyBack, sendRefund } from '../src/payments/refund';
import { accounts } from '../src/payments/tables';
import { loadShop } from '../src/shop/store';
import { createFunnel } from '../src/templates/createFunnel';
import { todayOf } from '../src/today/service';
import { Buyer, CARD, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { selling } from './support/products';
import { testServices } from './support/services';
import { CAPTURED, cartOf, openAccount, saying } from './support/till';

const refundId = () => makeNewId(systemClock, 'refund');
const ask = (lineId: string, amount: number, more: object = {}) => ({
  id: refundId(),
  lines: [{ id: lineId, amount }],
  way: 'processor' as const,
  reason: 'It was cloudy',
  takesBack: true,
  tells: true,
  ...more,
});

describe('money given back at the processor', () => {
  let ruta: Installation;
  let seller: Seller;
  beforeAll(async () => {
    ruta = await Installation.start();
    seller = await Seller.ofNewShop(ruta.studio);
  });
  afterAll(() => ruta.stop());

  it('counts once on its line, in the figures, with the buyer and in the mails, and ends what was bought once it is whole', async () => {
    const funnel = await seller.sellingFunnel({ price: 12_100 });
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const email = 'back@moonmail.test';
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email })).status).toBe(200);
    const order = await seller.orderOf(email);
    const [line] = order.lines;
    expect(line).toMatchObject({ total: 12_100, tax: 2100, isAtProcessor: true });
    const url = `/orders/${order.id}/refunds`;
    const refuse = await seller.send(url, ask(line.id, 12_101));
    expect(await refuse.json()).toMatchObject({ status: 400, errors: [{ path: 'lines.0.amount', message: expect.stringContaining('€121.00 is left') }] });
    const part = ask(line.id, 4100);
    // Pressed twice, and once more after a lost answer.
    await Promise.all([seller.make(url, part), seller.make(url, part)]);
    await seller.make(url, part);
    const state = async () => (await seller.read(`/orders/${order.id}`)).refunds.map((refund: { state: string }) => refund.state);
    await until(async () => (await state()).every((each: string) => each === 'done'), 'the processor gives it back');
    // Of 21.00 tax in 121.00, 41.00 has round(21.00 × 41 / 121) = 7.12.
    const after = await seller.read(`/orders/${order.id}`);
    expect(after).toMatchObject({ state: 'part-refunded', lines: [{ refunded: 4100 }], refunds: [{ amount: 4100, tax: 712, state: 'done' }] });
    const today = new Date().toISOString().slice(0, 10);
    const figures = async () => (await seller.read(`/reports?by=funnel&from=${today}&to=${today}`)).total;
    // Net 100.00, of it round(100 × 41 / 121) = 33.88 given back.
    expect(await figures()).toMatchObject({ orders: 1, revenue: 6612, refunded: 3388 });
    // The first page says the same.
    expect((await seller.read('/today')).today).toMatchObject({ orders: 1, revenue: 6612 });
    await seller.make(url, ask(line.id, 8000));
    await until(async () => (await seller.read(`/orders/${order.id}`)).refunds.every((refund: { state: string }) => refund.state === 'done'), 'the rest too');
    const whole = await seller.read(`/orders/${order.id}`);
    expect(whole).toMatchObject({ state: 'refunded', lines: [{ refunded: 12_100 }], refunds: [{ tax: 712 }, { tax: 1388 }] });
    expect(whole.story.filter(({ kind }: { kind: string }) => kind === 'order.refunded')).toHaveLength(2);
    expect(await figures()).toMatchObject({ orders: 1, revenue: 0, refunded: 10_000 });
    const [contact] = await seller.rows('/contacts');
    expect(contact).toMatchObject({ orders: 1, paid: 0 });
    // The buyer's own page says so, and the file is not handed out any more.
    const page = await (await buyer.request(new URL(whole.orderUrl).pathname)).text();
    expect([page.includes('Given back: €121.00'), page.includes('lesson.pdf')]).toEqual([true, false]);
    await until(async () => (await mails(ruta.standinsUrl, email)).some(({ text }) => text.includes('/d/')), 'the receipt is there');
    const mailed = await mails(ruta.standinsUrl, email);
    const file = await buyer.request(/https?:\/\/[^/\s]+(\/d\/\S+)/.exec(mailed.find(({ text }) => text.includes('/d/'))?.text ?? '')?.[1] ?? '/none');
    expect([file.status, await file.text()]).toEqual([410, expect.stringContaining('has ended')]);
    await until(
      async () => (await mails(ruta.standinsUrl, email)).filter(({ subject }) => subject.includes('on its way back')).length === 2,
      'the buyer is told of both',
    );
  });

  it('there by hand is seen in the shop, by its webhook or, where that is lost, by asking; and so is a dispute', async () => {
    const funnel = await seller.sellingFunnel({ price: 12_100 });
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const email = 'byhand@moonmail.test';
    await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email });
    const order = await seller.orderOf(email);
    const [charge] = order.payments[0].charges;
    const there = (fields: Record<string, string>) =>
      fetch(`${ruta.standinsUrl}/quayside/charges/${charge.providerChargeId}`, { method: 'POST', body: new URLSearchParams(fields), redirect: 'manual' });
    await there({ what: 'give-back', amount: '4100' });
    const now = () => seller.read(`/orders/${order.id}`);
    await until(async () => (await now()).state === 'part-refunded', 'the shop hears of it');
    expect(await now()).toMatchObject({
      lines: [{ refunded: 4100 }],
      refunds: [{ amount: 4100, tax: 712, state: 'done', reason: 'Given back at the processor' }],
    });
    await there({ what: 'open' });
    await until(async () => (await now()).payments[0].charges[0].dispute === 'open', 'the dispute is seen');
    expect((await seller.read('/today')).needs).toContainEqual(
      expect.objectContaining({ title: 'A buyer’s bank asks for their money', link: `/sales/orders/${order.id}` }),
    );
    await there({ what: 'lost' });
    await until(async () => (await now()).state === 'refunded', 'what was lost is gone');
    // Told twice, and of what the shop has given back itself, it counts once.
    await there({ what: 'lost' });
    const after = await now();
    expect(after).toMatchObject({ lines: [{ refunded: 12_100 }], refunds: [{ amount: 4100 }, { amount: 8000, reason: 'Dispute lost at the processor' }] });
    expect((await seller.read('/today')).needs.map(({ title }: { title: string }) => title)).not.toContain('A buyer’s bank asks for their money');
  });
});

describe('a processor', () => {
  it('that does not answer is asked again with the same key; one that refuses takes nothing off, and a person is told', async () => {
    const services = testServices();
    const keys: string[] = [];
    let answer: RefundAnswer = { state: 'no-answer' };
    const provider = {
      refund: async (_account: unknown, { idempotencyKey }: { idempotencyKey: string }) => {
        keys.push(idempotencyKey);
        return answer;
      },
    } as unknown as PaymentProvider;
    services.providers = { quayside: provider };
    const secrets = services.secrets.encrypt(JSON.stringify({ secretKey: 'sk', webhookSecret: 'whsec' }));
    const account = {
      id: 'acc_1',
      provider: 'quayside',
      mode: 'live' as const,
      reference: 'acc_1',
      publicKey: 'pk',
      secrets,
      weight: 1,
      cap: null,
      createdAt: 1,
    };
    services.db.insert(accounts).values(account).run();
    const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 13_800 }));
    const funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: product.id });
    const stepId = loadFunnel(services.db, funnelId).graph.entryId;
    const quote = storedQuote(quoteCart(loadShop(services.db), { lines: [cartLine('main', 'main', product)], buyer: { country: 'PT' } }, services.moment.at));
    const buyer = { email: 'ilse@moonmail.test', firstName: 'Ilse', lastName: '', country: 'PT' };
    const { order, payment } = openOrder(services.db, services, {
      funnelId,
      stepId,
      cartId: 'crt_000000001',
      visitorId: null,
      mode: 'live',
      quote,
      codeId: null,
      buyer,
      campaign: null,
    });
    const charge = {
      orderId: order.id,
      paymentId: payment.id,
      accountId: 'acc_1',
      provider: 'quayside',
      mode: 'live' as const,
      currency: 'EUR',
      createdAt: 1,
      updatedAt: 1,
    };
    services.db
      .insert(charges)
      .values({ ...charge, id: 'chg_1', idempotencyKey: 'k', providerChargeId: 'qs_1', amount: 13_800, state: 'captured' })
      .run();
    markPaid(services.db, services, order, payment);
    const [line] = linesOf(services.db, order.id);
    giveMoneyBack(services, order.id, ask(line?.id ?? '', 13_800));
    // Nobody can give the same back a second time while the first is under way.
    expect(() => giveMoneyBack(services, order.id, ask(line?.id ?? '', 1))).toThrow('is left of First Light');
    const send = () => sendDue(services, (row) => sendRefund(services, (row.payload as { refundId: string }).refundId), { only: ['refund'] });
    await send();
    services.moment.at += 10_000;
    answer = { state: 'refused', reason: 'Too late for this.' };
    await send();
    await send();
    expect([keys.length, new Set(keys).size]).toEqual([2, 1]);
    expect(refundsOf(services.db, order.id)).toMatchObject([{ state: 'refused', failure: 'Too late for this.' }]);
    expect(loadOrder(services.db, order.id).state).toBe('paid');
    expect(linesOf(services.db, order.id)).toMatchObject([{ refunded: 0 }]);
    expect(todayOf(services).needs).toMatchObject([{ title: 'A refund was refused by the processor', link: `/sales/orders/${order.id}` }]);
    // What was given back elsewhere is noted at once, whoever took it.
    giveMoneyBack(services, order.id, ask(line?.id ?? '', 13_800, { way: 'noted' }));
    expect([loadOrder(services.db, order.id).state, paymentsOf(services.db, order.id)[0]?.state, keys.length]).toEqual(['refunded', 'paid', 2]);
    services.end();
  });
});

describe('what is given back at the processor itself', () => {
  const CHANGED = (refunded: number) => ({ ...CAPTURED, refunded });

  it('is asked for where nobody told of it, counts in proportion on what is left, and never twice', async () => {
    const services = testServices();
    let changed: Array<{ idempotencyKey: string; answer: ChargeAnswer }> | null = null;
    const provider = saying(
      () => CAPTURED,
      () => CAPTURED,
    );
    const asked: number[] = [];
    provider.changedSince = async (_account, since) => {
      asked.push(since);
      return changed;
    };
    services.providers = { quayside: provider };
    openAccount(services, 'acc_1');
    const { order } = await payCart(services, cartOf(services), 'tok', () => 'http://127.0.0.1/return');
    const [charge] = chargesOfOrder(services.db, order.id);
    const refunded = () => linesOf(services.db, order.id).map((line) => line.refunded);
    // It did not answer: asked again from the same moment on.
    await hearOfRefunds(services);
    await hearOfRefunds(services);
    expect(new Set(asked).size).toBe(1);
    changed = [{ idempotencyKey: charge?.idempotencyKey ?? '', answer: CHANGED(5000) }];
    await hearOfRefunds(services);
    expect(refunded()).toEqual([5000]);
    // Not asked again at once, and told again it changes nothing.
    await hearOfRefunds(services);
    expect(asked).toHaveLength(3);
    services.moment.at += 11 * 60_000;
    await hearOfRefunds(services);
    expect([asked.length, refunded()]).toEqual([4, [5000]]);
    // The shop itself gives some back; the processor then tells of both together.
    const [line] = linesOf(services.db, order.id);
    giveMoneyBack(services, order.id, {
      id: refundId(),
      lines: [{ id: line?.id ?? '', amount: 1000 }],
      way: 'processor',
      reason: '',
      takesBack: false,
      tells: false,
    });
    changed = [{ idempotencyKey: charge?.idempotencyKey ?? '', answer: CHANGED(6000) }];
    services.moment.at += 11 * 60_000;
    await hearOfRefunds(services);
    expect(refunded()).toEqual([6000]);
    // Undone there by hand, it is all back; whatever is told beyond that changes nothing.
    changed = [{ idempotencyKey: charge?.idempotencyKey ?? '', answer: { state: 'voided', providerChargeId: 'qs_1', last4: '0019' } }];
    services.moment.at += 11 * 60_000;
    await hearOfRefunds(services);
    expect(refunded()).toEqual([13_800]);
    changed = [{ idempotencyKey: charge?.idempotencyKey ?? '', answer: CHANGED(99_999) }];
    services.moment.at += 11 * 60_000;
    await hearOfRefunds(services);
    expect([refunded(), loadOrder(services.db, order.id).state]).toEqual([[13_800], 'refunded']);
    services.end();
  });
});
