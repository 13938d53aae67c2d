import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { sql } from 'drizzle-orm';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { sendDue } from '../src/base/outbox/outbox';
import { isTireless } from '../src/base/outbox/registry';
import { outbox } from '../src/base/outbox/tables';
import { leftOf } from '../src/catalog/availability';
import { createProduct } from '../src/catalog/service';
import { forgetProducts, loadProduct } from '../src/catalog/store';
import { holdFor } from '../src/checkout/holds';
import { refundsOf } from '../src/orders/refunded';
import { chargesOfOrder, linesOf, loadOrder } from '../src/orders/store';
import type { NewOrder } from '../src/orders/write';
import { payCart } from '../src/payments/pay';
import type { ChargeAnswer } from '../src/payments/provider';
import { giveMoneyBack, sendRefund } from '../src/payments/refund';
import { settle } from '../src/payments/settle';
import { plansOf } from '../src/plans/store';
import { loadShop } from '../src/shop/store';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';
import { CAPTURED, cartOf, openAccount, saying } from './support/till';

const MINUTE = 60_000;
let services: TestServices;
let cart: NewOrder;
let answer: ChargeAnswer;
let refundAnswer: Awaited<ReturnType<ReturnType<typeof saying>['refund']>>;
const pay = (changes: Partial<NewOrder> = {}) => payCart(services, { ...cart, ...changes }, 'tok_1', () => 'http://127.0.0.1/return');

beforeEach(() => {
  services = testServices();
  answer = CAPTURED;
  refundAnswer = { state: 'refunded' };
  const provider = saying(
    () => answer,
    () => answer,
  );
  services.providers = { quayside: { ...provider, refund: async () => refundAnswer } };
  openAccount(services, 'acc_1');
  cart = cartOf(services);
});
afterEach(() => services.end());

/** What the cart buys, of which there is one, held for it; and how many are left for everybody else. */
function theLastOne(): () => number | null {
  const product = loadProduct(services.db, cart.quote.lines[0]?.productId ?? '');
  services.db.run(sql`UPDATE products SET editions = json_set(editions, '$[0].stock', 1) WHERE id = ${product.id}`);
  forgetProducts(services.db);
  const [edition] = loadProduct(services.db, product.id).editions;
  if (!edition) throw new Error('There is no edition.');
  const place = { ...edition, name: product.name, quantity: 1 };
  expect(holdFor(services, { cartId: cart.cartId, email: 'ilse@moonmail.test', editions: [place] })).toBeUndefined();
  return () => leftOf(services, edition, 'crt_other');
}

it('a card that is declined at once gives the place back at once', async () => {
  const left = theLastOne();
  expect(left()).toBe(0);
  answer = { state: 'declined', providerChargeId: 'qs_1', last4: '0027', reason: 'no-funds' };
  expect((await pay()).state).toBe('declined');
  expect(left()).toBe(1);
});

it.each<[string, ChargeAnswer]>([
  ['is silent', { state: 'no-answer' }],
  ['asks the buyer', { state: 'needs-confirmation', providerChargeId: 'qs_1', last4: '0050', confirmUrl: 'http://127.0.0.1/confirm' }],
])('a place is held beyond its quarter of an hour while the bank %s', async (_what, said) => {
  const left = theLastOne();
  answer = said;
  await pay();
  services.moment.at += 16 * MINUTE;
  expect(left()).toBe(0);
});

it('a place that nobody pays for is free again after a quarter of an hour', () => {
  const left = theLastOne();
  services.moment.at += 16 * MINUTE;
  expect(left()).toBe(1);
});

it('a refund of everything that is taken back ends its plan', async () => {
  const club = createProduct(
    services,
    selling('Clear Skies Club', { kind: 'subscription', regular: 900, interval: { every: 1, unit: 'month' }, charges: null }),
  );
  const lines = [cartLine('main', 'main', club)];
  const quote = storedQuote(quoteCart(loadShop(services.db), { lines, buyer: { country: 'PT' } }, services.moment.at));
  const { order } = await pay({ quote });
  expect(plansOf(services.db, order.id)).toMatchObject([{ state: 'active' }]);
  const [line] = linesOf(services.db, order.id);
  const asked = { way: 'noted' as const, reason: '', takesBack: true, tells: false };
  giveMoneyBack(services, order.id, { ...asked, id: 'rfd_part000001', lines: [{ id: line?.id ?? '', amount: 400 }] });
  expect(plansOf(services.db, order.id)).toMatchObject([{ state: 'active' }]);
  giveMoneyBack(services, order.id, { ...asked, id: 'rfd_rest000001', lines: [{ id: line?.id ?? '', amount: 500 }] });
  expect(plansOf(services.db, order.id)).toMatchObject([{ state: 'cancelled', nextDue: null }]);
});

it('a dispute that was lost has taken the money of its lines', async () => {
  const { order } = await pay();
  const [charge] = chargesOfOrder(services.db, order.id);
  settle(services, charge?.id ?? '', { ...CAPTURED, dispute: 'open' });
  expect([loadOrder(services.db, order.id).state, refundsOf(services.db, order.id)]).toEqual(['paid', []]);
  settle(services, charge?.id ?? '', { ...CAPTURED, dispute: 'lost' });
  expect(loadOrder(services.db, order.id).state).toBe('refunded');
  expect(refundsOf(services.db, order.id)).toMatchObject([{ amount: 13_800, state: 'done', reason: 'Dispute lost at the processor' }]);
  // Told again, it takes nothing more.
  settle(services, charge?.id ?? '', { ...CAPTURED, dispute: 'lost' });
  expect(refundsOf(services.db, order.id)).toHaveLength(1);
});

it('money that is owed back is never given up, however long the processor is silent', async () => {
  const { order } = await pay();
  const [line] = linesOf(services.db, order.id);
  refundAnswer = { state: 'no-answer' };
  giveMoneyBack(services, order.id, {
    id: 'rfd_owed000001',
    way: 'processor',
    reason: '',
    takesBack: false,
    tells: false,
    lines: [{ id: line?.id ?? '', amount: 13_800 }],
  });
  const send = () => sendDue(services, (row) => sendRefund(services, (row.payload as { refundId: string }).refundId), { only: ['refund'] }, isTireless);
  // Ten days of tries, four hours apart at most.
  for (let tries = 0; tries < 60; tries++) {
    await send();
    services.moment.at += 4 * 60 * MINUTE;
  }
  const row = () =>
    services.db
      .select()
      .from(outbox)
      .all()
      .find(({ kind }) => kind === 'refund');
  expect(row()).toMatchObject({ attempts: 60, failedAt: null, sentAt: null });
  refundAnswer = { state: 'refunded' };
  await send();
  expect([row()?.sentAt === null, refundsOf(services.db, order.id)[0]?.state]).toEqual([false, 'done']);
});
