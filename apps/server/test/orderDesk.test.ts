import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';

let ruta: Installation;
let seller: Seller;
let id = '';
const EMAIL = 'ilse@moonmail.test';
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  const funnel = await seller.sellingFunnel({ price: 10_000 });
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: EMAIL });
  id = (await seller.orderOf(EMAIL)).id;
});
afterAll(() => ruta.stop());

const order = () => seller.read(`/orders/${id}`);

describe('an order of somebody who writes', () => {
  it('keeps notes, which nobody else reads, and lets them be removed', async () => {
    expect((await seller.send(`/orders/${id}/notes`, { text: '   ' })).status).toBe(400);
    await seller.make(`/orders/${id}/notes`, { text: 'Called, wants it by Friday.' });
    const [second] = await seller.make(`/orders/${id}/notes`, { text: 'Sent on Thursday.' });
    expect((await order()).notes.map(({ text }: { text: string }) => text)).toEqual(['Sent on Thursday.', 'Called, wants it by Friday.']);
    expect(second.by).toEqual(expect.any(String));
    expect((await seller.send(`/orders/${id}/notes/${second.id}`, undefined, 'DELETE')).status).toBe(200);
    expect((await seller.send(`/orders/${id}/notes/${second.id}`, undefined, 'DELETE')).status).toBe(404);
    expect((await order()).notes).toHaveLength(1);
  });

  it('has its address corrected, which is noted; country, sums and half an address are not taken', async () => {
    const before = await order();
    const half = await seller.send(
      `/orders/${id}/address`,
      { firstName: 'Ilse', lastName: 'Vogel', address: { street: 'Rua 1', postcode: '', city: '' } },
      'PUT',
    );
    expect([half.status, ((await half.json()) as { errors: Array<{ path: string }> }).errors.map(({ path }) => path)]).toEqual([
      400,
      ['address.postcode', 'address.city'],
    ]);
    const address = { street: 'Rua da Lua 3', postcode: '3000-001', city: 'Coimbra' };
    await seller.make(`/orders/${id}/address`, { firstName: 'Ilse', lastName: 'Vogel', address, country: 'US' }, 'PUT');
    const after = await order();
    expect(after.buyer).toEqual({ ...before.buyer, lastName: 'Vogel', address });
    expect([after.total, after.payments[0].quote]).toEqual([before.total, before.payments[0].quote]);
    expect(after.notes[0].text).toMatch(/^Address corrected\. It was: Ilse/);
    // The same once more changes nothing and notes nothing.
    await seller.make(`/orders/${id}/address`, { firstName: 'Ilse', lastName: 'Vogel', address }, 'PUT');
    expect((await order()).notes).toHaveLength(after.notes.length);
  });

  it('has its receipt sent once more, however often that is pressed at once', async () => {
    await seller.read('/orders');
    const sent = async () => (await mails(ruta.standinsUrl, EMAIL)).length;
    const answers = await Promise.all(Array.from({ length: 5 }, () => seller.send(`/orders/${id}/receipt`, {})));
    expect(answers.map(({ status }) => status)).toEqual(Array(5).fill(201));
    await until(async () => (await sent()) > 0, 'the receipt arrives');
    const [receipt] = await mails(ruta.standinsUrl, EMAIL);
    expect(receipt.text).toContain('First Light');
    expect((await seller.send('/orders/ord_nobody000/receipt', {})).status).toBe(404);
  });

  it('goes out with what the list shows', async () => {
    const csv = await (await seller.get(`/api/orders/export?${new URLSearchParams({ search: EMAIL })}`)).text();
    const [header, row, ...rest] = csv.trim().split('\r\n');
    expect(header).toMatch(/^order_number,paid_at,state/);
    expect(row).toContain(`,Ilse,Vogel,${EMAIL},NL,,Rua da Lua 3,3000-001,Coimbra,,First Light,`);
    expect(rest).toEqual([]);
    expect((await (await seller.get('/api/orders/export?country=JP')).text()).trim().split('\r\n')).toHaveLength(1);
  });
});

describe('a processor that does not answer', () => {
  it('stands on Today until a payment goes through again', async () => {
    const told = async () => (await seller.read('/today')).needs.filter(({ title }: { title: string }) => title === 'Card payments do not go through');
    expect(await told()).toEqual([]);
    const buyer = new Buyer(ruta.site);
    const { slug, checkout } = await seller.sellingFunnel({ price: 2_000 });
    await buyer.openCheckout(`/${slug}/checkout`);
    expect((await buyer.pay(checkout, ruta.standinsUrl, CARD.down, { email: 'down@moonmail.test' })).status).toBe(402);
    expect(await told()).toMatchObject([{ link: '/connections' }]);
    // A declined card was answered.
    await buyer.pay(checkout, ruta.standinsUrl, CARD.noFunds, { email: 'down@moonmail.test' });
    expect(await told()).toEqual([]);
  });
});
