import type { Campaign } from '@ruta/core/facts';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { type DimensionName, figureOf, type ReportQuery } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { loadProduct } from '../src/catalog/store';
import { loadFunnel } from '../src/funnel/store';
import { openOrder } from '../src/orders/write';
import { markPaid } from '../src/payments/fulfil';
import { behind } from '../src/reports/behind';
import { report } from '../src/reports/report';
import { importSpend } from '../src/reports/spendFile';
import { loadShop, saveShop } from '../src/shop/store';
import { createFunnel } from '../src/templates/createFunnel';
import type { VisitorRow } from '../src/tracking/recorder';
import { makeEvent } from '../src/tracking/visitor';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

const DAY = 24 * 60 * 60_000;
let services: TestServices;
let funnelId: string;
let productId: string;
beforeEach(() => {
  services = testServices();
  productId = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { kind: 'service', buyAgain: true })).id;
  funnelId = createFunnel(services, { name: 'One', template: 'straight-sale', productId });
});
afterEach(() => services.end());

const stepOf = (kind: string) => loadFunnel(services.db, funnelId).graph.steps.find((step) => step.kind === kind)?.id ?? '';
const dayOf = () => dayFinder(loadShop(services.db).settings.timeZone);
const ask = (by: DimensionName, more: Partial<ReportQuery> = {}) =>
  report(services, {
    filter: undefined,
    by,
    from: dayOf()(services.moment.at - 30 * DAY),
    to: dayOf()(services.moment.at),
    compare: 'none',
    ...more,
  });
const rowsOf = (by: DimensionName, more: Partial<ReportQuery> = {}) =>
  Object.fromEntries(ask(by, more).rows.map(({ name, detail, figures }) => [detail ? `${name} (${detail})` : name, figures]));

/** An order of 123.00 with tax, 100.00 without, paid at once. */
function sell(
  number: number,
  { campaign = null, quantity = 1, visitorId = null }: { campaign?: Campaign | null; quantity?: number; visitorId?: string | null } = {},
) {
  const shop = loadShop(services.db);
  const line = { ...cartLine('main', 'main', loadProduct(services.db, productId)), quantity };
  const { order, payment } = openOrder(services.db, services, {
    funnelId,
    stepId: stepOf('checkout'),
    cartId: `crt_${String(number).padStart(9, '0')}`,
    visitorId,
    mode: 'live',
    quote: storedQuote(quoteCart(shop, { lines: [line], buyer: { country: 'PT' } }, services.moment.at)),
    codeId: null,
    buyer: { email: `buyer${number}@moonmail.test`, firstName: 'Ilse', lastName: '', country: 'PT' },
    campaign,
  });
  markPaid(services.db, services, order, payment);
}

/** Somebody who comes by each campaign in turn, a day apart, the last time now; and leaves an address then. */
function comes(number: number, visits: Array<Campaign | null>): string {
  const id = `vis_person${String(number).padStart(6, '0')}`;
  const { at } = services.moment;
  const [first = null] = visits;
  let last: Campaign | null = null;
  visits.forEach((campaign, index) => {
    services.moment.at = at - (visits.length - 1 - index) * DAY;
    last = campaign ?? last;
    const visitor: VisitorRow = {
      ...{ id, countsAs: null, contactId: null, typed: null, firstAt: at, lastAt: at, visitId: `vst_${index}`, visits: index + 1, device: 'phone' },
      ...{ firstCampaign: first, lastCampaign: last, firstClicks: null, lastClicks: null, address: null, agent: null, consent: null, partner: null },
    };
    services.recorder.saveVisitor(visitor);
    const place = { funnelId, stepId: stepOf('sales') };
    services.recorder.record(makeEvent(services, 'page.viewed', 'live', visitor, place));
    if (index === visits.length - 1) services.recorder.record(makeEvent(services, 'lead.submitted', 'live', visitor, { ...place, data: {} }));
  });
  services.moment.at = at;
  return id;
}

const SPEND = (cost: string) =>
  ['Reporting day;Campaign name;Amount spent;Link clicks', `01.06.2026;letter one;${cost};40`, '01.06.2026;unheard of;5,00;2', `Total;;${cost};42`].join('\n');

describe('ad spend', () => {
  it('is brought in by a mapping that is remembered, the same file twice changes nothing, and a wrong one changes nothing at all', () => {
    const text = SPEND('12,50');
    const looked = importSpend(services, { text, apply: false });
    expect(looked).toMatchObject({ isRemembered: false, rows: 2, skipped: 1, total: 1750, added: 2, from: '2026-06-01', applied: false, problems: [] });
    const mapping = { ...looked.mapping, fixedSource: 'skylark' };
    expect(importSpend(services, { text, mapping, apply: true })).toMatchObject({
      added: 2,
      applied: true,
      unknownCampaigns: ['letter one (skylark)', 'unheard of (skylark)'],
    });
    expect(importSpend(services, { text, apply: true })).toMatchObject({ isRemembered: true, mapping, added: 0, same: 2 });
    expect(importSpend(services, { text: SPEND('20,00'), apply: true })).toMatchObject({ added: 0, changed: 1, same: 1 });
    const wrong = importSpend(services, { text: SPEND('$30,00'), apply: true });
    expect([wrong.applied, wrong.problems[0]?.message]).toEqual([false, expect.stringContaining('the shop counts in EUR')]);
    expect(ask('spend').total).toMatchObject({ cost: 2500, clicks: 42 });
  });

  it('stands beside what it brought, down to the profit, by hand', () => {
    sell(1, { campaign: { source: 'letter', campaign: 'letter one' }, quantity: 2 });
    sell(2);
    importSpend(services, { text: SPEND('12,50'), apply: true });
    const [edition] = loadProduct(services.db, productId).editions;
    const { settings } = loadShop(services.db);
    saveShop(services, { settings: { ...settings, costs: { feePercent: 1.4, feeFixed: 25, sendingPercent: 100, goods: { [edition?.id ?? '']: 20_00 } } } });
    const row = ask('spend').rows.find(({ name }) => name === 'letter one');
    // 246.00 paid, 200.00 without tax. Fee 1.4 % of 246.00 = 3.444, rounded 3.44, and 0.25. Goods 2 × 20.00. Ads 12.50.
    expect(row?.figures).toMatchObject({ revenue: 200_00, fees: 3_69, goods: 40_00, cost: 12_50, profit: 200_00 - 3_69 - 40_00 - 12_50, orders: 1 });
    expect(figureOf(row?.figures ?? {}, 'costPerSale')).toBe(12_50);
    expect(figureOf(row?.figures ?? {}, 'returnOnSpend')).toBe(16);
    // Of one funnel nobody knows what the ads cost, and so there is no profit either.
    expect(ask('spend', { funnelId }).total).toMatchObject({ cost: null, profit: null });
    const owed = ask('attribution');
    for (const model of ['owedFirst', 'owedLast', 'owedLinear', 'owedPosition', 'owedDecay'] as const) expect(owed.total[model]).toBe(300_00);
    const found = behind(services, {
      by: 'spend',
      key: 'letter\nletter one',
      from: dayOf()(services.moment.at),
      to: dayOf()(services.moment.at),
      compare: 'none',
      filter: undefined,
    });
    expect(found).toMatchObject({ count: 1, revenue: 200_00, orders: [{ email: 'buyer1@moonmail.test', revenue: 200_00 }] });
  });
});

describe('campaigns', () => {
  const spring = { source: 'press', campaign: 'spring' };
  const letter = { source: 'letter', campaign: 'one' };
  beforeEach(() => {
    sell(1, { visitorId: comes(1, [spring, letter]), campaign: letter });
    sell(2, { visitorId: comes(2, [letter]), campaign: letter });
    comes(3, [spring, null]);
    sell(4, { visitorId: comes(4, [null, spring]), campaign: spring });
  });

  it('have the visitors, leads, orders and money of the same visit in one row, whichever is chosen, and the same in all', () => {
    const first = rowsOf('campaign');
    expect(first).toMatchObject({
      spring: { visitors: 2, leads: 2, orders: 1, revenue: 100_00 },
      one: { visitors: 1, leads: 1, orders: 1, revenue: 100_00 },
      'No campaign': { visitors: 1, leads: 1, orders: 1, revenue: 100_00 },
    });
    const last = rowsOf('campaign', { visit: 'last' });
    expect(last).toMatchObject({ spring: { visitors: 2, leads: 2, orders: 1, revenue: 100_00 }, one: { visitors: 2, leads: 2, orders: 2, revenue: 200_00 } });
    expect(Object.keys(last).toSorted()).toEqual(['one', 'spring']);
    expect([ask('campaign').visit, ask('campaign', { visit: 'last' }).visit, ask('day').visit]).toEqual(['first', 'last', null]);
    for (const [by, visit] of [
      ['campaign', 'first'],
      ['campaign', 'last'],
      ['source', 'first'],
      ['source', 'last'],
      ['spend', 'first'],
      ['spend', 'last'],
    ] as const) {
      const { rows, total } = ask(by, { visit });
      const sum = (measure: 'leads' | 'orders' | 'revenue') => rows.reduce((all, { figures }) => all + (figures[measure] ?? 0), 0);
      expect([by, visit, sum('leads'), sum('orders'), sum('revenue')]).toEqual([by, visit, 4, 3, 300_00]);
      expect([total.leads, total.orders, total.revenue]).toEqual([4, 3, 300_00]);
    }
    // The orders behind a row are those that it counts.
    const query = { by: 'campaign', from: ask('day').from, to: ask('day').to, compare: 'none', filter: undefined } as const;
    expect(behind(services, { ...query, key: 'spring', visit: 'first' }).orders.map(({ email }) => email)).toEqual(['buyer1@moonmail.test']);
    expect(behind(services, { ...query, key: 'spring', visit: 'last' }).orders.map(({ email }) => email)).toEqual(['buyer4@moonmail.test']);
  });

  it('are asked for by a filter as visitors and buyers came, first or last', () => {
    const filter = (which: 'first' | 'last') => ({ fact: 'campaign', which, campaign: ' Spring' }) as const;
    expect(ask('day', { filter: filter('first') }).total).toMatchObject({ visitors: 2, orders: 1 });
    expect(ask('day', { filter: filter('last') }).total).toMatchObject({ visitors: 2, orders: 1 });
    expect(ask('campaign', { filter: { fact: 'campaign', which: 'last', campaign: 'one' } }).total).toMatchObject({ visitors: 2, orders: 2 });
  });

  it('are told apart by their source where ads are paid for; what came without ads is neither cheap nor a return', () => {
    const text = [
      'day,campaign,cost,source,clicks',
      '2026-06-01, Spring ,30.00,PRESS,10',
      '2026-06-01,spring,7.00,elsewhere,3',
      '2026-06-01,ONE,,letter,0',
    ].join('\n');
    expect(importSpend(services, { text, apply: true })).toMatchObject({ applied: true, unknownCampaigns: ['spring (elsewhere)'] });
    const { rows, total } = ask('spend');
    const row = (name: string, detail?: string) => rows.find((each) => each.name === name && each.detail === detail)?.figures ?? {};
    expect(row('spring', 'press')).toMatchObject({ cost: 30_00, leads: 2, orders: 1, revenue: 100_00 });
    expect(row('spring', 'elsewhere')).toMatchObject({ cost: 7_00 });
    expect(figureOf(row('spring', 'press'), 'costPerLead')).toBe(15_00);
    for (const measure of ['costPerLead', 'costPerSale', 'returnOnSpend'] as const) {
      expect(figureOf(row('one', 'letter'), measure)).toBeNull();
      expect(figureOf(row('No campaign'), measure)).toBeNull();
    }
    // 37.00 for 2 leads, 1 sale and 100.00, not for the 4 leads and 3 sales of everybody.
    expect([figureOf(total, 'costPerLead'), figureOf(total, 'costPerSale'), figureOf(total, 'returnOnSpend')]).toEqual([18_50, 37_00, 100 / 37]);
    expect([total.orders, total.revenue]).toEqual([3, 300_00]);
    const owed = ask('attribution');
    expect(owed.rows.find(({ name, detail }) => name === 'spring' && detail === 'press')?.figures).toMatchObject({
      cost: 30_00,
      owedFirst: 200_00,
      owedLast: 100_00,
    });
  });
});
