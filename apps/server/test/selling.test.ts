import { randomBytes } from 'node:crypto';
import { namedEdition, type Price } from '@ruta/core/catalog';
import { type IdKind, makeId } from '@ruta/core/ids';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { selling } from './support/products';

const monthly = { every: 1, unit: 'month' as const };
const newId = (kind: IdKind) => makeId(kind, Date.now(), randomBytes(10));

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());

type Funnel = Awaited<ReturnType<Seller['sellingFunnel']>>;
const sell = (price: Price | Price[], changes: Parameters<typeof selling>[2] = {}) => seller.sellingFunnel({ product: selling('Thing', price, changes) });
/** Somebody new at a funnel's checkout; `total` is what the form shows. */
async function at(funnel: Funnel, query = ''): Promise<{ buyer: Buyer; html: string }> {
  const buyer = new Buyer(ruta.site);
  return { buyer, html: await buyer.openCheckout(`/${funnel.slug}/checkout${query}`) };
}
const orderOf = (email: string) => seller.orderOf(email);

describe('prices', () => {
  it('in instalments charge the first today and say the rest', async () => {
    const funnel = await sell({ kind: 'instalments', regular: 10_000, count: 3, interval: monthly });
    const { buyer, html } = await at(funnel);
    // 33.33 today, 33.33 and 33.34 later
    expect(html).toContain('Then 2 payments, the first €33.33, the last €33.34');
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'rate@moonmail.test' })).status).toBe(200);
    const order = await orderOf('rate@moonmail.test');
    expect(order.charges).toMatchObject([{ amount: 3333, state: 'captured' }]);
    const { payments, endless } = await seller.read(`/orders/${order.id}/upcoming`);
    expect([payments.map((payment: { total: number }) => payment.total), endless]).toEqual([[3333, 3334], false]);
  });

  it('with a free trial keep the card and charge nothing, but only a card that its bank lets be kept', async () => {
    const funnel = await sell({ kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null });
    const { buyer, html } = await at(funnel);
    expect(html).toContain('€0.00');
    expect((await buyer.json(`/pay/${funnel.checkout}`, buyer.order({ email: 'trial@moonmail.test' }))).status).toBe(422);
    const stolen = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.stolen, { email: 'trial@moonmail.test' });
    expect(stolen).toMatchObject({ status: 402, body: { message: expect.stringContaining('refused this card') } });
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'trial@moonmail.test' })).status).toBe(200);
    const order = await orderOf('trial@moonmail.test');
    expect(order).toMatchObject({ number: expect.any(Number), charges: [], quote: { dueToday: 0, endless: true } });
    expect(order.story.map((entry: { kind: string }) => entry.kind)).toContain('order.paid');
    await until(async () => (await mails(ruta.standinsUrl, 'trial@moonmail.test')).length === 1, 'the receipt arrives');
    expect((await mails(ruta.standinsUrl, 'trial@moonmail.test'))[0].text).toMatch(/Then €9\.00 a month, from \d+ \w+ \d{4} until you cancel/);
  });

  it('that buyers choose hold to their bounds, whatever the browser sends', async () => {
    const funnel = await sell({ kind: 'pay-what-you-want', minimum: 300, suggested: 800 });
    const { buyer, html } = await at(funnel);
    expect(html).toContain('value="8.00"');
    for (const [chosen, words] of [
      ['2.99', 'smallest amount'],
      ['1.23.4,50', 'at most one decimal mark'],
      ['', 'what you would like to pay'],
    ] as const) {
      const refused = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { chosen });
      expect(refused).toMatchObject({ status: 422, body: { errors: { chosen: expect.stringContaining(words) } } });
    }
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { chosen: '12,50', shown: '1250', email: 'chose@moonmail.test' });
    expect(paid.status).toBe(200);
    expect((await orderOf('chose@moonmail.test')).charges).toMatchObject([{ amount: 1250 }]);
  });

  it('stay what they were in past orders, and an unknown price is refused', async () => {
    const funnel = await sell({ kind: 'one-time', regular: 5000 });
    const { buyer } = await at(funnel);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'past@moonmail.test' })).status).toBe(200);
    const before = await orderOf('past@moonmail.test');
    const product = await seller.read(`/products/${funnel.productId}`);
    product.editions[0].prices[0].price.regular = 9900;
    await seller.make(`/products/${funnel.productId}`, product, 'PUT');
    expect((await orderOf('past@moonmail.test')).quote).toEqual(before.quote);
    // What was sold stays, by hand and by file.
    const without = { ...product, editions: [namedEdition(newId, '', [{ kind: 'one-time', regular: 1 }])] };
    expect((await seller.send(`/products/${funnel.productId}`, without, 'PUT')).status).toBe(409);
    const file = JSON.stringify({ format: 'ruta-products', version: 1, currency: 'EUR', products: [without] });
    expect(await seller.make('/products/import', { format: 'json', text: file, apply: true })).toMatchObject({
      applied: false,
      problems: [{ message: expect.stringContaining('cannot be taken away') }],
    });
    const other = await at(funnel);
    const refused = await other.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { option: 'prc_000000000' });
    expect(refused).toMatchObject({ status: 422, body: { errors: { option: expect.stringContaining('not on sale') } } });
  });
});

describe('discount codes', () => {
  const code = (changes: object) => seller.make('/codes', { scope: { kind: 'order' }, discount: { kind: 'percent', percent: 20 }, ...changes });

  it('come with a link, are kept on the way, and say at their field why they do not hold', async () => {
    const funnel = await sell({ kind: 'one-time', regular: 5000 });
    await code({ code: 'twenty', until: Date.now() + 60_000 });
    await code({ code: 'OLD', until: Date.now() - 1 });
    const buyer = new Buyer(ruta.site);
    await buyer.get(`/${funnel.slug}?code=Twenty`);
    expect(await buyer.openCheckout(`/${funnel.slug}/checkout`)).toContain('−€10.00');
    const old = await buyer.json(`/pay/${funnel.checkout}/quote`, buyer.order({ code: 'old' }));
    expect(await old.json()).toMatchObject({ errors: { code: 'This code has ended.' }, quote: { dueToday: 5000 } });
    const none = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { code: 'nonsense' });
    expect(none).toMatchObject({ status: 422, body: { errors: { code: expect.stringContaining('not known') } } });
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { code: 'TWENTY', shown: '4000', email: 'link@moonmail.test' })).status).toBe(200);
    expect((await seller.rows('/codes')).find((row: { terms: { code: string } }) => row.terms.code === 'TWENTY')).toMatchObject({ uses: 1, paid: 4000 });
  });

  it('are used once when two buyers take the last one at once', async () => {
    const funnel = await sell({ kind: 'one-time', regular: 5000 });
    await code({ code: 'LAST', limit: 1 });
    const [a, b] = [await at(funnel), await at(funnel)];
    const pay = (buyer: Buyer, email: string, card = CARD.good) => buyer.pay(funnel.checkout, ruta.standinsUrl, card, { code: 'LAST', shown: '4000', email });
    const answers = await Promise.all([pay(a.buyer, 'a@moonmail.test'), pay(b.buyer, 'b@moonmail.test')]);
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(1);
    expect(answers.find((answer) => answer.status !== 200)?.body.errors).toMatchObject({ code: expect.stringContaining('used up') });
    expect((await seller.rows('/orders')).filter((order: { email: string }) => ['a@moonmail.test', 'b@moonmail.test'].includes(order.email))).toHaveLength(1);
    const third = await at(funnel);
    expect(await pay(third.buyer, 'c@moonmail.test')).toMatchObject({ status: 422, body: { errors: { code: 'This code has been used up.' } } });
  });

  it('are not made twice, and hold their own terms', async () => {
    await code({ code: 'ONCE' });
    expect((await seller.send('/codes', { code: 'once', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 5 } })).status).toBe(409);
    const wrong = await seller.send('/codes', { code: 'MUCH', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 120 } });
    expect(((await wrong.json()) as { errors: unknown }).errors).toEqual([{ path: 'discount.percent', message: expect.stringContaining('at most 100') }]);
  });
});

describe('a cart', () => {
  it('is kept once there is an address, and its link brings it back to anybody who has it', async () => {
    const funnel = await sell({ kind: 'one-time', regular: 5000 });
    const { buyer } = await at(funnel);
    const kept = await buyer.json(`/pay/${funnel.checkout}/contact`, buyer.order({ email: 'left@moonmail.test', firstName: 'Ilse', code: 'NEVER' }));
    expect(kept.status).toBe(200);
    const db = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
    const row = db.prepare(`SELECT token, lines, buyer, code FROM carts WHERE json_extract(buyer, '$.email') = 'left@moonmail.test'`).get() as Record<
      string,
      string
    >;
    db.close();
    expect(JSON.parse(row.lines ?? '')).toMatchObject([{ role: 'main', productId: funnel.productId, quantity: 1 }]);
    expect(row).toMatchObject({ code: 'NEVER', token: expect.stringMatching(/^.{24,}$/) });
    // On another device, from a mail.
    const elsewhere = new Buyer(ruta.site);
    const led = (await elsewhere.get(`/cart/${row.token}`)).headers.get('location') ?? '';
    expect(led).toBe(`/${funnel.slug}/checkout?cart=${row.token}`);
    const html = await elsewhere.openCheckout(led);
    expect(html).toContain('value="left@moonmail.test"');
    expect(html).toContain('value="Ilse"');
    expect((await elsewhere.get(`/cart/${'x'.repeat(24)}`)).status).toBe(404);
    expect((await elsewhere.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'left@moonmail.test' })).status).toBe(200);
  });
});

describe('stock', () => {
  it('is held for who pays, and the last piece is sold once', async () => {
    const funnel = await sell(
      { kind: 'one-time', regular: 5000 },
      { editions: [namedEdition(newId, '', [{ kind: 'one-time', regular: 5000 }], { stock: 1 })] },
    );
    const [a, b] = [await at(funnel), await at(funnel)];
    expect(a.html).not.toContain('sold out');
    // The first one is at their bank; the piece is theirs meanwhile.
    expect((await a.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.confirm, { email: 'slow@moonmail.test' })).status).toBe(200);
    expect(await b.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'fast@moonmail.test' })).toMatchObject({
      status: 409,
      body: { message: expect.stringContaining('sold out') },
    });
    expect((await a.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'slow@moonmail.test' })).status).toBe(200);
    expect((await seller.read(`/products/${funnel.productId}/use`)).editions).toMatchObject([{ sold: 1, left: 0 }]);
    // Sent once more, or come back to, it leads to the order that was paid.
    expect((await a.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'slow@moonmail.test' })).body.redirect).toContain('order=');
    expect(await a.buyer.visit(`/${funnel.slug}/checkout`)).toContain('You have already paid');
    const late = await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`);
    expect(late.status).toBe(410);
    expect(await late.text()).toContain('sold out');
  });
});

describe('a product that cannot be bought', () => {
  it('leads where the seller chose, from the page and from the form', async () => {
    const waiting = await sell({ kind: 'one-time', regular: 100 });
    const funnel = await sell({ kind: 'one-time', regular: 5000 });
    const { buyer } = await at(funnel);
    const product = await seller.read(`/products/${funnel.productId}`);
    await seller.make(`/products/${product.id}`, { ...product, closesAt: Date.now() - 1, leadTo: { kind: 'funnel', funnelId: waiting.id } }, 'PUT');
    for (const path of [`/${funnel.slug}`, `/${funnel.slug}/checkout`]) {
      const led = await new Buyer(ruta.site).get(path);
      expect([led.status, led.headers.get('location')]).toEqual([302, `/${waiting.slug}`]);
    }
    expect(await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good)).toMatchObject({ status: 409, body: { redirect: `/${waiting.slug}` } });
    await seller.make(`/products/${product.id}`, { ...product, status: 'off', leadTo: { kind: 'message', text: 'Back in May.' } }, 'PUT');
    expect(await (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text()).toContain('Back in May.');
  });
});

describe('a product that may be bought once', () => {
  it('is one that stays; what is used up may be bought again by itself', async () => {
    const made = async (changes: object) =>
      (await seller.make('/products', { ...selling('Kind of', { kind: 'one-time', regular: 500 }), buyAgain: undefined, ...changes })).buyAgain;
    expect([await made({ kind: 'digital' }), await made({ kind: 'physical' }), await made({ kind: 'service' })]).toEqual([false, true, true]);
    expect(await made({ kind: 'physical', buyAgain: false })).toBe(false);
  });

  it('is not sold twice to one address, unless it may be bought again', async () => {
    const funnel = await sell({ kind: 'one-time', regular: 5000 });
    const pay = async () => (await at(funnel)).buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'Twice@moonmail.test' });
    expect((await pay()).status).toBe(200);
    // The screen tells nobody who owns what; the mailbox does, with the way to it.
    const refused = await pay();
    expect(refused).toMatchObject({ status: 409, body: { message: expect.stringContaining('written to this address') } });
    expect(JSON.stringify(refused.body)).not.toMatch(/already|owns/);
    await until(
      async () => (await mails(ruta.standinsUrl, 'twice@moonmail.test')).some((mail) => mail.subject === 'You have Thing already'),
      'the owner is told',
    );
    expect((await seller.rows('/orders')).filter((order: { email: string }) => order.email === 'twice@moonmail.test')).toHaveLength(1);
    const product = await seller.read(`/products/${funnel.productId}`);
    await seller.make(`/products/${product.id}`, { ...product, buyAgain: true }, 'PUT');
    expect((await pay()).status).toBe(200);
  });
});

describe('delivery', () => {
  it('sends buyers to the outside address of the product, or of the price they chose, and enrols them in the course', async () => {
    await seller.make('/connections/studyporch', {});
    const funnel = await sell(
      [
        { kind: 'one-time', regular: 5000 },
        { kind: 'one-time', regular: 6000 },
      ],
      {
        confirmation: { kind: 'address', url: 'https://perigeelane.test/thanks' },
        delivery: { course: { courseId: 'first-light', url: 'https://studyporch.test/first-light' } },
      },
    );
    const product = await seller.read(`/products/${funnel.productId}`);
    const [, second] = product.editions[0].prices;
    second.confirmation = { kind: 'address', url: 'https://perigeelane.test/second' };
    await seller.make(`/products/${product.id}`, product, 'PUT');
    const first = await at(funnel);
    expect((await first.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'out1@moonmail.test' })).body.redirect).toBe(
      'https://perigeelane.test/thanks',
    );
    const other = await at(funnel, `?option=${second.id}`);
    const paid = await other.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { option: second.id, email: 'out2@moonmail.test' });
    expect(paid.body.redirect).toBe('https://perigeelane.test/second');
    await until(async () => (await (await fetch(ruta.standinsUrl)).text()).includes('out2@moonmail.test'), 'the course host knows the buyer');
    expect((await orderOf('out2@moonmail.test')).mails.map((mail: { subject: string }) => mail.subject)).toContain('Enrolment in the course first-light');
  });

  it('gives pasted keys once each, warns when they run out, and then sells no more', async () => {
    const funnel = await sell(
      { kind: 'one-time', regular: 5000 },
      {
        delivery: { keys: { kind: 'list', warnAt: 1 }, link: { words: 'Go in', url: 'https://perigeelane.test/in' } },
        confirmation: { kind: 'page', text: 'Look up.', buttonWords: 'Hello', buttonUrl: 'https://perigeelane.test/hello' },
      },
    );
    expect((await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).status).toBe(410);
    expect(await seller.make(`/products/${funnel.productId}/keys`, { keys: 'KEY-A\nKEY-B\n\nKEY-A' })).toEqual({ added: 2, repeated: 1 });
    const seen: string[] = [];
    for (const email of ['one@moonmail.test', 'two@moonmail.test']) {
      const { buyer } = await at(funnel);
      const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email });
      const thanks = await buyer.visit((paid.body.redirect ?? '').replace(ruta.site, ''));
      expect(thanks).toContain('Look up.');
      expect(thanks).toContain('href="https://perigeelane.test/in"');
      const order = await orderOf(email);
      seen.push(...order.keys.map((key: { value: string }) => key.value));
      expect(thanks).toContain(seen.at(-1));
      await until(async () => (await mails(ruta.standinsUrl, email)).length === 1, 'the receipt arrives');
      expect((await mails(ruta.standinsUrl, email))[0].text).toMatch(/Look up\.[\s\S]*Your key for Thing: KEY-/);
    }
    expect(seen.sort()).toEqual(['KEY-A', 'KEY-B']);
    // The last key is held for who is paying; nobody else pays for a key that is not there.
    await seller.make(`/products/${funnel.productId}/keys`, { keys: 'KEY-C' });
    const [slow, fast] = [await at(funnel), await at(funnel)];
    expect((await slow.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.confirm, { email: 'three@moonmail.test' })).status).toBe(200);
    expect((await fast.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'four@moonmail.test' })).status).toBe(409);
    expect((await slow.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'three@moonmail.test' })).status).toBe(200);
    expect((await orderOf('three@moonmail.test')).keys).toMatchObject([{ value: 'KEY-C' }]);
    expect((await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).status).toBe(410);
    await until(
      async () => (await mails(ruta.standinsUrl, 'ines@perigeelane.test')).some((mail) => mail.subject.startsWith('No licence keys are left')),
      'the seller is warned',
    );
  });

  it('brings every part of a bundle in its own way, and counts the parts’ stock', async () => {
    const stored = (await (await seller.upload('downloads', 'book.pdf', 'the book')).json()) as { id: string };
    const book = await seller.make('/products', selling('Book', { kind: 'one-time', regular: 1200 }, { taxClass: 'digital' }));
    await seller.make(`/products/${book.id}/files`, { files: [{ id: stored.id }] }, 'PUT');
    const keyed = selling('Key', { kind: 'one-time', regular: 4800 }, { delivery: { keys: { kind: 'pattern', pattern: 'SKY-####-****' } } });
    keyed.editions[0] = { ...(keyed.editions[0] as (typeof keyed.editions)[number]), stock: 5 };
    const key = await seller.make('/products', keyed);
    const bundle = [book, key].map((part) => ({ productId: part.id, editionId: part.editions[0].id, quantity: part === key ? 2 : 1 }));
    const funnel = await sell({ kind: 'one-time', regular: 6000 }, { bundle });
    const { buyer } = await at(funnel);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'both@moonmail.test' })).status).toBe(200);
    const order = await orderOf('both@moonmail.test');
    expect(order.files.map((file: { name: string }) => file.name)).toEqual(expect.arrayContaining(['book.pdf']));
    // The order page, the receipt and the notice name what is in it.
    const told = 'with Book, Key × 2';
    expect(await (await buyer.get(order.orderUrl)).text()).toContain(told);
    await until(async () => (await mails(ruta.standinsUrl, 'both@moonmail.test')).length > 0, 'the receipt arrives');
    expect((await mails(ruta.standinsUrl, 'both@moonmail.test'))[0].html).toContain(told);
    await until(
      async () => (await mails(ruta.standinsUrl, 'ines@perigeelane.test')).some((mail) => mail.subject.includes(`Sold: Thing ${told}`)),
      'the notice names them',
    );
    expect(order.keys).toHaveLength(2);
    for (const { value } of order.keys) expect(value).toMatch(/^SKY-\d{4}-[A-Z2-9]{4}$/);
    expect((await seller.read(`/products/${key.id}/use`)).editions).toMatchObject([{ sold: 2, left: 3 }]);
    // 60.00 over 12.00 : 96.00, NL 9 % and 21 %
    expect(order.quote.lines[0].taxShares).toMatchObject([
      { taxClass: 'digital', base: 667 },
      { taxClass: 'standard', base: 5333 },
    ]);
    expect((await seller.send(`/products/${book.id}/archived`, { archived: true }, 'PUT')).status).toBe(409);
  });

  it('asks for an address where something is sent, and knows where parcels go', async () => {
    const blocked = await seller.send(
      '/shop/shipping-table',
      { shippingTable: [{ name: 'A', countries: ['NL', 'NL'], rate: { kind: 'flat', amount: 500 } }] },
      'PUT',
    );
    expect(blocked.status).toBe(400);
    await seller.make('/shop/shipping-table', { shippingTable: [{ name: 'Near', countries: ['NL'], rate: { kind: 'flat', amount: 500 } }] }, 'PUT');
    const funnel = await sell({ kind: 'one-time', regular: 2400 }, { kind: 'physical' });
    const { buyer, html } = await at(funnel);
    expect(html).toContain('Shipping to Netherlands');
    expect(await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good)).toMatchObject({
      status: 422,
      body: { errors: { street: expect.any(String), city: expect.any(String), lastName: expect.any(String) } },
    });
    const where = { lastName: 'Vos', street: 'Kade 1', postcode: '1011 AB', city: 'Amsterdam', email: 'sent@moonmail.test' };
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, where)).status).toBe(200);
    expect(await orderOf('sent@moonmail.test')).toMatchObject({
      buyer: { address: { street: 'Kade 1' } },
      quote: { dueToday: 2900, shipping: { total: 500 } },
    });
    const far = await at(funnel);
    expect(await far.buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { ...where, country: 'US' })).toMatchObject({
      status: 422,
      body: { errors: { country: expect.stringContaining('not sell') } },
    });
  });

  it('asks for an address and shipping with the edition that is shipped, not with the other', async () => {
    await seller.make('/shop/shipping-table', { shippingTable: [{ name: 'Near', countries: ['NL'], rate: { kind: 'flat', amount: 500 } }] }, 'PUT');
    const funnel = await sell({ kind: 'one-time', regular: 13_800 });
    const product = await seller.read(`/products/${funnel.productId}`);
    const [course] = product.editions;
    const kit = {
      ...course,
      id: newId('edition'),
      name: 'With kit',
      kind: 'physical',
      weight: 450,
      prices: [{ ...course.prices[0], id: newId('price'), price: { kind: 'one-time', regular: 21_200 } }],
    };
    await seller.make(`/products/${product.id}`, { ...product, editions: [{ ...course, name: 'Course' }, kit] }, 'PUT');
    const { buyer } = await at(funnel);
    const option = kit.prices[0].id;
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'course@moonmail.test' })).status).toBe(200);
    expect((await orderOf('course@moonmail.test')).quote.shipping).toBeNull();
    const other = (await at(funnel)).buyer;
    expect(await other.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { option, email: 'kit@moonmail.test', shown: '21700' })).toMatchObject({
      status: 422,
      body: { errors: { street: expect.any(String) } },
    });
    const where = { lastName: 'Vos', street: 'Kade 1', postcode: '1011 AB', city: 'Amsterdam', email: 'kit@moonmail.test', option, shown: '21700' };
    expect((await other.pay(funnel.checkout, ruta.standinsUrl, CARD.good, where)).status).toBe(200);
    expect(await orderOf('kit@moonmail.test')).toMatchObject({
      buyer: { address: { street: 'Kade 1' } },
      quote: { dueToday: 21_700, shipping: { total: 500, weight: 450 } },
    });
  });

  it('charges a business elsewhere in the union without tax, by a number that is right', async () => {
    const funnel = await sell({ kind: 'one-time', regular: 12_100 });
    const { buyer } = await at(funnel);
    const business = { country: 'LU', taxNumber: 'LU12345613', email: 'firm@moonmail.test' };
    expect(await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { ...business, taxNumber: 'LU12345614' })).toMatchObject({ status: 422 });
    // 121.00 holds 121 × 17 ÷ 117 = 17.58
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { ...business, shown: '10342' })).status).toBe(200);
    expect(await orderOf('firm@moonmail.test')).toMatchObject({ buyer: { taxNumber: 'LU12345613' }, quote: { reverseCharge: true, tax: 0, dueToday: 10_342 } });
  });
});
