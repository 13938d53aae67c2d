import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { booksOf } from './support/books';
import { Buyer, CARD, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { OfferFunnel, offerOf, thing } from './support/offers';

let ruta: Installation;
let seller: Seller;
let funnel: OfferFunnel;
let upsell: string;
let downsell: string;
let yes: ReturnType<typeof offerOf>;
let gentler: ReturnType<typeof offerOf>;
let torch: ReturnType<typeof offerOf>;
let wheel: ReturnType<typeof offerOf>;

const shipping = [{ name: 'Europe', countries: ['PT', 'NL', 'DE'], rate: { kind: 'flat', amount: 490 } }];

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  await seller.make('/shop/shipping-table', { shippingTable: shipping }, 'PUT');
  funnel = await OfferFunnel.draw(seller);
  const [book, disc, sketching, moonOnly] = await Promise.all([
    thing(seller, 'Workbook', 2_400),
    thing(seller, 'Star Wheel', 2_000, { kind: 'physical' }),
    thing(seller, 'Sketching', 7_200),
    thing(seller, 'Moon only', 3_800),
  ]);
  torch = offerOf(book.id, {
    place: 'bump',
    discount: { kind: 'percent', percent: 25, base: 'regular' },
    words: { headline: 'The workbook', label: 'Yes, the workbook' },
  });
  wheel = offerOf(disc.id, { place: 'bump', condition: { fact: 'country', operator: 'one of', countries: ['NL'] } });
  await funnel.bumps(torch, wheel);
  yes = offerOf(sketching.id, { discount: { kind: 'amount', amount: 1_000, base: 'current' } });
  gentler = offerOf(moonOnly.id);
  upsell = await funnel.offerAfter(funnel.step('checkout').id, 'paid', 'Sketching the Sky', [yes]);
  downsell = await funnel.offerAfter(upsell, 'declined', 'Moon only', [gentler]);
  await funnel.publish();
});
afterAll(() => ruta.stop());

const checkoutId = () => funnel.step('checkout').id;

/** Somebody who has paid at the checkout and stands at the first offer. */
async function paid(email: string, changes: Record<string, string> = {}, card = CARD.good) {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const answer = await buyer.pay(checkoutId(), ruta.standinsUrl, card, { email, ...changes });
  const at = answer.body.redirect ?? '';
  return { buyer, at, token: /order=([^&]+)/.exec(at)?.[1] ?? '' };
}

const { read, linesOf, chargesOf, formAt } = booksOf(() => ruta);

describe('bumps', () => {
  it('stand at their discounted price beside the old one, and are bought with a tick', async () => {
    const buyer = new Buyer(ruta.site);
    const html = await buyer.openCheckout(`/${funnel.slug}/checkout`);
    // 25 % off 24.00 is 18.00
    expect(html).toContain('The workbook');
    expect(html).toMatch(/<s>€24<\/s>.*?<strong>€18<\/strong>/);
    const ticked = { [`bump-${torch.id}`]: 'on' };
    const quoted = await (await buyer.json(`/pay/${checkoutId()}/quote`, buyer.order(ticked))).json();
    expect(quoted.quote.dueToday).toBe(13_800 + 1_800);
    const unticked = await (await buyer.json(`/pay/${checkoutId()}/quote`, buyer.order())).json();
    expect(unticked.quote.dueToday).toBe(13_800);
    const answer = await buyer.pay(checkoutId(), ruta.standinsUrl, CARD.good, { ...ticked, email: 'bump@moonmail.test', shown: '15600' });
    expect(answer.body.redirect).toContain('sketching-the-sky');
    expect(linesOf('bump@moonmail.test')).toEqual([
      { role: 'main', name: 'First Light', total: 13_800 },
      { role: 'bump', name: 'Workbook', total: 1_800 },
    ]);
    expect(chargesOf('bump@moonmail.test')).toEqual([{ amount: 15_600, state: 'captured' }]);
  });

  it('come and go with what their condition asks, and then bring shipping and an address', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const places = async (country: string) => {
      const { bumps } = await (await buyer.json(`/pay/${checkoutId()}/quote`, buyer.order({ country }))).json();
      return (bumps as Array<{ html: string }>).map(({ html }) => html).join('');
    };
    expect(await places('PT')).not.toContain('Star Wheel');
    expect(await places('NL')).toContain('Star Wheel');
    const ticked = { [`bump-${wheel.id}`]: 'on', email: 'wheel@moonmail.test', shown: String(13_800 + 2_000 + 490) };
    const asked = await buyer.pay(checkoutId(), ruta.standinsUrl, CARD.good, ticked);
    expect(asked.status).toBe(422);
    expect(asked.body.errors).toHaveProperty('street');
    const address = { street: 'Maanlaan 3', postcode: '8011 AB', city: 'Zwolle', lastName: 'Vos' };
    expect((await buyer.pay(checkoutId(), ruta.standinsUrl, CARD.good, { ...ticked, ...address })).status).toBe(200);
    expect(linesOf('wheel@moonmail.test').map(({ role, total }) => [role, total])).toEqual([
      ['main', 13_800],
      ['bump', 2_000],
      ['shipping', 490],
    ]);
  });

  it('that are not on offer here cannot be bought by a request made by hand', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const made = { [`bump-${wheel.id}`]: 'on', [`bump-${yes.id}`]: 'on', country: 'PT', email: 'made@moonmail.test' };
    expect((await buyer.pay(checkoutId(), ruta.standinsUrl, CARD.good, made)).status).toBe(200);
    expect(linesOf('made@moonmail.test')).toHaveLength(1);
  });

  it('work without script: the form is sent as it is, and comes back ticked where something is wrong', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const back = await buyer.form(`/pay/${checkoutId()}`, buyer.order({ [`bump-${torch.id}`]: 'on', email: 'nobody' }));
    expect(back.status).toBe(422);
    const html = await back.text();
    expect(html).toMatch(new RegExp(`name="bump-${torch.id}"[^>]*checked`));
    expect(html).toContain('name="shown" value="15600"');
  });
});

describe('an offer after the payment', () => {
  it('is charged to the card on file with one click, and joins the order', async () => {
    const { buyer, at } = await paid('one-click@moonmail.test');
    const form = await formAt(buyer, at);
    // 72.00 less 10.00
    expect(form.shown).toBe('6200');
    const answer = await buyer.form(`/offer/${upsell}`, form);
    expect(answer.headers.get('location')).toContain('/thank-you?order=');
    expect(chargesOf('one-click@moonmail.test')).toEqual([
      { amount: 13_800, state: 'captured' },
      { amount: 6_200, state: 'captured' },
    ]);
    expect(linesOf('one-click@moonmail.test')).toEqual([
      { role: 'main', name: 'First Light', total: 13_800 },
      { role: 'upsell', name: 'Sketching', total: 6_200 },
    ]);
    const thanks = await buyer.visit(answer.headers.get('location')?.replace(ruta.site, '') ?? '');
    expect(thanks).toContain('Sketching');
    expect(thanks).toContain('€200.00');
    const order = await seller.orderOf('one-click@moonmail.test');
    expect(order).toMatchObject({ total: 20_000, number: expect.any(Number) });
    expect((await seller.rows('/orders')).find(({ email }) => email === 'one-click@moonmail.test')).toMatchObject({
      total: 20_000,
      goods: 'First Light, Sketching',
    });
    await until(async () => (await mails(ruta.standinsUrl, 'one-click@moonmail.test')).length > 0, 'the receipt arrives');
    const receipts = await mails(ruta.standinsUrl, 'one-click@moonmail.test');
    expect(receipts).toHaveLength(1);
    expect(receipts[0].text).toContain('Paid: €200.00');
  });

  it('whose page was closed brings the receipt of what is bought; what is added after it has one of its own', async () => {
    const { buyer, at, token } = await paid('closed@moonmail.test');
    const form = await formAt(buyer, at);
    expect((await buyer.form(`/offer/${upsell}/left`, { order: token })).status).toBe(204);
    expect((await buyer.form(`/offer/${upsell}/left`, { order: 'x'.repeat(32) })).status).toBe(204);
    await until(async () => (await mails(ruta.standinsUrl, 'closed@moonmail.test')).length === 1, 'the receipt arrives');
    expect((await buyer.form(`/offer/${upsell}`, form)).headers.get('location')).toContain('/thank-you?order=');
    await until(async () => (await mails(ruta.standinsUrl, 'closed@moonmail.test')).length === 2, 'what was added is told');
    const sent = await mails(ruta.standinsUrl, 'closed@moonmail.test');
    expect(sent.find(({ subject }) => subject.startsWith('Your receipt')).text).toContain('Paid: €138.00');
    expect(sent.find(({ subject }) => subject.startsWith('Added to your order')).text).toContain('Paid: €62.00');
  });

  it('that is declined leads to the gentler one, and from its no to the end; the receipt tells what was bought', async () => {
    const { buyer, at, token } = await paid('no-no@moonmail.test');
    await buyer.visit(at);
    const first = await buyer.form(`/offer/${upsell}`, { order: token, answer: 'no' });
    expect(first.headers.get('location')).toContain('/moon-only?order=');
    expect(await mails(ruta.standinsUrl, 'no-no@moonmail.test')).toHaveLength(0);
    const second = await buyer.form(`/offer/${downsell}`, await formAt(buyer, first.headers.get('location') ?? ''));
    expect(second.headers.get('location')).toContain('/thank-you?order=');
    expect(linesOf('no-no@moonmail.test').map(({ role }) => role)).toEqual(['main', 'downsell']);
    await until(async () => (await mails(ruta.standinsUrl, 'no-no@moonmail.test')).length === 1, 'the receipt arrives');
    const figures = await seller.figures(funnel.id);
    expect(figures.offers.find(({ offerId }: { offerId: string }) => offerId === gentler.id)).toMatchObject({
      role: 'downsell',
      shown: 1,
      taken: 1,
      value: 3_140,
    });
  });

  it('pressed twice, in two tabs and again later is charged once', async () => {
    const { buyer, at } = await paid('twice@moonmail.test');
    const form = await formAt(buyer, at);
    const answers = await Promise.all([1, 2, 3].map(() => buyer.form(`/offer/${upsell}`, form)));
    const later = await buyer.form(`/offer/${upsell}`, form);
    expect(new Set([...answers, later].map((answer) => answer.headers.get('location'))).size).toBe(1);
    expect(chargesOf('twice@moonmail.test')).toHaveLength(2);
    expect(linesOf('twice@moonmail.test')).toHaveLength(2);
    // Back to its page: there is nothing left to say yes to.
    const back = await buyer.get(at.replace(ruta.site, ''));
    expect(back.headers.get('location')).toContain('/thank-you?order=');
  });

  it('at another price than was shown charges nothing and says so', async () => {
    const { buyer, at } = await paid('changed@moonmail.test');
    const form = await formAt(buyer, at);
    const answer = await buyer.form(`/offer/${upsell}`, { ...form, shown: '100' });
    expect(answer.status).toBe(409);
    expect(await answer.text()).toContain('The price has changed to €62.00');
    expect(chargesOf('changed@moonmail.test')).toHaveLength(1);
  });

  it('of another order, of no order, or of another stop is refused with the way on', async () => {
    const { buyer, at } = await paid('mine@moonmail.test');
    const form = await formAt(buyer, at);
    expect((await buyer.form(`/offer/${upsell}`, { ...form, order: 'made-up-token-of-no-order' })).status).toBe(404);
    const foreign = await buyer.form(`/offer/${downsell}`, form);
    expect(foreign.status).toBe(410);
    expect(await foreign.text()).toContain('Go on');
    expect((await buyer.form('/offer/stp_0000009999', form)).status).toBe(410);
    expect(chargesOf('mine@moonmail.test')).toHaveLength(1);
  });

  it('is declined by the bank: another card is asked for, pays, and the first order is as it was', async () => {
    const { buyer, at } = await paid('poor@moonmail.test');
    const form = await formAt(buyer, at);
    const token = await buyer.token(ruta.standinsUrl, CARD.noFunds);
    const refused = await buyer.form(`/offer/${upsell}`, { ...form, token });
    expect(refused.status).toBe(402);
    const html = await refused.text();
    expect(html).toContain('not enough money');
    expect(html).toContain('data-card-fields');
    expect((await seller.orderOf('poor@moonmail.test')).total).toBe(13_800);
    const answer = await buyer.form(`/offer/${upsell}`, { ...form, token: await buyer.token(ruta.standinsUrl, CARD.good) });
    expect(answer.headers.get('location')).toContain('/thank-you?order=');
    expect((await seller.orderOf('poor@moonmail.test')).total).toBe(20_000);
  });

  it('that the bank wants confirmed leads there and back, and is paid by the yes', async () => {
    const { buyer, at } = await paid('asks@moonmail.test', {}, CARD.confirm);
    const returned = (await buyer.form(at, { answer: 'yes' })).headers.get('location') ?? '';
    const offerPage = (await buyer.get(returned)).headers.get('location') ?? '';
    const answer = await buyer.form(`/offer/${upsell}`, await formAt(buyer, offerPage));
    const bank = answer.headers.get('location') ?? '';
    expect(bank).toContain('/quayside/confirm/');
    expect(linesOf('asks@moonmail.test')).toHaveLength(1);
    const back = (await buyer.form(bank, { answer: 'yes' })).headers.get('location') ?? '';
    expect((await buyer.get(back)).headers.get('location')).toContain('/thank-you?order=');
    expect(linesOf('asks@moonmail.test')).toHaveLength(2);
  });

  it('in another browser asks once more before it charges', async () => {
    const { at } = await paid('elsewhere@moonmail.test');
    const other = new Buyer(ruta.site);
    const form = await formAt(other, at);
    const asked = await other.form(`/offer/${upsell}`, form);
    expect(asked.status).toBe(200);
    expect(await asked.text()).toContain('Charge €62.00 to the card ending 0019');
    expect(chargesOf('elsewhere@moonmail.test')).toHaveLength(1);
    expect((await other.form(`/offer/${upsell}`, { ...form, confirmed: 'on' })).status).toBe(303);
    expect(chargesOf('elsewhere@moonmail.test')).toHaveLength(2);
  });

  it('is passed by whoever owns it already, and by itself once its product is off sale', async () => {
    const owned = await thing(seller, 'Owned once', 500, { buyAgain: false });
    const mine = offerOf(owned.id);
    const passing = await OfferFunnel.draw(seller, { price: 1_000 });
    const stop = await passing.offerAfter(passing.step('checkout').id, 'paid', 'Once only', [mine]);
    await passing.publish();
    const buyer = new Buyer(ruta.site);
    const buy = async (email: string) => {
      await buyer.openCheckout(`/${passing.slug}/checkout?again=1`);
      return (await buyer.pay(passing.step('checkout').id, ruta.standinsUrl, CARD.good, { email })).body.redirect ?? '';
    };
    const first = await buy('owner@moonmail.test');
    expect(first).toContain('once-only');
    await buyer.form(`/offer/${stop}`, await formAt(buyer, first));
    expect(await buy('owner@moonmail.test')).toContain('thank-you');
    const other = new Buyer(ruta.site);
    await other.openCheckout(`/${passing.slug}/checkout`);
    const at = (await other.pay(passing.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'late@moonmail.test' })).body.redirect ?? '';
    const form = await formAt(other, at);
    await seller.make(`/products/${owned.id}/archived`, { archived: true }, 'PUT');
    const late = await other.form(`/offer/${stop}`, form);
    expect(late.status).toBe(410);
    expect(await late.text()).toContain('Nothing was charged');
  });

  it('survives the server’s sudden end between charge and line: one of each, or none of either', async () => {
    const email = 'crash@moonmail.test';
    // This card is charged at once and answered three seconds later, also when it is charged again.
    const waiting = await paid(email, {}, CARD.late);
    const { buyer } = waiting;
    await until(async () => (await seller.orderOf(email)) !== undefined, 'the first payment is settled');
    // Led to the page that waits, or on already if it was settled meanwhile.
    const at = waiting.at.includes('/pay/return/') ? ((await buyer.get(waiting.at)).headers.get('location') ?? '') : waiting.at;
    const form = await formAt(buyer, at);
    const taken = async () => ((await (await fetch(ruta.standinsUrl)).text()).match(/<td>0068<\/td>/g) ?? []).length;
    const before = await taken();
    const sent = buyer.form(`/offer/${upsell}`, form).catch(() => null);
    await until(async () => (await taken()) === before + 1, 'the processor has the charge');
    await ruta.killServer();
    await sent;
    await ruta.startServer();
    await until(() => linesOf(email).length === 2, 'the line is there after the restart');
    expect(chargesOf(email)).toEqual([
      { amount: 13_800, state: 'captured' },
      { amount: 6_200, state: 'captured' },
    ]);
    // Pressed once more: it is known.
    expect((await buyer.form(`/offer/${upsell}`, form)).headers.get('location')).toContain('/thank-you?order=');
    // The law: every captured charge belongs to exactly one paid payment, and every line of goods to one.
    const orphans = read(
      `select c.id from charges c left join payments p on p.id = c.payment_id and p.state = 'paid' and p.amount = c.amount where c.state = 'captured' and p.id is null`,
    );
    const doubles = read(`select payment_id from charges where state = 'captured' group by payment_id having count(*) > 1`);
    const unpaid = read(`select l.id from order_lines l join payments p on p.id = l.payment_id where p.state <> 'paid'`);
    expect([orphans, doubles, unpaid]).toEqual([[], [], []]);
  });
});
