import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { selling } from './support/products';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
});
afterAll(() => ruta.stop());

/** Somebody new at the checkout. */
async function atCheckout(): Promise<Buyer> {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  return buyer;
}

/** Charges the processor holds as captured, for one order's address. */
function captured(email: string): { charges: number; orders: number; lines: number } {
  const db = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
  const orders = db.prepare(`select id from orders where state = 'paid' and json_extract(buyer, '$.email') = ?`).all(email) as Array<{ id: string }>;
  const ours = (table: string, extra: string) =>
    (
      db
        .prepare(`select count(*) as n from ${table} where order_id in (select id from orders where json_extract(buyer, '$.email') = ?) ${extra}`)
        .get(email) as { n: number }
    ).n;
  const found = { charges: ours('charges', `and state = 'captured'`), orders: orders.length, lines: ours('order_lines', `and role <> 'shipping'`) };
  db.close();
  return found;
}

describe('paying by card', () => {
  it('makes a paid order, sends the receipt and the notice, and gives the file', async () => {
    const buyer = await atCheckout();
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'first@moonmail.test' });
    expect(paid.status).toBe(200);
    const thanks = await buyer.visit((paid.body.redirect ?? '').replace(ruta.site, ''));
    expect(thanks).toContain('Thank you, Ilse');
    expect(thanks).toContain('€138.00');
    const link = /href="([^"]*\/d\/[^"]+)"/.exec(thanks)?.[1]?.replaceAll('&amp;', '&') ?? '';
    const file = await buyer.get(link);
    expect(await file.text()).toBe('the lesson itself');
    expect(file.headers.get('content-disposition')).toBe('attachment; filename=lesson.pdf');
    await until(async () => (await mails(ruta.standinsUrl, 'first@moonmail.test')).length === 1, 'the receipt arrives');
    const [receipt] = await mails(ruta.standinsUrl, 'first@moonmail.test');
    expect(receipt.html).toContain('#1F3A34');
    await until(
      async () => (await mails(ruta.standinsUrl, 'ines@perigeelane.test')).some((mail) => mail.subject.startsWith('Sold: First Light')),
      'the notice arrives',
    );
    const [row] = await seller.rows('/orders');
    expect(row).toMatchObject({ number: 1001, funnelName: 'Straight', goods: 'First Light' });
    const order = await seller.read(`/orders/${row.id}`);
    expect(order).toMatchObject({
      number: 1001,
      state: 'paid',
      payments: [{ kind: 'first', charges: [{ state: 'captured', cardLast4: '0019', amount: 13_800 }] }],
    });
    expect(order.story.map((entry: { kind: string }) => entry.kind)).toEqual(
      expect.arrayContaining(['page.viewed', 'checkout.started', 'payment.given', 'order.paid', 'file.fetched', 'mail.sent']),
    );
  });

  it.each([
    [CARD.noFunds, 'not enough money'],
    [CARD.expired, 'has expired'],
    [CARD.stolen, 'refused this card'],
    [CARD.down, 'not available at the moment'],
  ])('card %s is refused in words, and another card still pays the same cart once', async (card, words) => {
    const buyer = await atCheckout();
    const email = `${card}@moonmail.test`;
    const refused = await buyer.pay(funnel.checkout, ruta.standinsUrl, card, { email });
    expect(refused.status).toBe(402);
    expect(refused.body.message).toContain(words);
    expect(refused.body.message).toContain('Nothing was charged');
    expect(captured(email)).toEqual({ charges: 0, orders: 0, lines: 0 });
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email })).body.redirect).toContain('thank-you');
    expect(captured(email)).toEqual({ charges: 1, orders: 1, lines: 1 });
  });

  it('sent twice at once, and again afterwards, charges once', async () => {
    const buyer = await atCheckout();
    const token = await buyer.token(ruta.standinsUrl, CARD.good);
    const send = () => buyer.json(`/pay/${funnel.checkout}`, buyer.order({ token, email: 'twice@moonmail.test' }));
    const answers = await Promise.all([send(), send(), send()]);
    const later = await send();
    const redirects = await Promise.all([...answers, later].map(async (answer) => ((await answer.json()) as { redirect: string }).redirect));
    expect(new Set(redirects).size).toBe(1);
    expect(captured('twice@moonmail.test')).toEqual({ charges: 1, orders: 1, lines: 1 });
  });

  it('that was taken before the processor said it was down is paid, although nobody tells of it', async () => {
    const buyer = await atCheckout();
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.takenThenDown, { email: 'taken@moonmail.test' });
    expect(paid.body.redirect).toContain('thank-you?order=');
    expect(captured('taken@moonmail.test')).toEqual({ charges: 1, orders: 1, lines: 1 });
  });

  it('that the bank wants confirmed leads there, also when the processor’s answer was lost', async () => {
    const buyer = await atCheckout();
    const asked = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.confirmLate, { email: 'lost-confirm@moonmail.test' });
    expect(asked.body.redirect).toContain('/pay/return/');
    const bank = (await buyer.get(asked.body.redirect ?? '')).headers.get('location') ?? '';
    expect(bank).toContain('/quayside/confirm/');
    // Whoever comes back without having answered is told so, and not led in a circle.
    const back = await buyer.get(`${asked.body.redirect}?from=bank`);
    expect(back.status).toBe(200);
    expect(await back.text()).toContain('Confirm at your bank');
    const returned = (await buyer.form(bank, { answer: 'yes' })).headers.get('location') ?? '';
    expect((await buyer.get(returned)).headers.get('location')).toContain('thank-you?order=');
    expect(captured('lost-confirm@moonmail.test')).toEqual({ charges: 1, orders: 1, lines: 1 });
  });

  it('of the last place keeps it for its buyer, who comes back from the bank and tries another card', async () => {
    const product = selling('Last one', { kind: 'one-time', regular: 900 });
    const last = await seller.sellingFunnel({ product: { ...product, editions: product.editions.map((edition) => ({ ...edition, stock: 1 })) } });
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${last.slug}/checkout`);
    const asked = await buyer.pay(last.checkout, ruta.standinsUrl, CARD.confirm, { email: 'last@moonmail.test' });
    const returned = (await buyer.form(asked.body.redirect ?? '', { answer: 'no' })).headers.get('location') ?? '';
    const again = (await buyer.get(returned)).headers.get('location') ?? '';
    const page = await buyer.get(again);
    expect(page.status).toBe(200);
    expect(await page.text()).toContain('id="order-form"');
    // to everybody else it is sold out
    expect((await new Buyer(ruta.site).get(`/${last.slug}/checkout`)).status).toBe(410);
  });

  it('that the bank wants confirmed pays once the buyer says yes, and not when they say no', async () => {
    for (const [answer, expected] of [
      ['no', { charges: 0, orders: 0, lines: 0 }],
      ['yes', { charges: 1, orders: 1, lines: 1 }],
    ] as const) {
      const buyer = await atCheckout();
      const email = `confirm-${answer}@moonmail.test`;
      const asked = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.confirm, { email });
      expect(asked.body.redirect).toContain('/quayside/confirm/');
      expect(captured(email).orders).toBe(0);
      const back = await buyer.form(asked.body.redirect ?? '', { answer });
      const next = await buyer.get(back.headers.get('location') ?? '');
      expect(next.headers.get('location')).toContain(answer === 'yes' ? 'thank-you?order=' : 'declined=not-confirmed');
      expect(captured(email)).toEqual(expected);
    }
  });

  it('left at the bank’s question and paid with another card is charged once', async () => {
    const buyer = await atCheckout();
    const asked = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.confirm, { email: 'changed@moonmail.test' });
    await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'changed@moonmail.test' });
    await buyer.form(asked.body.redirect ?? '', { answer: 'yes' });
    expect(captured('changed@moonmail.test')).toEqual({ charges: 1, orders: 1, lines: 1 });
  });
});

describe('requests made by hand', () => {
  it('with another total are shown the true one, and nothing is charged', async () => {
    const buyer = await atCheckout();
    const tampered = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { shown: '100', email: 'cheap@moonmail.test' });
    expect(tampered.status).toBe(409);
    expect(tampered.body.message).toContain('€138.00');
    expect(captured('cheap@moonmail.test').charges).toBe(0);
  });
  it('with a product or price of their own buy what is on sale here, at its price', async () => {
    const buyer = await atCheckout();
    const extra = { productId: 'prd_000000', price: '1', total: '1', email: 'extra@moonmail.test' };
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, extra)).status).toBe(200);
    const [order] = await seller.rows('/orders');
    expect(order).toMatchObject({ email: 'extra@moonmail.test', total: 13_800, goods: 'First Light' });
  });
  it.each(['stp_0000000000', 'nonsense'])('for the step %s are refused', async (step) => {
    const buyer = await atCheckout();
    const answer = await buyer.pay(step, ruta.standinsUrl, CARD.good);
    expect(answer.status).toBe(404);
    expect(answer.body.message).toContain('Nothing was charged');
  });
  it('for a step that sells nothing are refused', async () => {
    const buyer = await atCheckout();
    expect((await buyer.pay(funnel.thankYou, ruta.standinsUrl, CARD.good)).status).toBe(404);
  });
  it('with somebody else’s cart are refused', async () => {
    const [one, other] = [await atCheckout(), await atCheckout()];
    await one.json(`/pay/${funnel.checkout}/contact`, one.order({ email: 'mine@moonmail.test' }));
    const stolen = await other.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { cart: one.order().cart ?? '' });
    expect(stolen.status).toBe(409);
  });
  it('with empty or over-long fields are told at each field, and what was typed comes back', async () => {
    const buyer = await atCheckout();
    const page = await (await buyer.form(`/pay/${funnel.checkout}`, buyer.order({ firstName: '', email: 'not an address', country: 'NL' }))).text();
    expect(page).toContain('Enter your first name.');
    expect(page).toContain('Enter an e-mail address');
    expect(page).toContain('value="not an address"');
    const long = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { firstName: 'x'.repeat(81) });
    expect(long.body.errors?.firstName).toContain('under 80');
  });
  it('that pretend to be the processor are not believed', async () => {
    const forged = await fetch(`${ruta.site}/webhooks/quayside`, {
      method: 'POST',
      body: '{"type":"charge.captured","charge":{"idempotencyKey":"x"}}',
      headers: { 'webhook-id': 'a', 'webhook-timestamp': String(Math.floor(Date.now() / 1000)), 'webhook-signature': 'v1,AAAA' },
    });
    expect(forged.status).toBe(400);
  });
});

describe('a processor that answers too late', () => {
  // The jobs that ask after payments run only at the start here, so that nothing settles a charge meanwhile.
  beforeAll(async () => {
    await ruta.stop();
    ruta = await Installation.start({ settings: { RUTA_JOBS_EVERY_MS: '600000' } });
    seller = await Seller.ofNewShop(ruta.studio);
    funnel = await seller.sellingFunnel();
  });
  const lateCharges = async () => ((await (await fetch(ruta.standinsUrl)).text()).match(/<td>0068<\/td>/g) ?? []).length;

  it('that answers too late is waited for and becomes one order', async () => {
    const buyer = await atCheckout();
    const waiting = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.late, { email: 'late@moonmail.test' });
    expect(waiting.body.redirect).toContain('/pay/return/');
    expect(captured('late@moonmail.test')).toEqual({ charges: 0, orders: 0, lines: 0 });
    // Whoever looks again is told what the processor says by now.
    const done = await buyer.get(waiting.body.redirect ?? '');
    expect(done.headers.get('location')).toContain('thank-you?order=');
    // The processor's two late webhooks of the same charge change nothing.
    await until(async () => ((await (await fetch(ruta.standinsUrl)).text()).match(/charge\.captured/g) ?? []).length >= 2, 'the webhooks were sent');
    expect(captured('late@moonmail.test')).toEqual({ charges: 1, orders: 1, lines: 1 });
  });

  it('survives the server’s sudden end between charge and order', async () => {
    const buyer = await atCheckout();
    const token = await buyer.token(ruta.standinsUrl, CARD.late);
    // This card is charged at once and answered three seconds later: the server ends in between.
    const sent = buyer.json(`/pay/${funnel.checkout}`, buyer.order({ token, email: 'crash@moonmail.test' })).catch(() => null);
    await until(async () => (await lateCharges()) === 2, 'the processor has the charge');
    const held = captured('crash@moonmail.test');
    await ruta.killServer();
    await sent;
    expect(held).toEqual({ charges: 0, orders: 0, lines: 0 });
    await ruta.startServer();
    await until(() => captured('crash@moonmail.test').orders === 1, 'the order is there after the restart');
    await until(async () => (await mails(ruta.standinsUrl, 'crash@moonmail.test')).length === 1, 'the receipt arrives');
    expect(captured('crash@moonmail.test')).toEqual({ charges: 1, orders: 1, lines: 1 });
  });
});
