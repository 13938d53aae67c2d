import { spawnSync } from 'node:child_process';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { chargesOfOrder } from '../src/orders/store';
import { charges } from '../src/orders/tables';
import { hearOfRefunds } from '../src/payments/hearOfRefunds';
import { payCart } from '../src/payments/pay';
import type { ChargeAnswer } from '../src/payments/provider';
import { accounts } from '../src/payments/tables';
import { dealtWith, openUnknown, refundUnknown } from '../src/payments/unknownCharges';
import { todayOf } from '../src/today/service';
import { Buyer, CARD, OWNER, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { type TestServices, testServices } from './support/services';
import { CAPTURED, cartOf, openAccount, saying } from './support/till';

let services: TestServices;
let changed: Array<{ idempotencyKey: string; answer: ChargeAnswer }>;
let refused: boolean;
beforeEach(() => {
  services = testServices();
  changed = [];
  refused = false;
  const provider = saying(
    () => CAPTURED,
    () => CAPTURED,
  );
  services.providers = {
    quayside: {
      ...provider,
      changedSince: async () => changed,
      refund: async () => (refused ? { state: 'refused', reason: 'It is disputed.' } : { state: 'refunded' }),
    },
  };
  openAccount(services, 'acc_1');
  openAccount(services, 'acc_test', { mode: 'test' });
});
afterEach(() => services.end());

const titles = () => todayOf(services).needs.map(({ title }) => title);

it('money that was taken after a backup stands on Today until it is refunded or dealt with, once, and in no test mode', async () => {
  changed = [
    { idempotencyKey: 'pay_lost1-1', answer: { ...CAPTURED, providerChargeId: 'qs_lost1', amount: 13_800 } },
    { idempotencyKey: 'pay_lost2-1', answer: { ...CAPTURED, providerChargeId: 'qs_lost2', amount: 2400, refunded: 400 } },
    { idempotencyKey: 'pay_no-1', answer: { state: 'declined', providerChargeId: 'qs_no', last4: '0027', reason: 'no-funds' } },
    { idempotencyKey: 'pay_back-1', answer: { ...CAPTURED, providerChargeId: 'qs_back', amount: 900, refunded: 900 } },
  ];
  await hearOfRefunds(services);
  services.moment.at += 11 * 60_000;
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toMatchObject([
    { provider: 'quayside', providerChargeId: 'qs_lost1', amount: 13_800, cardLast4: '0019' },
    { providerChargeId: 'qs_lost2', amount: 2000 },
  ]);
  expect(titles()).toEqual(expect.arrayContaining(['€138.00 was taken that no order here knows of', '€20.00 was taken that no order here knows of']));
  const [first, second] = openUnknown(services.db);
  refused = true;
  await expect(refundUnknown(services, first?.id ?? '')).rejects.toThrow('The processor says: It is disputed.');
  refused = false;
  expect(await refundUnknown(services, first?.id ?? '')).toMatchObject([{ providerChargeId: 'qs_lost2' }]);
  await expect(refundUnknown(services, first?.id ?? '')).rejects.toThrow('was not found');
  expect(dealtWith(services, second?.id ?? '')).toEqual([]);
  expect(titles().filter((title) => title.includes('no order here'))).toEqual([]);
  // What is told again stays as it was dealt with.
  services.moment.at += 11 * 60_000;
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toEqual([]);
});

it('what is refunded at the processor by hand is no longer open', async () => {
  changed = [{ idempotencyKey: 'pay_lost1-1', answer: { ...CAPTURED, amount: 13_800 } }];
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toHaveLength(1);
  changed = [{ idempotencyKey: 'pay_lost1-1', answer: { ...CAPTURED, amount: 13_800, refunded: 13_800 } }];
  services.moment.at += 11 * 60_000;
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toEqual([]);
});

it('a server that was just started asks at once, whatever the backup says of when it was asked last; then every ten minutes', async () => {
  changed = [{ idempotencyKey: 'pay_lost1-1', answer: { ...CAPTURED, amount: 13_800 } }];
  services.db.update(accounts).set({ heardUntil: services.moment.at }).run();
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toHaveLength(1);
  changed = [{ idempotencyKey: 'pay_lost2-1', answer: { ...CAPTURED, amount: 2400 } }];
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toHaveLength(1);
  services.moment.at += 11 * 60_000;
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toHaveLength(2);
});

it('a charge that an early release wrote down without its account is known to its order', async () => {
  const cart = cartOf(services);
  const { order } = await payCart(services, cart, 'tok_1', () => 'http://127.0.0.1/return');
  const [charge] = chargesOfOrder(services.db, order.id);
  services.db.update(charges).set({ accountId: null }).run();
  changed = [{ idempotencyKey: charge?.idempotencyKey ?? '', answer: { ...CAPTURED, amount: 13_800 } }];
  await hearOfRefunds(services);
  expect(openUnknown(services.db)).toEqual([]);
});

it('of a real backup put back, each charge since is found at the processor, and what was known before is not', async () => {
  const ruta = await Installation.start();
  try {
    const seller = await Seller.ofNewShop(ruta.studio);
    const funnel = await seller.sellingFunnel();
    const buy = async (email: string) => {
      const buyer = new Buyer(ruta.site);
      await buyer.openCheckout(`/${funnel.slug}/checkout`);
      expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email })).status).toBe(200);
    };
    const backup = (...more: string[]) => {
      const { status, stderr } = spawnSync(process.execPath, ['apps/server/dist/backup.js', ...more], { env: { ...process.env, RUTA_DATA: ruta.data } });
      expect([status, stderr.toString()]).toEqual([0, '']);
    };
    await buy('before@moonmail.test');
    backup();
    await buy('since1@moonmail.test');
    await buy('since2@moonmail.test');
    await ruta.stopServer();
    backup('restore');
    await ruta.startServer();
    const owner = await seller.json('/api/session', { email: OWNER.email, password: OWNER.password });
    seller.trust(((await owner.json()) as { csrfToken: string }).csrfToken);
    const unknown = async () => (await seller.read('/connections/unknown-charges')) as Array<{ id: string; amount: number }>;
    await until(async () => (await unknown()).length === 2, 'both are found');
    expect((await seller.rows('/orders')).map(({ email }: { email: string }) => email)).toEqual(['before@moonmail.test']);
    const titles = ((await seller.read('/today')).needs as Array<{ title: string }>).map(({ title }) => title);
    expect(titles.filter((title) => title === '€138.00 was taken that no order here knows of')).toHaveLength(2);
    const [first, second] = await unknown();
    await seller.make(`/connections/unknown-charges/${first?.id}/refund`, {});
    await seller.make(`/connections/unknown-charges/${second?.id}/dealt-with`, {});
    expect(await unknown()).toEqual([]);
    // The shop goes on selling, and what it sells is known again.
    await buy('after@moonmail.test');
    await until(async () => (await seller.orderOf('after@moonmail.test'))?.state === 'paid', 'the next order is paid');
    expect(await unknown()).toEqual([]);
  } finally {
    await ruta.stop();
  }
});
