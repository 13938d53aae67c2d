import Database from 'better-sqlite3';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Together } from '../src/base/together';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { selling } from './support/products';
import { testServices } from './support/services';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
});
afterAll(() => ruta.stop());

const cartOf = (html: string) => /name="cart" value="([^"]+)"/.exec(html)?.[1] ?? '';

describe('a checkout page that is put together once for many', () => {
  it('gives each their own cart, and shows nobody what somebody else has typed', async () => {
    const address = `/${funnel.slug}/checkout`;
    const carts = new Set<string>();
    for (let index = 0; index < 5; index++) carts.add(cartOf(await (await new Buyer(ruta.site).get(address)).text()));
    expect([...carts].every((cart) => /^crt_[0-9a-z]{6,32}$/.test(cart))).toBe(true);
    expect(carts.size).toBe(5);
    const ilse = new Buyer(ruta.site);
    await ilse.openCheckout(address);
    await ilse.json(`/pay/${funnel.checkout}/contact`, ilse.order({ email: 'ilse@moonmail.test', firstName: 'Ilse' }));
    expect(await (await ilse.get(address)).text()).toContain('ilse@moonmail.test');
    const other = await (await new Buyer(ruta.site).get(address)).text();
    expect(other).not.toMatch(/ilse|Ilse/);
    // Her own cart is the one that she began.
    expect(cartOf(await (await ilse.get(address)).text())).toBe(ilse.order().cart);
  });

  it('changes at once with what it is made from', async () => {
    const price = async () => /data-total="">([^<]+)</.exec(await (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text())?.[1];
    expect(await price()).toBe('€138.00');
    const product = await seller.read(`/products/${funnel.productId}`);
    product.editions[0].prices[0].price.regular = 15_000;
    const { id: _id, createdAt: _created, updatedAt: _updated, archivedAt: _archived, files: _files, pictures: _pictures, ...input } = product;
    await seller.make(`/products/${funnel.productId}`, input, 'PUT');
    expect(await price()).toBe('€150.00');
  });

  it('answers a stranger’s body at the door in words, as anywhere', async () => {
    const ask = (body: string, headers: Record<string, string> = {}) =>
      new Buyer(ruta.site).request(`/pay/${funnel.checkout}/quote`, { method: 'POST', body, headers: { 'content-type': 'application/json', ...headers } });
    const told = async (response: Response) => [response.status, ((await response.json()) as { title?: string; message?: string }).title];
    expect(await told(await ask('{"cart":'))).toEqual([400, 'The body is not valid JSON.']);
    expect(await told(await ask(JSON.stringify({ cart: 'x'.repeat(40_000) })))).toEqual([413, 'This is too large: at most 32 kB can be sent here.']);
    expect(await told(await ask('{}', { 'content-type': 'text/plain' }))).toEqual([415, 'Send JSON.']);
    expect((await told(await ask('{}', { 'content-type': 'application/json; charset=klingon' })))[0]).toBe(415);
    expect((await told(await ask('{}', { 'content-encoding': 'gzip' })))[0]).toBe(415);
    for (const body of ['null', '[]', '7', '"x"', '{"__proto__":{"x":1},"country":["NL"]}']) expect((await ask(body)).status, body).toBe(200);
    expect((await new Buyer(ruta.site).json('/pay/stp_nothing/quote', {})).status).toBe(404);
  });
});

describe('carts of the same moment', () => {
  it('are all kept before anybody is told so, also when the server then ends at once', async () => {
    const buyers = await Promise.all(
      Array.from({ length: 30 }, async () => {
        const buyer = new Buyer(ruta.site);
        await buyer.openCheckout(`/${funnel.slug}/checkout`);
        return buyer;
      }),
    );
    const answers = await Promise.all(
      buyers.map((buyer, index) => buyer.json(`/pay/${funnel.checkout}/contact`, buyer.order({ email: `many${index}@moonmail.test` }))),
    );
    await ruta.killServer();
    expect(answers.map(({ status }) => status)).toEqual(Array(30).fill(200));
    const database = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
    expect(database.prepare("SELECT count(*) AS kept FROM carts WHERE buyer LIKE '%many%'").get()).toEqual({ kept: 30 });
    database.close();
    await ruta.startServer();
  });

  it('are written with one commit, and one that fails keeps none of the others from it', async () => {
    const services = testServices();
    const { db } = services;
    db.run(sql`CREATE TABLE tried (id INTEGER PRIMARY KEY)`);
    const together = new Together(db);
    const add = (id: number) => together.write(() => db.run(sql`INSERT INTO tried VALUES (${id})`).changes);
    const results = await Promise.allSettled([add(1), add(2), add(1), add(3)]);
    expect(results.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'fulfilled']);
    expect(db.all(sql`SELECT id FROM tried`)).toEqual([{ id: 1 }, { id: 2 }, { id: 3 }]);
    // Within one, a transaction of its own is undone by itself.
    const nested = together.write(() =>
      db.transaction((tx) => {
        tx.run(sql`INSERT INTO tried VALUES (4)`);
        throw new Error('thought better of it');
      }),
    );
    await expect(Promise.all([nested, add(5)])).rejects.toThrow('thought better of it');
    await add(6);
    expect(db.all(sql`SELECT count(*) AS count FROM tried WHERE id > 3`)).toEqual([{ count: 2 }]);
    services.end();
  });
});

describe('counters beside the orders', () => {
  it('are the same as what is counted from the orders’ lines', async () => {
    const counted = selling('Counted chart', { kind: 'one-time', regular: 2000 }, { buyAgain: true });
    const [edition] = counted.editions;
    const own = await seller.sellingFunnel({ product: { ...counted, editions: [{ ...edition, stock: 5 }] } });
    for (let index = 0; index < 2; index++) {
      const buyer = new Buyer(ruta.site);
      await buyer.openCheckout(`/${own.slug}/checkout`);
      expect((await buyer.pay(own.checkout, ruta.standinsUrl, CARD.good, { email: `counted${index}@moonmail.test` })).status).toBe(200);
    }
    const row = (await seller.rows('/products?search=Counted')).at(0);
    expect([row.left, row.gone]).toEqual([3, null]);
    const database = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
    const kept = database.prepare('SELECT edition_id, mode, sold FROM edition_sales ORDER BY edition_id').all();
    const anew = database
      .prepare(
        "SELECT l.edition_id, o.mode, sum(l.quantity) AS sold FROM order_lines l JOIN orders o ON o.id = l.order_id WHERE l.edition_id IS NOT NULL AND l.part <> 'set-up fee' GROUP BY 1, 2 ORDER BY 1",
      )
      .all();
    database.close();
    expect(kept.length).toBeGreaterThan(0);
    expect(kept).toEqual(anew);
  });
});
