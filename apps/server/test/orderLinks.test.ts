import { eq } from 'drizzle-orm';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { outbox } from '../src/base/outbox/tables';
import { createProduct, setProductFiles } from '../src/catalog/service';
import { anyOrderByToken, mailedAddress, orderByToken, sendNewLink } from '../src/delivery/orderLink';
import { holdReceipt, queueAdditionReceipt, queueReceipt, releaseReceipt, releaseReceiptSoon, writeReceipt } from '../src/delivery/receipt';
import { addDownloadContent } from '../src/files/store';
import { greetedName } from '../src/mail/greeting';
import { firstPaymentOf, loadOrder, type OrderRow } from '../src/orders/store';
import { payCart } from '../src/payments/pay';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';
import { CAPTURED, cartOf, openAccount, quoted, saying } from './support/till';

const DAY = 24 * 60 * 60 * 1000;
const MINUTE = 60_000;

let services: TestServices;
beforeEach(() => {
  services = testServices();
  services.providers = {
    quayside: saying(
      () => CAPTURED,
      () => ({ state: 'unknown-charge' }),
    ),
  };
  openAccount(services, 'acc_1');
});
afterEach(() => services.end());

/** A paid order, of a course, or of a file to keep so long. */
async function paid(keep?: { days: number | null }): Promise<OrderRow> {
  const cart = cartOf(services);
  if (!keep) return (await payCart(services, cart, 'tok_1', () => '')).order;
  const file = addDownloadContent(services, 'map.pdf', 'application/pdf', Buffer.from('%PDF-1.4'));
  const product = createProduct(services, selling('Map', { kind: 'one-time', regular: 900 }, { delivery: { downloadDays: keep.days } } as never));
  setProductFiles(services, product.id, [{ id: file.id, only: null }]);
  return (await payCart(services, { ...cart, quote: quoted(services, product) }, 'tok_1', () => '')).order;
}

const queued = (key: string) => services.db.select().from(outbox).where(eq(outbox.idempotencyKey, key)).get();
const dueIn = (order: OrderRow) => (queued(`receipt ${order.id}`)?.nextAt ?? 0) - services.moment.at;

describe('a receipt that waits for what may still be added', () => {
  async function waiting(): Promise<OrderRow> {
    const order = await paid();
    services.db.delete(outbox).run();
    queueReceipt(services.db, services, order, { waits: true });
    return order;
  }

  it('comes three minutes after the payment at the latest, and soon after the page was closed', async () => {
    const order = await waiting();
    expect(dueIn(order)).toBe(3 * MINUTE);
    services.moment.at += MINUTE;
    releaseReceiptSoon(services, order);
    expect(dueIn(order)).toBe(8_000);
    // The page was only loaded anew.
    services.moment.at += 2_000;
    holdReceipt(services, order);
    expect(dueIn(order)).toBe(2 * MINUTE - 2_000);
    // Closed shortly before its time, it is not put off for that.
    services.moment.at += 2 * MINUTE - 5_000;
    releaseReceiptSoon(services, order);
    expect(dueIn(order)).toBe(3_000);
    releaseReceipt(services, order.id);
    expect(dueIn(order)).toBe(0);
    // What is due is on its way, whoever opens or closes what.
    holdReceipt(services, order);
    releaseReceiptSoon(services, order);
    expect(dueIn(order)).toBe(0);
  });

  it('is followed by a receipt of what is added later, and by none before it is written', async () => {
    const order = await waiting();
    const payment = firstPaymentOf(services.db, order.id);
    if (!payment) throw new Error('It was not paid.');
    const addition = { ...payment, id: 'pay_added0000', kind: 'addition' as const };
    queueAdditionReceipt(services.db, services, order, addition);
    expect(queued('receipt pay_added0000')).toBeUndefined();
    expect(writeReceipt(services, { orderId: order.id, paymentId: null, to: '', subject: '' }).subject).toContain('Your receipt');
    queueAdditionReceipt(services.db, services, order, addition);
    expect(queued('receipt pay_added0000')).toMatchObject({ orderId: order.id });
  });
});

describe('a link to an order', () => {
  it.each([
    ['nothing to keep', undefined, 90],
    ['a file for 200 days', { days: 200 }, 200],
    ['a file for a week', { days: 7 }, 90],
    ['a file to keep', { days: null }, 365],
  ])('with %s holds as long as that was promised, and at least 90 days', async (_what, keep, days) => {
    const { token, id } = await paid(keep);
    services.moment.at += days * DAY - 1;
    expect(orderByToken(services, token)?.id).toBe(id);
    services.moment.at += 1;
    expect(orderByToken(services, token)).toBeUndefined();
    expect(anyOrderByToken(services.db, token)?.id).toBe(id);
  });

  it('that has ended is renewed by a mail to the buyer, as often as it ends', async () => {
    const order = await paid({ days: null });
    let known = order.token;
    for (let year = 1; year <= 2; year++) {
      services.moment.at += 366 * DAY;
      expect(orderByToken(services, known)).toBeUndefined();
      const found = anyOrderByToken(services.db, known);
      if (!found) throw new Error('Its ended link is not known.');
      sendNewLink(services, found);
      // Pressed again at once, it is the same mail.
      sendNewLink(services, found);
      const minute = Math.floor(services.moment.at / MINUTE);
      const { payload } = queued(`order link ${order.id} ${minute}`) ?? {};
      const sent = payload as { to: string; text: string };
      expect(sent.to).toBe('ilse@moonmail.test');
      known = /\/order\/([\w-]+)/.exec(sent.text)?.[1] ?? '';
      expect(known).not.toBe(order.token);
      expect(orderByToken(services, known)).toMatchObject({ id: order.id, token: known });
      // The old one stays ended: only the mailbox opens the order.
      expect(orderByToken(services, order.token)).toBeUndefined();
    }
  });

  it('is mailed a few times a day only, and says where it is not', async () => {
    const order = await paid();
    const asked = Array.from({ length: 9 }, () => {
      services.moment.at += MINUTE;
      return sendNewLink(services, order);
    });
    expect(asked[0]).toBe(true);
    expect(asked.at(-1)).toBe(false);
    expect(
      services.db
        .select()
        .from(outbox)
        .all()
        .filter(({ idempotencyKey }) => idempotencyKey.startsWith('order link')),
    ).toHaveLength(asked.filter(Boolean).length);
  });

  it('in a mail holds a month at least, and is the same as long as it does', async () => {
    const order = await paid();
    const address = mailedAddress(services, order);
    expect(address).toContain(order.token);
    services.moment.at += 70 * DAY;
    const later = mailedAddress(services, order);
    expect(later).not.toBe(address);
    services.moment.at += 40 * DAY;
    expect(mailedAddress(services, loadOrder(services.db, order.id))).toBe(later);
    expect(orderByToken(services, later.split('/').at(-1))?.id).toBe(order.id);
  });

  it('is made for no token that was guessed', async () => {
    await paid();
    for (const token of [undefined, '', 'short', 'a'.repeat(32), ['x'.repeat(20)]]) expect(anyOrderByToken(services.db, token)).toBeUndefined();
  });
});

it.each([
  ['Ilse', 'Ilse'],
  ['  Maria  João ', 'Maria João'],
  ['Ø’Brien-Łucja', 'Ø’Brien-Łucja'],
  ['佐藤', '佐藤'],
  ['Win now at prize.test', ''],
  ['Visit prize.test', ''],
  ['Call 555', ''],
  ['Win a new car today', ''],
  ['a'.repeat(31), ''],
  ['', ''],
])('greets %j as %j where nothing was paid', (typed, name) => {
  expect(greetedName(typed)).toBe(name);
});
