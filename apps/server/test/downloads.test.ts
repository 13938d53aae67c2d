import { readdirSync, truncateSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { selling } from './support/products';

const LESSON = 'the lesson itself';
let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  const product = selling('First Light', { kind: 'one-time', regular: 13_800 }, { buyAgain: true });
  funnel = await seller.sellingFunnel({ product: { ...product, delivery: { ...product.delivery, maxDownloads: 2 } } });
});
afterAll(() => ruta.stop());

async function bought(email: string) {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email });
  const { orderUrl, id } = await seller.orderOf(email);
  const page = await (await buyer.request(new URL(orderUrl).pathname)).text();
  const file = /href="[^"]*(\/d\/[^"]+)"/.exec(page)?.[1]?.replaceAll('&amp;', '&') ?? '';
  const fetched = async () => (await seller.read(`/orders/${id}/delivery`)).files[0].downloads;
  return { buyer, file, fetched };
}

it('a file that is asked after, or comes in pieces, is fetched once', async () => {
  const { buyer, file, fetched } = await bought('pieces@moonmail.test');
  for (let asked = 0; asked < 3; asked++) {
    const head = await buyer.request(file, { method: 'HEAD' });
    expect([head.status, head.headers.get('content-length')]).toEqual([200, String(LESSON.length)]);
  }
  expect(await fetched()).toBe(0);
  const piece = async (range: string, by = buyer) => {
    const response = await by.request(file, { headers: { range } });
    return [response.status, await response.text()];
  };
  expect(await piece('bytes=0-2')).toEqual([206, 'the']);
  expect(await piece('bytes=3-')).toEqual([206, ' lesson itself']);
  expect(await piece('bytes=0-')).toEqual([206, LESSON]);
  expect(await fetched()).toBe(1);
  // A piece that somebody else asks for, who has begun nothing, is their own download.
  const friend = new Buyer(ruta.site);
  expect(await piece('bytes=4-9', friend)).toEqual([206, 'lesson']);
  expect(await fetched()).toBe(2);
  // As often as it may be; whoever has begun may still finish.
  expect((await buyer.get(file)).status).toBe(410);
  expect((await piece('bytes=4-9', new Buyer(ruta.site)))[0]).toBe(410);
  expect(await piece('bytes=10-')).toEqual([206, ' itself']);
});

it('a file that was cut short on the disk is handed out to nobody, and counts for nobody', async () => {
  const { buyer, file, fetched } = await bought('cut@moonmail.test');
  const [name = ''] = readdirSync(path.join(ruta.data, 'files'));
  const stored = path.join(ruta.data, 'files', name);
  truncateSync(stored, 5);
  const refused = await buyer.get(file);
  expect([refused.status, await refused.text()]).toEqual([503, expect.stringContaining('It is not whole where we keep it')]);
  expect(await fetched()).toBe(0);
  writeFileSync(stored, LESSON);
  expect(await (await buyer.get(file)).text()).toBe(LESSON);
});
