import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { orders, taxNumberProofs } from '../src/orders/tables';
import { askAgain, unproved } from '../src/taxNumbers/proofs';
import { type Register, TaxRegister } from '../src/taxNumbers/register';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { testServices } from './support/services';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  await seller.changeShop({ sellsToBusinesses: true });
  funnel = await seller.sellingFunnel();
});
afterAll(() => ruta.stop());

const state = (down: boolean) =>
  fetch(`${ruta.standinsUrl}/tax-register/state`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', accept: 'application/json' },
    body: JSON.stringify({ down: down ? 'yes' : '' }),
  });
afterEach(async () => {
  await state(false);
  await seller.changeShop({ whenRegisterSilent: 'charge' });
});

async function atCheckout(taxNumber: string, email = 'zaak@moonmail.test') {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const form = { country: 'NL', taxNumber, email };
  const asked = await (await buyer.json(`/pay/${funnel.checkout}/quote`, buyer.order(form))).json();
  const quoted = asked as { quote: { html: string; dueToday: number }; errors: Record<string, string> };
  const pay = () => buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { ...form, shown: String(quoted.quote.dueToday) });
  return { ...quoted, pay };
}

describe('reverse charge', () => {
  it('asks the register, and keeps its answer with the order', async () => {
    // €138.00 with 21 % in it are €114.05 without.
    const { quote, pay } = await atCheckout('NL123456782B12');
    expect(quote.dueToday).toBe(11_405);
    expect((await pay()).status).toBe(200);
    const order = await seller.orderOf('zaak@moonmail.test');
    expect(order.taxNumberProof).toMatchObject({
      number: 'NL123456782B12',
      state: 'known',
      name: 'Business 123456782B12',
      reference: expect.stringMatching(/^REG-[0-9A-F]{12}$/),
    });
  });

  it('is not for a number that the register does not know', async () => {
    const { quote, errors, pay } = await atCheckout('NL200016404B01', 'fremd@moonmail.test');
    expect(quote.dueToday).toBe(13_800);
    expect(errors.taxNumber).toBe('The register of business tax numbers does not know this number. Or leave the field empty.');
    expect((await pay()).status).toBe(422);
    expect(await seller.orderOf('fremd@moonmail.test')).toBeUndefined();
  });

  it('is not for what nobody can be asked about, where the seller chose so; the buyer is told why there is tax', async () => {
    await state(true);
    const { quote, errors, pay } = await atCheckout('NL001234567B01'.replace('001234567', '004495445'), 'still@moonmail.test');
    expect(errors.taxNumber).toBeUndefined();
    expect(quote.dueToday).toBe(13_800);
    expect(quote.html).toContain('The register of business tax numbers has not confirmed this number, so that tax is charged');
    expect((await pay()).status).toBe(200);
    expect((await seller.orderOf('still@moonmail.test')).taxNumberProof).toBeNull();
  });

  it('takes the number as it is where the seller chose that, and says so on Today until the register has answered', async () => {
    await seller.changeShop({ whenRegisterSilent: 'accept' });
    await state(true);
    const { quote, pay } = await atCheckout('NL200022404B01', 'later@moonmail.test');
    expect(quote.dueToday).toBe(11_405);
    expect((await pay()).status).toBe(200);
    const order = await seller.orderOf('later@moonmail.test');
    expect(order.taxNumberProof).toMatchObject({ state: 'silent', number: 'NL200022404B01' });
    const needs = async () => ((await seller.read('/today')).needs as Array<{ title: string; link: string }>).filter(({ link }) => link.endsWith(order.id));
    await until(async () => (await needs())[0]?.title === `The register has not answered for order ${order.number} yet`, 'Today says so');
  });
});

describe('a number that was taken as it is', () => {
  it('is asked for again, and waits for a person where the register does not know it', async () => {
    const services = testServices();
    const said: Array<'down' | boolean> = ['down', false];
    const register: Register = async () => {
      const next = said.shift();
      if (next === 'down' || next === undefined) throw new Error('down');
      return { known: next, name: '', address: '', reference: 'REG-1' };
    };
    const needs = { ...services, taxRegister: new TaxRegister(register, services.clock, services.limits) };
    const order = { id: 'ord_1', number: 7, state: 'paid' as const, mode: 'live' as const, funnelId: 'f', stepId: 's', cartId: 'c', currency: 'EUR' };
    const sums = { total: 1, tax: 0, netGoods: 1, email: 'a@b.test', firstName: 'A', goods: 'G', token: 't', createdAt: 1, paidAt: 1 };
    services.db
      .insert(orders)
      .values({ ...order, ...sums, buyer: { email: 'a@b.test', firstName: 'A', lastName: '', country: 'NL' } })
      .run();
    const proof = { orderId: 'ord_1', number: 'NL123456782B12', state: 'silent' as const, name: '', address: '', reference: '', askedAt: services.moment.at };
    services.db.insert(taxNumberProofs).values(proof).run();
    await askAgain(needs);
    expect(said).toHaveLength(2);
    services.moment.at += 11 * 60_000;
    await askAgain(needs);
    expect(unproved(services.db)).toMatchObject([{ orderNumber: 7, state: 'silent' }]);
    services.moment.at += 11 * 60_000;
    await askAgain(needs);
    expect(unproved(services.db)).toMatchObject([{ orderNumber: 7, state: 'unknown' }]);
    services.moment.at += 11 * 60_000;
    await askAgain(needs);
    expect(said).toHaveLength(0);
    services.end();
  });

  it('is asked for once however many want to know, and by one person so often only', async () => {
    const services = testServices();
    let asked = 0;
    const register: Register = async () => {
      asked++;
      return { known: true, name: '', address: '', reference: 'R' };
    };
    const taxRegister = new TaxRegister(register, services.clock, services.limits);
    await Promise.all(Array.from({ length: 10 }, () => taxRegister.consult('NL 1234.56782 B12', 'PT', 'somebody')));
    expect(asked).toBe(1);
    // Of one's own country, of none, and with a mistake in it nobody is asked.
    for (const typed of ['PT501964843', '123', 'NL123456789B12', undefined]) expect(await taxRegister.consult(typed, 'PT', 'somebody')).toBeUndefined();
    expect(asked).toBe(1);
    services.end();
  });
});
