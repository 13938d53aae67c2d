import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, formOn, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { LEGAL } from './support/legal';
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

describe('what every shop must show', () => {
  it('is one press from every page, beside the button, and below every mail', async () => {
    const funnel = await seller.sellingFunnel();
    const pages = await Promise.all(['', '/checkout'].map(async (path) => (await new Buyer(ruta.site).get(`/${funnel.slug}${path}`)).text()));
    for (const page of [...pages, await (await new Buyer(ruta.site).get('/legal/imprint')).text()]) {
      for (const kind of ['imprint', 'privacy', 'withdrawal']) expect(page).toMatch(new RegExp(`<nav class="legal".*href="/legal/${kind}"`));
    }
    expect(pages[1]).toMatch(/<p class="order-legal">.*\/legal\/withdrawal" target="_blank"/);
    const imprint = await (await new Buyer(ruta.site).get('/legal/imprint')).text();
    expect(imprint).toContain('Rua do Luar 14<br/>3000-000 Coimbra');
    expect(imprint).toContain('Tax number PT500000000');

    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'vera@receipts.test' })).status).toBe(200);
    let receipt: { text: string; html: string } | undefined;
    await until(async () => {
      receipt = (await mails(ruta.standinsUrl, 'vera@receipts.test')).find((mail) => mail.subject.includes('receipt'));
      return receipt !== undefined;
    }, 'the receipt arrives');
    for (const words of ['Tax number of the seller: PT500000000', 'Perigee Lane, Lda.', '/legal/withdrawal']) {
      expect(receipt?.text).toContain(words);
      expect(receipt?.html).toContain(words);
    }
  });

  it('keeps a live shop from publishing while its country asks for it, and says what is open', async () => {
    const funnel = await seller.sellingFunnel();
    await seller.changeShop({ legal: { privacy: 'Kept by [your hosting company].' } });
    const refused = await seller.send(`/funnels/${funnel.id}/publish`, {});
    expect(refused.status).toBe(409);
    const { errors } = (await refused.json()) as { errors: Array<{ message: string }> };
    expect(errors.map(({ message }) => message)).toEqual([
      '“Privacy” still has to say: your hosting company. Write it under Settings, Legal pages.',
      'Portugal asks shops for a page “Right of withdrawal”, and this shop has none. Write it under Settings, Legal pages.',
    ]);
    // In test mode nobody else sees it.
    await seller.changeShop({ mode: 'test' });
    expect((await seller.send(`/funnels/${funnel.id}/publish`, {})).ok).toBe(true);
    await seller.changeShop({ mode: 'live', ...LEGAL });
  });
});

describe('a checkout', () => {
  it('leads to the terms that the shop has written, and to none before', async () => {
    const funnel = await seller.sellingFunnel();
    const checkout = async () => (await new Buyer(ruta.site).get(`/${funnel.slug}/checkout`)).text();
    const before = await checkout();
    // Nothing is said of terms where there are none.
    expect(before).not.toMatch(/accept the terms/);
    expect(before).not.toContain('/legal/terms');
    expect((await new Buyer(ruta.site).get('/legal/terms')).status).toBe(404);
    await seller.changeShop({ legal: { ...LEGAL.legal, terms: 'Files\n\nFiles are yours to keep.\n\n<b>Money back</b> within 30 days.' } });
    expect(await checkout()).toContain('By paying you accept the <a href="/legal/terms">terms</a>.');
    // The address that terms had before still leads to them.
    const terms = await (await new Buyer(ruta.site).get('/legal/terms')).text();
    expect((await new Buyer(ruta.site).get('/terms')).headers.get('location')).toBe('/legal/terms');
    expect(terms).toMatch(/<h2[^>]*>.*Files<\/h2>/);
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
