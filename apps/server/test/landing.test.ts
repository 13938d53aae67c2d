import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, formOn, Seller } from './support/clients';
import { Installation } from './support/installation';
import { selling } from './support/products';

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());

describe('a landing page', () => {
  it('says that what it leads to is sold out, or not on sale, before anybody types a card', async () => {
    const [edition] = selling('Last one', { kind: 'one-time', regular: 4000 }).editions;
    const funnel = await seller.sellingFunnel({
      product: { ...selling('Last one', { kind: 'one-time', regular: 4000 }), editions: [{ ...edition, stock: 1 }] },
    });
    const landing = async () => (await new Buyer(ruta.site).get(`/${funnel.slug}`)).text();
    expect(await landing()).not.toContain('class="gone-strip"');
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good)).status).toBe(200);
    // Touching the shop has pages made anew at once; by themselves they are within half a minute.
    await seller.changeShop({ name: 'Perigee Lane, still' });
    const html = await landing();
    expect(html).toContain('role="status">Last one is sold out.');
    expect(html).toContain('https://schema.org/SoldOut');
    // And nowhere beside it that one is left.
    expect(html).not.toContain('Only 1 left');
    const row = (await seller.rows('/products?search=Last')).at(0);
    expect([row.left, row.gone]).toEqual([0, 'sold-out']);
    const product = await seller.read(`/products/${funnel.productId}`);
    const { id: _id, createdAt: _created, updatedAt: _updated, archivedAt: _archived, files: _files, pictures: _pictures, ...input } = product;
    await seller.make(`/products/${funnel.productId}`, { ...input, status: 'off' }, 'PUT');
    expect(await landing()).toContain('Last one is not on sale at the moment.');
  });

  it('is sold out where its licence keys are, and the list of products says the same', async () => {
    const keyed = selling('Keyed chart', { kind: 'one-time', regular: 3000 }, { delivery: { keys: { kind: 'list', warnAt: 1 } }, buyAgain: true });
    const funnel = await seller.sellingFunnel({ product: keyed });
    const row = async () => (await seller.rows('/products?search=Keyed')).at(0);
    expect(await row()).toMatchObject({ left: 0, gone: 'sold-out' });
    await seller.make(`/products/${funnel.productId}/keys`, { keys: 'KEY-1\nKEY-2' });
    expect(await row()).toMatchObject({ left: 2, gone: null });
    for (const left of [1, 0]) {
      const buyer = new Buyer(ruta.site);
      await buyer.openCheckout(`/${funnel.slug}/checkout`);
      expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: `keyed${left}@moonmail.test` })).status).toBe(200);
      expect(await row()).toMatchObject({ left, gone: left === 0 ? 'sold-out' : null });
    }
    expect(await (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text()).toContain('Keyed chart is sold out.');
  });

  it('says after its gift that the gift is on its way, once, and to nobody else', async () => {
    const funnel = await seller.sellingFunnel({ gift: true });
    const { page } = await seller.read(`/steps/${funnel.entry}/page`);
    const form = formOn(page);
    const reader = new Buyer(ruta.site);
    await reader.visit(`/${funnel.slug}`);
    const answer = await reader.form(`/go/${funnel.entry}/form`, { _form: form, firstName: 'Vera', email: 'vera@moonmail.test' });
    const next = answer.headers.get('location') ?? '';
    expect(next).toContain('gift=sent');
    expect(await (await reader.get(next)).text()).toContain('Your gift is on its way.');
    expect(await (await new Buyer(ruta.site).get(next.replace('?gift=sent', ''))).text()).not.toContain('Your gift is on its way.');
    // A machine is led on like everybody, but gets no gift.
    const machine = await new Buyer(ruta.site).form(`/go/${funnel.entry}/form`, { _form: form, firstName: 'M', email: 'm@moonmail.test', website: 'x' });
    expect(machine.headers.get('location')).not.toContain('gift=sent');
  });
});

describe('a checkout', () => {
  it('leads to the terms that the shop has written, and to none before', async () => {
    const funnel = await seller.sellingFunnel();
    const checkout = async () => (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text();
    expect(await checkout()).not.toContain('href="/terms"');
    expect((await new Buyer(ruta.site).get('/terms')).status).toBe(404);
    await seller.changeShop({ terms: 'Files are yours to keep.\n\n<b>Money back</b> within 30 days.' });
    expect(await checkout()).toContain('By paying you accept the <a href="/terms">terms</a>.');
    const terms = await (await new Buyer(ruta.site).get('/terms')).text();
    expect(terms).toContain('Files are yours to keep.');
    expect(terms).toContain('&lt;b&gt;Money back&lt;/b&gt;');
  });

  it('asks businesses for their number where the shop sells to them, and says what tax is taken off', async () => {
    const funnel = await seller.sellingFunnel();
    const checkout = async () => (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text();
    expect(await checkout()).not.toContain('name="taxNumber"');
    await seller.changeShop({ sellsToBusinesses: true });
    expect(await checkout()).toContain('name="taxNumber"');
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const { quote } = (await (await buyer.json(`/pay/${funnel.checkout}/quote`, buyer.order({ country: 'NL', taxNumber: 'NL123456782B12' }))).json()) as {
      quote: { html: string; dueToday: number };
    };
    // €138.00 with 21 % in it are €114.05 without.
    expect(quote.dueToday).toBe(11_405);
    expect(quote.html).toContain('Tax taken off (reverse charge)');
    expect(quote.html).toContain('−€23.95');
  });

  it('says what all instalments come to together', async () => {
    const funnel = await seller.sellingFunnel({
      product: selling('By parts', { kind: 'instalments', regular: 18_000, count: 4, interval: { every: 1, unit: 'month' } }),
    });
    const html = await (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text();
    expect(html).toMatch(/All payments together<\/th><td>€180\.00/);
  });
});
