import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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
  const shippingTable = [{ name: 'Europe', countries: ['PT', 'NL', 'DE'], rate: { kind: 'flat', amount: 490 } }];
  await seller.make('/shop/shipping-table', { shippingTable }, 'PUT');
});
afterAll(() => ruta.stop());

const { read, linesOf, chargesOf, formAt } = booksOf(() => ruta);

describe('an offer', () => {
  it('that stands for minutes is gone after them, whatever the page says, and the buyer is led on', async () => {
    const timed = await OfferFunnel.draw(seller, { price: 900 });
    const quick = await thing(seller, 'Quick', 500);
    const [soon, dear] = [
      offerOf(quick.id, { deadline: { until: { kind: 'date', at: Date.now() - 1000 }, afterwards: 'gone' } }),
      offerOf(quick.id, {
        discount: { kind: 'percent', percent: 50, base: 'regular' },
        deadline: { until: { kind: 'date', at: Date.now() - 1000 }, afterwards: 'full-price' },
      }),
    ];
    const stop = await timed.offerAfter(timed.step('checkout').id, 'paid', 'Timed', [soon, dear]);
    await timed.publish();
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${timed.slug}/checkout`);
    const at = (await buyer.pay(timed.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'timed@moonmail.test' })).body.redirect ?? '';
    const form = await formAt(buyer, at);
    // The first is gone; the second stands at its full price.
    expect(form).toMatchObject({ offer: dear.id, shown: '500' });
    expect((await buyer.form(`/offer/${stop}`, { ...form, offer: soon.id, shown: '500' })).status).toBe(410);
    expect((await buyer.form(`/offer/${stop}`, { ...form, shown: '250' })).status).toBe(409);
    expect((await buyer.form(`/offer/${stop}`, form)).status).toBe(303);
    expect(linesOf('timed@moonmail.test').map(({ total }) => total)).toEqual([900, 500]);
  });

  it('asks once more before it charges where the seller wants it so, and where to send what is sent', async () => {
    const careful = await OfferFunnel.draw(seller, { price: 900 });
    const disc = await thing(seller, 'Disc', 2_000, { kind: 'physical' });
    const stop = await careful.offerAfter(careful.step('checkout').id, 'paid', 'Careful', [offerOf(disc.id, { confirms: true, asksQuantity: true })]);
    await careful.publish();
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${careful.slug}/checkout`);
    const email = 'careful@moonmail.test';
    const at = (await buyer.pay(careful.step('checkout').id, ruta.standinsUrl, CARD.good, { email })).body.redirect ?? '';
    const form = await formAt(buyer, at);
    // 20.00 and 4.90 for the parcel, which the first order had none of
    expect(form.shown).toBe('2490');
    const quoted = await (await buyer.form(`/offer/${stop}/quote`, { ...form, quantity: '2' })).json();
    expect(quoted.dueToday).toBe(4_490);
    const two = { ...form, quantity: '2', shown: '4490' };
    expect((await buyer.form(`/offer/${stop}`, two)).status).toBe(422);
    const address = { street: 'Maanlaan 3', postcode: '8011 AB', city: 'Zwolle' };
    const asked = await buyer.form(`/offer/${stop}`, { ...two, ...address });
    expect(asked.status).toBe(200);
    expect(chargesOf(email)).toHaveLength(1);
    expect((await buyer.form(`/offer/${stop}`, { ...two, ...address, confirmed: 'on' })).status).toBe(303);
    expect(linesOf(email).map(({ role, total }) => [role, total])).toEqual([
      ['main', 900],
      ['upsell', 4_000],
      ['shipping', 490],
    ]);
    expect((await seller.orderOf(email)).buyer.address).toEqual(address);
  });

  it('follows a free order too, with a card that is typed there; the gift becomes a sale', async () => {
    const gift = await seller.make('/products', selling('Moon Month', { kind: 'free' }, { buyAgain: true }));
    const book = await thing(seller, 'Field guide', 1_800);
    const free = await OfferFunnel.draw(seller, { price: 900 });
    const checkout = free.step('checkout');
    // Every page is about the gift, which the checkout gives.
    await free.change(
      free.steps().map(({ id, sells }) => ({
        kind: 'changeStep',
        stepId: id,
        changes: { sells: id === checkout.id ? [offerOf(gift.id), offerOf(book.id, { place: 'bump' })] : sells.map(() => offerOf(gift.id)) },
      })),
    );
    const stop = await free.offerAfter(checkout.id, 'paid', 'Guide', [offerOf(book.id)]);
    await free.publish();
    const buyer = new Buyer(ruta.site);
    const html = await buyer.openCheckout(`/${free.slug}/checkout`);
    // The place for a card is there, and hidden until the paid bump is ticked.
    expect(html).toMatch(/data-payment="" hidden=""/);
    const email = 'free@moonmail.test';
    const at = ((await (await buyer.json(`/pay/${checkout.id}`, buyer.order({ email }))).json()) as { redirect: string }).redirect;
    expect(at).toContain('/guide?order=');
    const form = await formAt(buyer, at);
    expect((await buyer.form(`/offer/${stop}`, form)).status).toBe(422);
    const token = await buyer.token(ruta.standinsUrl, CARD.good);
    expect((await buyer.form(`/offer/${stop}`, { ...form, token })).status).toBe(303);
    expect((await seller.rows('/orders')).find((row) => row.email === email)).toMatchObject({ total: 1_800, number: expect.any(Number) });
  });

  it('in instalments or as a trial is a plan of the same order', async () => {
    const club = await seller.make(
      '/products',
      selling(
        'Club',
        { kind: 'subscription', regular: 900, interval: { every: 1, unit: 'month' }, trial: { days: 14, price: 0 }, charges: null },
        { buyAgain: true },
      ),
    );
    const course = await seller.make(
      '/products',
      selling('Course', { kind: 'instalments', regular: 18_000, count: 4, interval: { every: 1, unit: 'month' } }, { buyAgain: true }),
    );
    const plans = await OfferFunnel.draw(seller, { price: 900 });
    const stop = await plans.offerAfter(plans.step('checkout').id, 'paid', 'Plans', [offerOf(club.id), offerOf(course.id)]);
    await plans.publish();
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${plans.slug}/checkout`);
    const email = 'plans@moonmail.test';
    const at = (await buyer.pay(plans.step('checkout').id, ruta.standinsUrl, CARD.good, { email })).body.redirect ?? '';
    const first = await formAt(buyer, at);
    expect(first).toMatchObject({ shown: '0' });
    // Each of several offers has a yes of its own; after the first the page still has the other.
    expect((await buyer.form(`/offer/${stop}`, first)).status).toBe(303);
    const second = await formAt(buyer, at);
    expect(second).toMatchObject({ shown: '4500' });
    expect((await buyer.form(`/offer/${stop}`, second)).status).toBe(303);
    expect(chargesOf(email).map(({ amount }) => amount)).toEqual([900, 4_500]);
    const owed = read<{ charges: number }>(
      'select p.left as charges from plans p join orders o on o.id = p.order_id where o.email = ? and p.method_id is not null',
      email,
    );
    expect(owed.map(({ charges }) => charges)).toEqual([null, 3]);
  });
});
