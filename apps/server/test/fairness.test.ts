import { afterAll, beforeAll, expect, it } from 'vitest';
import { booksOf } from './support/books';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { OfferFunnel, offerOf, thing } from './support/offers';
import { selling } from './support/products';

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());
const { formAt } = booksOf(() => ruta);

it('what a plan costs, from when, how long and how to end it stands beside the button, never folded, and follows the form', async () => {
  const month = { every: 1, unit: 'month' as const };
  const club = selling('Clear Skies Club', [
    { kind: 'subscription', regular: 900, interval: month, trial: { days: 14, price: 0 }, charges: null },
    { kind: 'one-time', regular: 9000 },
  ]);
  const funnel = await seller.sellingFunnel({ product: club });
  const buyer = new Buyer(ruta.site);
  const html = await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const unfolded = html.replace(/<details[\s\S]*?<\/details>/g, '');
  const beside = /data-terms="">([\s\S]*?)<\/div><button[^>]*data-pay/.exec(unfolded)?.[1] ?? '';
  expect(beside).toMatch(/Clear Skies Club.*Then €9\.00 a month, from .* until you cancel\..*To cancel, write to ines@perigeelane\.test/);
  const [, once] = club.editions[0]?.prices ?? [];
  const quoted = (await (await buyer.json(`/pay/${funnel.checkout}/quote`, buyer.order({ option: once?.id ?? '' }))).json()) as { quote: { terms: string } };
  expect(quoted.quote.terms).toContain('Clear Skies Club');
  expect(quoted.quote.terms).not.toMatch(/cancel|Then/);
});

it('a one-click yes says what it charges on its button, and the sum follows the quantity', async () => {
  const funnel = await OfferFunnel.draw(seller, { price: 900 });
  const more = await thing(seller, 'Sketching the Sky', 2_000);
  const stop = await funnel.offerAfter(funnel.step('checkout').id, 'paid', 'More', [offerOf(more.id, { asksQuantity: true })]);
  await funnel.publish();
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const at = (await buyer.pay(funnel.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'sum@moonmail.test' })).body.redirect ?? '';
  const html = await buyer.visit(at.replace(ruta.site, ''));
  expect(/<button[^>]*value="yes"[^>]*>([\s\S]*?)<\/button>/.exec(html)?.[1]?.replace(/<[^>]+>/g, ' ')).toMatch(/€20\.00/);
  const form = await formAt(buyer, at);
  expect(await (await buyer.form(`/offer/${stop}/quote`, { ...form, quantity: '3' })).json()).toMatchObject({ dueToday: 6_000, words: '€60.00' });
});

it('the country is the shop’s or the buyer’s own, whatever language their browser reads', async () => {
  const funnel = await seller.sellingFunnel();
  const chosen = (html: string) => /<option value="(\w\w)" selected/.exec(html)?.[1];
  const reader = new Buyer(ruta.site);
  const html = await (await reader.request(`/${funnel.slug}/checkout`, { headers: { 'accept-language': 'de-DE,de;q=0.9' } })).text();
  expect(chosen(html)).toBe('PT');
  const known = new Buyer(ruta.site);
  await known.openCheckout(`/${funnel.slug}/checkout`);
  await known.json(`/pay/${funnel.checkout}/contact`, known.order({ country: 'DK', email: 'tove@moonmail.test' }));
  expect(chosen(await (await known.request(`/${funnel.slug}/checkout`, { headers: { 'accept-language': 'de-DE' } })).text())).toBe('DK');
});

it('a region is asked for a parcel where the post needs one, and kept with the address', async () => {
  const shippingTable = [{ name: 'World', countries: ['PT', 'US'], rate: { kind: 'flat', amount: 490 } }];
  await seller.make('/shop/shipping-table', { shippingTable }, 'PUT');
  const product = selling('Star Wheel', { kind: 'one-time', regular: 2400 }, { kind: 'physical', buyAgain: true });
  const funnel = await seller.sellingFunnel({ product });
  const address = { street: '1 Moon Street', postcode: '90001', city: 'Los Angeles', lastName: 'Vos' };
  const pay = async (more: Record<string, string>) => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const token = await buyer.token(ruta.standinsUrl, CARD.good);
    const order = buyer.order({ token, ...address, ...more });
    const quoted = (await (await buyer.json(`/pay/${funnel.checkout}/quote`, order)).json()) as { quote: { dueToday: number } };
    const answer = await buyer.json(`/pay/${funnel.checkout}`, { ...order, shown: String(quoted.quote.dueToday) });
    return { status: answer.status, body: (await answer.json()) as { errors?: Record<string, string> } };
  };
  expect(await pay({ country: 'US', email: 'none@moonmail.test' })).toMatchObject({
    status: 422,
    body: { errors: { region: 'Enter the state or region; the post needs it.' } },
  });
  expect((await pay({ country: 'PT', email: 'home@moonmail.test' })).status).toBe(200);
  expect((await pay({ country: 'US', region: 'California', email: 'abroad@moonmail.test' })).status).toBe(200);
  expect((await seller.orderOf('abroad@moonmail.test')).buyer).toMatchObject({ country: 'US', region: 'California', address: { city: 'Los Angeles' } });
});
