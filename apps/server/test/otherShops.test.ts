import { afterEach, describe, expect, it } from 'vitest';
import { Buyer, mails, OWNER, Seller } from './support/clients';
import { Installation, SETUP_CODE, until } from './support/installation';

let ruta: Installation;
afterEach(() => ruta.stop());

import { LEGAL } from './support/legal';

const CARD = '9000000000000019';

/** A shop elsewhere, with a product on sale in a published funnel. */
async function shopIn(shop: { country: string; currency: string; timeZone: string; pricesIncludeTax: boolean }, price: number) {
  ruta = await Installation.start();
  const seller = new Seller(ruta.studio);
  const made = await seller.json('/api/setup', { code: SETUP_CODE, ...OWNER, shop: { name: 'Elsewhere', ...shop } });
  expect(made.status).toBe(201);
  seller.trust(((await made.json()) as { csrfToken: string }).csrfToken);
  await seller.changeShop({ ...LEGAL, mode: 'live' });
  return { seller, funnel: await seller.sellingFunnel({ price }) };
}

describe('a shop', () => {
  it('in a currency without cents charges whole units, and writes them so everywhere', async () => {
    const { seller, funnel } = await shopIn({ country: 'JP', currency: 'JPY', timeZone: 'Asia/Tokyo', pricesIncludeTax: true }, 2400);
    const buyer = new Buyer(ruta.site);
    expect(await buyer.openCheckout(`/${funnel.slug}/checkout`)).toContain('¥2,400');
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD, { country: 'JP' });
    expect(paid.status).toBe(200);
    const [order] = await seller.rows('/orders');
    expect(order).toMatchObject({ total: 2400, currency: 'JPY' });
    expect((await seller.read(`/orders/${order.id}`)).payments).toMatchObject([{ amount: 2400, charges: [{ amount: 2400, state: 'captured' }] }]);
    await until(async () => (await mails(ruta.standinsUrl, 'ilse@moonmail.test')).length === 1, 'the receipt arrives');
    expect((await mails(ruta.standinsUrl, 'ilse@moonmail.test'))[0].text).toContain('Paid: ¥2,400');
    const data = /<script type="application\/ld\+json">(.*?)<\/script>/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '{}';
    expect(JSON.parse(data).offers).toMatchObject({ price: '2400', priceCurrency: 'JPY' });
  });

  it('whose prices exclude tax adds the buyer’s own, and counts what is left without it', async () => {
    const { seller, funnel } = await shopIn({ country: 'DE', currency: 'EUR', timeZone: 'Europe/Berlin', pricesIncludeTax: false }, 10_000);
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const { quote } = (await (await buyer.json(`/pay/${funnel.checkout}/quote`, { country: 'FI' })).json()) as { quote: { dueToday: number; html: string } };
    // 100.00 + 25.5 % = 125.50
    expect(quote.dueToday).toBe(12_550);
    expect(quote.html).toContain('<td>€25.50</td>');
    // The total that was shown for the shop's own country is not the one due: said, and nothing charged.
    const stale = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD, { country: 'FI' });
    expect(stale.status).toBe(409);
    expect(stale.body.message).toContain('€125.50');
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD, { country: 'FI', shown: '12550' });
    expect(paid.status).toBe(200);
    const [order] = await seller.rows('/orders');
    expect(order.total).toBe(12_550);
    const figures = await seller.figures(funnel.id);
    expect(figures).toMatchObject({ orders: 1, netRevenue: 10_000, averageOrder: 10_000 });
  });

  it('is connected to the card processor once, and shows none of its secrets', async () => {
    const { seller, funnel } = await shopIn({ country: 'PT', currency: 'EUR', timeZone: 'Europe/Lisbon', pricesIncludeTax: true }, 5000);
    expect(await seller.read('/connections/studyporch')).toMatchObject({ connected: false });
    // Connecting again changes nothing, and no secret is ever shown.
    const before = await seller.read('/connections/quayside');
    expect(before).toMatchObject({ provider: 'quayside', connected: true, reachable: true });
    const again = await seller.make('/connections/quayside', {});
    expect(again).toEqual(before);
    expect(JSON.stringify(again)).not.toMatch(/qs_(live|test)/);
    const buyer = new Buyer(ruta.site);
    const page = await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect(page).toContain('data-card-fields=');
    expect(page).not.toMatch(/qs_(live|test)/);
  });
});
