import type { Condition } from '@ruta/core/conditions';
import Database from 'better-sqlite3';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { selling } from './support/products';

let ruta: Installation;
let seller: Seller;
type Funnel = Awaited<ReturnType<Seller['sellingFunnel']>>;
let light: Funnel;
let guide: Funnel;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  light = await seller.sellingFunnel({ price: 10_000 });
  const { editions, ...product } = selling('Sky Guide', { kind: 'one-time', regular: 2000 }, { label: 'Blue cover', buyAgain: true });
  guide = await seller.sellingFunnel({ product: { ...product, editions: editions.map((edition) => ({ ...edition, sku: 'SKY-204%' })) } });
});
afterAll(() => ruta.stop());

async function buys(email: string, ...funnels: Funnel[]): Promise<void> {
  const buyer = new Buyer(ruta.site);
  for (const funnel of funnels) {
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email });
  }
}

describe('contacts', () => {
  const owns = (funnel: Funnel): Condition => ({ fact: 'owned', what: { by: 'product', productId: funnel.productId } });
  const asked = (condition: Condition, more = '') => `condition=${encodeURIComponent(JSON.stringify(condition))}${more}`;
  const whoIs = async (condition: Condition) =>
    (await seller.rows(`/contacts?${asked(condition)}`)).map(({ email }: { email: string }) => email.split('@')[0]).toSorted();

  beforeAll(async () => {
    await buys('anna@moonmail.test', light);
    await buys('bert@moonmail.test', light, guide);
    await buys('carl@moonmail.test', guide);
    await buys('dora@moonmail.test', light);
    await seller.changeShop({ mode: 'test' });
    await buys('carl@moonmail.test', light);
    await seller.changeShop({ mode: 'live' });
    const [anna] = await seller.rows('/contacts?search=anna');
    await seller.make(`/contacts/${anna.id}/tags`, { tags: ['friend'] }, 'PUT');
  });

  it('are filtered by what they bought and what they did not, in live mode', async () => {
    expect(await whoIs(owns(light))).toEqual(['anna', 'bert', 'dora']);
    expect(await whoIs({ all: [owns(light), { not: owns(guide) }] })).toEqual(['anna', 'dora']);
    expect(await whoIs({ any: [owns(guide), { fact: 'tag', tag: 'friend' }] })).toEqual(['anna', 'bert', 'carl']);
    expect(await whoIs({ not: { any: [owns(light), owns(guide)] } })).toEqual([]);
    // What only an order can tell is not known of a contact.
    expect(await whoIs({ fact: 'bought', what: { by: 'product', productId: light.productId } })).toEqual([]);
    const { id } = await seller.orderOf('dora@moonmail.test');
    const [line] = (await seller.read(`/orders/${id}`)).lines;
    const wanted = { id: 'rfd_asked00001', lines: [{ id: line.id, amount: line.total }], way: 'processor', reason: '', takesBack: true, tells: false };
    await seller.make(`/orders/${id}/refunds`, wanted);
    await until(async () => (await seller.read(`/orders/${id}`)).state === 'refunded', 'it is refunded');
    expect(await whoIs(owns(light))).toEqual(['anna', 'bert']);
  });

  it('are counted, paged and exported just as they are shown', async () => {
    const condition: Condition = { any: [owns(light), owns(guide)] };
    expect(await seller.read(`/contacts/count?${asked(condition)}`)).toEqual({ count: 3 });
    const first = await seller.read(`/contacts?${asked(condition, '&limit=2&sort=email&direction=asc')}`);
    const second = await seller.read(`/contacts?${asked(condition, `&limit=2&sort=email&direction=asc&after=${first.next}`)}`);
    expect([...first.rows, ...second.rows].map(({ email }: { email: string }) => email)).toEqual([
      'anna@moonmail.test',
      'bert@moonmail.test',
      'carl@moonmail.test',
    ]);
    expect(second.next).toBeNull();
    const csv = await (await seller.get(`/api/contacts/export?${asked(condition, '&sort=email&direction=desc&search=r')}`)).text();
    const { data } = Papa.parse<Record<string, string>>(csv.replace('\uFEFF', '').trim(), { header: true });
    expect(data.map(({ email, orders, paid }) => [email, orders, paid])).toEqual([
      ['carl@moonmail.test', '1', '20.00'],
      ['bert@moonmail.test', '2', '120.00'],
    ]);
    const bad = await seller.get('/api/contacts?condition=%7B%22fact%22');
    expect([bad.status, await bad.text()]).toEqual([400, expect.stringContaining('This filter cannot be read. Choose it anew.')]);
  });
});

describe('products', () => {
  it('are found by label and SKU in every list, and by no word of how they are kept', async () => {
    await buys('label@moonmail.test', guide);
    const names = async (list: string, search: string) => {
      const rows = await seller.rows(`/${list}?search=${encodeURIComponent(search)}`);
      return [...new Set(rows.map((row: { name?: string; goods?: string }) => row.goods ?? row.name))];
    };
    for (const search of ['blue COVER', 'sky-204%', '-204']) {
      expect([search, await names('products', search)]).toEqual([search, ['Sky Guide']]);
      expect([search, await names('orders', search)]).toEqual([search, ['Sky Guide']]);
    }
    for (const search of ['prices', 'regular', 'stock', 'sku', '%%']) {
      expect([search, await names('products', search)]).toEqual([search, []]);
      expect([search, await names('orders', search)]).toEqual([search, []]);
    }
  });
});

describe('carts', () => {
  const carts = (query = '') => seller.rows(`/carts${query}`);
  /** So long ago the cart of somebody was changed for the last time. */
  const age = (email: string, minutes: number) => {
    const raw = new Database(`${ruta.data}/shop.sqlite`);
    raw.prepare("UPDATE carts SET updated_at = ? WHERE json_extract(buyer, '$.email') = ?").run(Date.now() - minutes * 60_000, email);
    raw.close();
  };
  const leave = async (email: string, funnel: Funnel, changes: Record<string, string> = {}) => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    await buyer.json(`/pay/${funnel.checkout}/contact`, buyer.order({ email, ...changes }));
    return buyer;
  };

  it('are abandoned an hour after they were last changed, not before, and no longer once they are paid', async () => {
    const buyer = await leave('soon@moonmail.test', light);
    expect(await carts('?search=soon')).toEqual([]);
    age('soon@moonmail.test', 59);
    expect(await carts('?search=soon')).toEqual([]);
    age('soon@moonmail.test', 61);
    expect(await carts('?search=soon')).toMatchObject([{ email: 'soon@moonmail.test', goods: 'First Light', total: 10_000 }]);
    expect((await seller.read('/today')).needs).toContainEqual(expect.objectContaining({ title: '1 abandoned cart since yesterday' }));
    await buyer.openCheckout(`/${light.slug}/checkout`);
    await buyer.pay(light.checkout, ruta.standinsUrl, CARD.good, { email: 'soon@moonmail.test' });
    age('soon@moonmail.test', 61);
    expect(await carts('?search=soon')).toEqual([]);
  });

  it('tell what they came to, by day and funnel, and go out as they are shown', async () => {
    await leave('one@moonmail.test', light);
    await leave('two@moonmail.test', guide, { quantity: '1' });
    await leave('three@moonmail.test', light);
    age('one@moonmail.test', 90);
    age('two@moonmail.test', 90);
    age('three@moonmail.test', 60 * 24 * 3);
    expect(await seller.read('/carts/count')).toEqual({ count: 3, total: 22_000 });
    expect(await seller.read(`/carts/count?funnelId=${light.id}`)).toEqual({ count: 2, total: 20_000 });
    const day = new Date(Date.now() - 36 * 60 * 60 * 1000).toISOString().slice(0, 10);
    expect(await seller.read(`/carts/count?from=${day}`)).toEqual({ count: 2, total: 12_000 });
    expect(await seller.read(`/carts/count?until=${day}&funnelId=${light.id}`)).toEqual({ count: 1, total: 10_000 });
    expect((await seller.get('/api/carts?from=yesterday')).status).toBe(400);
    expect((await carts('?search=sky-204')).map(({ email }: { email: string }) => email)).toEqual(['two@moonmail.test']);
    expect(await seller.read('/carts/count?search=first%20light')).toEqual({ count: 2, total: 20_000 });
    const csv = await (await seller.get(`/api/carts/export?from=${day}`)).text();
    const { data } = Papa.parse<Record<string, string>>(csv.replace('\uFEFF', '').trim(), { header: true });
    expect(data.map(({ email, items, total, currency, funnel }) => [email, items, total, currency, funnel]).toSorted()).toEqual([
      ['one@moonmail.test', 'First Light', '100.00', 'EUR', 'Straight'],
      ['two@moonmail.test', 'Sky Guide', '20.00', 'EUR', 'Straight'],
    ]);
    const led = await new Buyer(ruta.site).get(new URL(data[0]?.recovery_link ?? '').pathname);
    expect(led.headers.get('location')).toMatch(/\/checkout\?cart=/);
  });
});
