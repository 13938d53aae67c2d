import path from 'node:path';
import Database from 'better-sqlite3';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '../src/base/problem';
import { loadShop, saveShop } from '../src/shop/store';
import { looking } from '../src/tracking/looking';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { type TestServices, testServices } from './support/services';

describe('what is looked at', () => {
  let services: TestServices;
  afterEach(() => services.end());

  it('is counted in a thread of its own, which sees what was written a moment before', async () => {
    services = testServices();
    const look = looking(services);
    const today = async () => (await look<{ figures: { today: object } }>('today', null)).figures.today;
    expect(await today()).toEqual({ orders: 0, revenue: 0, leads: 0 });
    const query = { by: 'day', from: '2026-05-01', to: '2026-06-01', against: 'nothing' };
    const currency = async () => (await look<{ currency: string }>('report', query)).currency;
    expect(await currency()).toBe('EUR');
    // What it keeps in memory is read anew once it has changed.
    const { settings } = loadShop(services.db);
    saveShop(services, { settings: { ...settings, currency: 'JPY' } });
    expect(await currency()).toBe('JPY');
  });

  it('is refused in the words of the question, and what is not known is an error', async () => {
    services = testServices();
    const { reading } = services;
    await expect(reading.ask('forecastBasis', { funnelId: 'fun_none', period: { from: '2026-05-01', to: '2026-06-01' } })).rejects.toThrow(Refusal);
    await expect(reading.ask('nonsense', null)).rejects.toThrow('Nobody can be asked for nonsense.');
    // Neither ends the thread.
    expect(await reading.ask('countOrders', { search: '' })).toBe(0);
  });

  it('can write nothing, and is given up by whoever stops the server', async () => {
    services = testServices();
    const { reading } = services;
    const waiting = reading.ask('countOrders', { search: '' });
    reading.close();
    await expect(waiting).rejects.toThrow('The server is being stopped.');
  });
});

describe('while a seller looks', () => {
  let ruta: Installation;
  let seller: Seller;
  beforeAll(async () => {
    ruta = await Installation.start();
    seller = await Seller.ofNewShop(ruta.studio);
  });
  afterAll(() => ruta.stop());

  it('every screen is answered with what was just written, whoever else asks', async () => {
    const funnel = await seller.sellingFunnel();
    const period = 'from=2026-11-01&to=2026-12-31';
    const asked = [
      '/funnels',
      `/funnels/${funnel.id}/figures?days=30`,
      `/reports?by=day&${period}`,
      '/today',
      '/experiments',
      '/orders/count',
      '/contacts/count',
    ];
    const answers = await Promise.all([...asked, ...asked].map((path) => seller.read(path)));
    expect(answers[0].rows.map(({ id }: { id: string }) => id)).toContain(funnel.id);
    expect(answers[5]).toEqual({ count: 0 });
  });

  it('and while another program holds the database pages are answered, and who pays or signs up waits for it', async () => {
    const funnel = await seller.sellingFunnel({ gift: true });
    const [buyer, reader] = [new Buyer(ruta.site), new Buyer(ruta.site)];
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const formId = /name="_form" value="(\w+)"/.exec(await reader.visit(`/${funnel.slug}`))?.[1] ?? '';
    const other = new Database(path.join(ruta.data, 'shop.sqlite'));
    other.exec('BEGIN IMMEDIATE');
    const done: string[] = [];
    const paying = buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'held@moonmail.test' }).finally(() => done.push('paid'));
    const signing = reader
      .form(`/go/${funnel.entry}/form`, { _form: formId, firstName: 'R', email: 'reader@moonmail.test' })
      .finally(() => done.push('signed up'));
    const saving = seller.changeShop({ name: 'Perigee Lane, renamed' }).finally(() => done.push('saved'));
    for (let page = 0; page < 40; page++) expect((await new Buyer(ruta.site).get(`/${funnel.slug}`)).status).toBe(200);
    expect((await seller.read(`/reports?by=day&from=2026-11-01&to=2026-12-31`)).by).toBe('day');
    expect(done).toEqual([]);
    await until(async () => (await fetch(`${ruta.studio}/api/health`)).status === 503, 'health says so');
    other.exec('COMMIT');
    other.close();
    expect((await paying).status).toBe(200);
    expect((await signing).status).toBe(303);
    await saving;
    await until(async () => (await fetch(`${ruta.studio}/api/health`)).status === 200, 'health is well again');
    expect((await seller.read('/shop')).settings.name).toBe('Perigee Lane, renamed');
    expect((await seller.orderOf('held@moonmail.test')).state).toBe('paid');
  });
});
