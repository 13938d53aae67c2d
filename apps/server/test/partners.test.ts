import { ProgramSchema } from '@ruta/core/partners';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { loadProduct } from '../src/catalog/store';
import { linesOf } from '../src/orders/store';
import { openOrder } from '../src/orders/write';
import { broughtBy } from '../src/partners/broughtBy';
import { payOut, payoutCsv, payoutsOf, statementCsv, statementOf } from '../src/partners/payouts';
import { savePartner, saveProgram } from '../src/partners/store';
import { markPaid } from '../src/payments/fulfil';
import { giveMoneyBack } from '../src/payments/refund';
import { report } from '../src/reports/report';
import { loadShop } from '../src/shop/store';
import { createFunnel } from '../src/templates/createFunnel';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

const DAY = 24 * 60 * 60_000;
const share = (percent: number) => [{ productId: null, priceId: null, rate: { kind: 'percent' as const, percent } }];
const partner = (code: string, more: object = {}) => ({
  name: `Club ${code}`,
  email: `${code}@clubs.test`,
  code,
  isOn: true,
  recruitedBy: null,
  landingFunnelId: null,
  rules: [],
  ...more,
});

describe('a buyer who comes by a partner’s link', () => {
  let ruta: Installation;
  let seller: Seller;
  beforeAll(async () => {
    ruta = await Installation.start();
    seller = await Seller.ofNewShop(ruta.studio);
  });
  afterAll(() => ruta.stop());

  it('is led to the page chosen for it, and what they pay earns the partner by the shop’s terms, in the studio, the reports and the files', async () => {
    const funnel = await seller.sellingFunnel({ price: 12_300 });
    await seller.changeShop({ mode: 'live' });
    await seller.make('/partners/program', ProgramSchema.parse({ rules: share(30), secondTierPercent: 5, holdingDays: 0 }), 'PUT');
    const { id: recruiter } = await seller.make('/partners', partner('first'));
    const made = await seller.make('/partners', partner('second', { recruitedBy: recruiter, landingFunnelId: funnel.id }));
    expect(made).toMatchObject({ link: `${ruta.site}/with/second`, recruiter: 'Club first', earned: 0 });
    const buyer = new Buyer(ruta.site);
    const led = await buyer.get('/with/Second');
    expect([led.status, led.headers.get('location')]).toEqual([302, `/${funnel.slug}?partner=second`]);
    await buyer.visit(led.headers.get('location') ?? '');
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'brought@moonmail.test' })).status).toBe(200);
    // Nobody earns by buying from themselves, whatever they came by.
    const self = new Buyer(ruta.site);
    await self.visit(`/${funnel.slug}?partner=second`);
    await self.openCheckout(`/${funnel.slug}/checkout`);
    await self.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'SECOND@clubs.test' });

    const order = await seller.orderOf('brought@moonmail.test');
    const [line] = order.lines;
    const net = line.total - line.tax;
    expect(await seller.read(`/orders/${order.id}/partner`)).toEqual({
      partner: { id: made.id, name: 'Club second' },
      commission: Math.round(net * 0.3) + Math.round(net * 0.05),
    });
    expect((await seller.rows('/partners?sort=name&direction=asc')).map(({ earned, payable, orders }) => [earned, payable, orders])).toEqual([
      [Math.round(net * 0.05), Math.round(net * 0.05), 0],
      [Math.round(net * 0.3), Math.round(net * 0.3), 1],
    ]);
    const today = new Date().toISOString().slice(0, 10);
    const { rows, total } = await seller.read(`/reports?by=partner&from=${today}&to=${today}`);
    expect(rows.map(({ name, figures }: { name: string; figures: object }) => [name, figures])).toEqual([
      ['Club second', expect.objectContaining({ orders: 1, revenue: net, commissions: order && Math.round(net * 0.3) + Math.round(net * 0.05) })],
      ['Without a partner', expect.objectContaining({ orders: 1, revenue: net })],
    ]);
    expect(total).toMatchObject({ revenue: 2 * net, commissions: Math.round(net * 0.3) + Math.round(net * 0.05) });

    const due = await seller.read('/partners/payouts');
    expect(due.due).toHaveLength(2);
    expect((await seller.send('/partners/payouts', { total: due.total + 1 })).status).toBe(409);
    const { id } = await seller.make('/partners/payouts', { total: due.total });
    const file = await (await seller.get(`/api/partners/payouts/${id}/export`)).text();
    expect(file).toContain(`Club second,second@clubs.test,${(Math.round(net * 0.3) / 100).toFixed(2)},EUR,Commission second ${id}`);
    expect((await seller.send('/partners/payouts', { total: due.total })).status).toBe(409);
    // A link of nobody leads nowhere, and says so as every other address does.
    expect((await buyer.get('/with/nobody')).status).toBe(404);
  });

  it('is refused what does not fit, at its place', async () => {
    const [first] = await seller.rows('/partners?search=first');
    const [second] = await seller.rows('/partners?search=second');
    const refused = async (path: string, body: object, method = 'POST') => (await (await seller.send(path, body, method)).json()).errors;
    expect(await refused('/partners', partner('second'))).toEqual([{ path: 'code', message: 'Club second has this code already. Choose another.' }]);
    expect(await refused(`/partners/${first.id}`, { ...first.partner, recruitedBy: second.id }, 'PUT')).toEqual([
      { path: 'recruitedBy', message: 'They were recruited by this partner themselves. Choose somebody else.' },
    ]);
    expect(await refused('/partners', partner('third', { recruitedBy: 'prt_gone' }))).toEqual([
      { path: 'recruitedBy', message: 'This partner is not there any more. Choose somebody else.' },
    ]);
    const stale = await seller.send(`/partners/${first.id}`, first.partner, 'PUT', { 'if-match': 'older' });
    expect([stale.status, (await stale.json()).title]).toEqual([409, expect.stringContaining('This partner was changed in another window')]);
  });
});

describe('what a partner has earned', () => {
  let services: TestServices;
  let funnelId: string;
  let productId: string;
  let ours: string;
  beforeEach(() => {
    services = testServices();
    productId = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { kind: 'service', buyAgain: true })).id;
    funnelId = createFunnel(services, { name: 'One', template: 'straight-sale', productId });
    saveProgram(services, ProgramSchema.parse({ rules: share(30), holdingDays: 30 }));
    ours = savePartner(services, null, partner('ours')).id;
  });
  afterEach(() => services.end());

  const sell = (number: number, mode: 'live' | 'test' = 'live', email = `buyer${number}@moonmail.test`) => {
    const { order, payment } = openOrder(services.db, services, {
      funnelId,
      stepId: 'stp_checkout',
      cartId: `crt_${String(number).padStart(9, '0')}`,
      visitorId: null,
      mode,
      quote: storedQuote(
        quoteCart(
          loadShop(services.db),
          { lines: [cartLine('main', 'main', loadProduct(services.db, productId))], buyer: { country: 'PT' } },
          services.moment.at,
        ),
      ),
      codeId: null,
      buyer: { email, firstName: 'Ilse', lastName: '', country: 'PT' },
      campaign: { source: 'notes', campaign: 'ours' },
      partnerId: ours,
    });
    markPaid(services.db, services, order, payment);
    return order.id;
  };
  const giveBack = (orderId: string, amount: number) => {
    const [line] = linesOf(services.db, orderId);
    giveMoneyBack(services, orderId, {
      id: `rfd_${orderId.slice(4)}${amount}`.slice(0, 30),
      lines: [{ id: line?.id ?? '', amount }],
      way: 'noted',
      reason: '',
      takesBack: false,
      tells: false,
    });
  };
  const row = () => {
    const { earned, held, payable, paidOut } = statementOf(services, ours).row;
    return [earned, held, payable, paidOut];
  };

  it('is nothing by a purchase of their own, in either tier, however they write their address', () => {
    saveProgram(services, ProgramSchema.parse({ rules: share(30), holdingDays: 30, secondTierPercent: 10 }));
    const recruiter = savePartner(services, null, partner('recruiter')).id;
    savePartner(services, ours, { ...partner('ours'), recruitedBy: recruiter });
    const { email } = partner('recruiter');
    const [name = '', host = ''] = email.split('@');
    const second = () => statementOf(services, recruiter).row.earned;
    sell(1, 'live', email);
    sell(2, 'live', `${name.toUpperCase()}+Moon@${host}`);
    expect(second()).toBe(0);
    sell(3);
    expect(second()).toBe(1000);
    const came = { partner: { id: ours, at: services.moment.at } };
    const [own = '', at = ''] = partner('ours').email.split('@');
    for (const address of [`${own}@${at}`, `${own}+tag@${at}`, ` ${own.toUpperCase()}+a+b@${at} `]) expect(broughtBy(services, came, address)).toBeNull();
    for (const other of [`x${own}@${at}`, `${own}@sub.${at}`]) expect(broughtBy(services, came, other)).toBe(ours);
  });

  it('waits for refunds, is reckoned anew by each, and is made up for by the next payout if it was paid out before', () => {
    // 123.00 with 23 % are 100.00 without; 30 % are 30.00.
    const first = sell(1);
    sell(2, 'test');
    expect(row()).toEqual([3000, 3000, 0, 0]);
    expect(payoutsOf(services).due).toEqual([]);
    giveBack(first, 4100);
    // 41.00 of 123.00 are 33.33 of 100.00; 30 % of 66.67 are 20.001.
    expect(row()).toEqual([2000, 2000, 0, 0]);
    services.moment.at += 30 * DAY;
    expect(row()).toEqual([2000, 0, 2000, 0]);
    const { id } = payOut(services, 2000);
    expect(row()).toEqual([2000, 0, 0, 2000]);
    giveBack(first, 8200);
    expect(row()).toEqual([0, 0, -2000, 2000]);
    expect(payoutsOf(services)).toMatchObject({ due: [], total: 0, done: [{ id, total: 2000, partners: 1 }] });
    sell(3);
    services.moment.at += 30 * DAY;
    // 30.00 less the 20.00 that were paid for what came back.
    expect(payoutsOf(services)).toMatchObject({ due: [{ partnerId: ours, amount: 1000 }], total: 1000 });
    payOut(services, 1000);
    expect(row()).toEqual([3000, 0, 0, 3000]);
    expect(statementOf(services, ours).payouts.map(({ amount }) => amount)).toEqual([1000, 2000]);
    expect(statementCsv(services, ours).split('\n')[2]).toContain('First Light,1,0.00,30 %,0.00,0.00,');
    expect(payoutCsv(services, id)).toContain('ours@clubs.test,20.00,EUR');
  });

  it('is part of the profit, of what a campaign cost, and keeps the rate of its day', () => {
    sell(1);
    saveProgram(services, ProgramSchema.parse({ rules: share(50) }));
    const day = '2026-06-01';
    const asked = report(services, { by: 'spend', from: day, to: day, compare: 'none', funnelId: undefined, filter: undefined });
    // 100.00 came in without tax, 30.00 are the partner's, and nothing else cost anything.
    expect(asked.total).toMatchObject({ revenue: 10_000, commissions: 3000, profit: 7000 });
    sell(2);
    expect(row()[0]).toBe(3000 + 5000);
    savePartner(services, ours, partner('ours', { isOn: false }));
    sell(3);
    expect(row()[0]).toBe(8000);
  });

  it('is of a visit by their link for as long as the terms say, and of nobody else’s', () => {
    saveProgram(services, ProgramSchema.parse({ rules: share(30), linkDays: 10 }));
    const came = { partner: { id: ours, at: services.moment.at } };
    const owed = (email = 'buyer@moonmail.test', visitor: Parameters<typeof broughtBy>[1] = came) => broughtBy(services, visitor, email);
    expect([
      owed(),
      owed(' Ours@clubs.test'),
      owed('buyer@moonmail.test', null),
      owed('a@b.test', { partner: { id: 'prt_gone', at: services.moment.at } }),
    ]).toEqual([ours, null, null, null]);
    services.moment.at += 10 * DAY;
    expect(owed()).toBeNull();
  });
});
