import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from './support/clients';
import { Installation } from './support/installation';
import { selling } from './support/products';

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  // A shop that has sold for a while: a bundle, several prices, what is sent and what is downloaded.
  const [book, print] = [
    await seller.make('/products', selling('Book', { kind: 'one-time', regular: 1200 }, { taxClass: 'digital', tags: ['read'] })),
    await seller.make('/products', selling('Print', { kind: 'one-time', regular: 2400, sale: { amount: 1900 } }, { kind: 'physical' })),
  ];
  const parts = [book, print].map((part) => ({ productId: part.id, editionId: part.editions[0].id, quantity: 1 }));
  await seller.make('/products', selling('Both', { kind: 'one-time', regular: 3000 }, { bundle: parts }));
  const monthly = { every: 1, unit: 'month' as const };
  await seller.make(
    '/products',
    selling('Club', [
      { kind: 'subscription', regular: 900, interval: monthly, charges: null },
      { kind: 'instalments', regular: 9000, count: 3, interval: monthly },
    ]),
  );
  const course = selling('Course', { kind: 'one-time', regular: 13_800 });
  const [plain] = course.editions;
  if (!plain) throw new Error('there is no edition');
  const kit = { ...selling('Kit', { kind: 'one-time', regular: 21_200 }).editions[0], name: 'With kit', kind: 'physical', taxClass: 'reduced', weight: 450 };
  await seller.make('/products', { ...course, editions: [{ ...plain, name: 'Course' }, kit] });
  await seller.make('/codes', { code: 'NIGHT', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 15 } });
});
afterAll(() => ruta.stop());

describe('files in and out', () => {
  const imported = (text: string, apply: boolean, format = 'csv') => seller.make('/products/import', { format, text, apply });

  it('tell of an SKU that would stand on several products, and take them all the same', async () => {
    const text = 'name,price_kind,regular,sku\r\nTorch A,one-time,19,TO-9\r\nTorch B,one-time,19,to-9\r\n';
    expect(await imported(text, false)).toMatchObject({ added: 2, problems: [], notes: ['The SKU TO-9 is on “Torch A” and “Torch B”.'] });
  });
  const exported = async (path: string) => (await seller.get(`/api${path}`)).text();

  it('come back equal, and change nothing on the way', async () => {
    for (const format of ['csv', 'json']) {
      const text = await exported(`/products/export/${format}`);
      const report = await imported(text, true, format);
      expect(report).toMatchObject({ added: 0, changed: 0, problems: [], applied: true });
      expect(report.same).toBe(5);
      expect(await exported(`/products/export/${format}`)).toBe(text);
    }
    const codes = await exported('/codes/export');
    await seller.make('/codes/import', { text: codes, apply: true });
    expect(await exported('/codes/export')).toBe(codes);
  });

  it('are looked at first, and brought in whole or not at all', async () => {
    const good = 'name,price_kind,regular\nNew one,one-time,5\nNew two,one-time,6\n';
    const names = async () => (await seller.rows('/products')).map((product: { name: string }) => product.name);
    expect(await imported(good, false)).toMatchObject({ added: 2, applied: false });
    expect(await names()).not.toContain('New one');
    const bad = await imported(`${good}New three,one-time,"1.23.4,50"\n`, true);
    expect(bad).toMatchObject({ applied: false, problems: [{ line: 4, column: 'regular' }] });
    expect(await names()).not.toContain('New one');
    expect(await imported(good, true)).toMatchObject({ added: 2, applied: true });
    expect(await names()).toEqual(expect.arrayContaining(['New one', 'New two']));
  });

  it('change many products at once, or none', async () => {
    const ids = (await seller.rows('/products')).slice(0, 2).map((product: { id: string }) => product.id);
    expect(await seller.make('/products/bulk', { ids, change: { addTags: ['spring'], status: 'test' } })).toEqual({
      changed: 2,
      undo: [{ ids, change: { status: 'live', removeTags: ['spring'] } }],
    });
    const [first] = await seller.rows('/products');
    expect(first).toMatchObject({ status: 'test', tags: ['spring'] });
    expect((await seller.send('/products/bulk', { ids: [...ids, 'prd_000000000'], change: { status: 'off' } })).status).toBe(409);
    expect((await seller.rows('/products'))[0].status).toBe('test');
    const copy = await seller.make(`/products/${ids[0]}/duplicate`, {});
    expect(copy).toMatchObject({ status: 'off', label: 'New one (copy)', tags: ['spring'] });
  });
});
