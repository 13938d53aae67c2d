import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { dayFinder } from '@ruta/core/shop';
import type { EventKind } from '@ruta/core/tracking';
import type { Request, Response } from 'express';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct, setArchived, updateProduct } from '../src/catalog/service';
import { loadProduct } from '../src/catalog/store';
import { problemsOf } from '../src/checks/funnelChecks';
import { publishHere } from '../src/checks/publish';
import { checkDownloadLink, downloadLink } from '../src/delivery/links';
import { orderByToken } from '../src/delivery/orderLink';
import { unpublishedChanges } from '../src/funnel/service';
import { loadFunnel } from '../src/funnel/store';
import { loadOrder } from '../src/orders/store';
import { openOrder } from '../src/orders/write';
import { savePage } from '../src/page/save';
import { markPaid } from '../src/payments/fulfil';
import { funnelFigures } from '../src/reports/funnelFigures';
import { loadShop } from '../src/shop/store';
import { handleTeamLink, isTeam, teamLink } from '../src/team/mark';
import { createFunnel } from '../src/templates/createFunnel';
import { makeEvent, visitorOf } from '../src/tracking/visitor';
import { ownWords } from './support/ownWords';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

let services: TestServices;
let funnelId: string;
let productId: string;
beforeEach(() => {
  services = testServices();
  productId = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { kind: 'service' })).id;
  funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId });
  for (const { id, revision, draft } of loadFunnel(services.db, funnelId).steps) savePage(services, id, { revision, page: ownWords(draft) });
});
afterEach(() => services.end());

const step = (kind: string) => loadFunnel(services.db, funnelId).graph.steps.find((candidate) => candidate.kind === kind)?.id ?? '';
const request = (visitor: string, cookies = '') =>
  ({
    headers: { cookie: `ruta_visitor=${visitor}${cookies}`, 'user-agent': 'Mozilla/5.0 (iPhone) Mobile' },
    query: {},
  }) as unknown as Request;

/** Somebody does something at a stop, now. */
function happens(kind: EventKind, visitorId: string, stepId: string, query: Record<string, string> = {}) {
  const visitor = visitorOf(services, request(visitorId), query);
  if (!visitor) throw new Error('nobody is there');
  services.recorder.gather(makeEvent(services, kind, 'live', visitor, { funnelId, stepId }), visitor);
  services.recorder.flush();
  return visitor;
}

function sells(visitorId: string | null, email: string, cart: string) {
  const line = cartLine('main', 'main', loadProduct(services.db, productId));
  const quote = storedQuote(quoteCart(loadShop(services.db), { lines: [line], buyer: { country: 'PT' } }, services.moment.at));
  const { order, payment } = openOrder(services.db, services, {
    funnelId,
    stepId: step('checkout'),
    cartId: cart,
    visitorId,
    mode: 'live',
    quote,
    codeId: null,
    buyer: { email, firstName: 'Ilse', lastName: '', country: 'PT' },
    campaign: null,
  });
  markPaid(services.db, services, order, payment);
  return loadOrder(services.db, order.id);
}

describe('visits', () => {
  it('last while there is something within 30 minutes, and the first campaign is kept beside the last', () => {
    const first = happens('page.viewed', 'vis_aaaaaaaaaa', step('sales'), { utm_source: 'letter' });
    services.moment.at += 30 * MINUTE;
    const same = happens('page.viewed', 'vis_aaaaaaaaaa', step('sales'));
    services.moment.at += 30 * MINUTE + 1;
    const next = happens('page.viewed', 'vis_aaaaaaaaaa', step('sales'), { utm_source: 'radio' });
    expect(same.visitId).toBe(first.visitId);
    expect(next.visitId).not.toBe(first.visitId);
    expect(next).toMatchObject({ device: 'phone', firstAt: first.firstAt, firstCampaign: { source: 'letter' }, lastCampaign: { source: 'radio' } });
  });
});

describe('figures', () => {
  it('attribute people to the day of their first view, and net revenue is without tax', () => {
    const begin = services.moment.at;
    happens('page.viewed', 'vis_aaaaaaaaaa', step('sales'));
    happens('page.viewed', 'vis_bbbbbbbbbb', step('sales'));
    happens('page.viewed', 'vis_cccccccccc', step('sales'));
    services.moment.at += 2 * DAY;
    // One of the three goes on two days later, and a fourth comes for the first time.
    happens('step.left', 'vis_aaaaaaaaaa', step('sales'));
    happens('page.viewed', 'vis_dddddddddd', step('sales'));
    happens('page.viewed', 'vis_aaaaaaaaaa', step('checkout'));
    sells('vis_aaaaaaaaaa', 'ilse@moonmail.test', 'crt_000000001');
    sells(null, 'other@moonmail.test', 'crt_000000002');
    const dayOf = dayFinder(loadShop(services.db).settings.timeZone);
    const figures = (from: number, to: number) => funnelFigures(services, funnelId, [step('sales'), step('checkout')], { from: dayOf(from), to: dayOf(to) });
    const firstDay = figures(begin, begin);
    expect(firstDay.steps[0]).toEqual({ stepId: step('sales'), came: 3, reached: 1, rate: 1 / 3 });
    expect(firstDay).toMatchObject({ orders: 0, netRevenue: 0, averageOrder: null });
    const whole = figures(begin, services.moment.at);
    expect(whole.steps).toEqual([
      { stepId: step('sales'), came: 4, reached: 1, rate: 0.25 },
      { stepId: step('checkout'), came: 1, reached: 1, rate: 1 },
    ]);
    // 123.00 holds 123.00 × 23 ÷ 123 = 23.00 tax, so 100.00 are left of each; two orders over four visitors.
    expect(whole).toMatchObject({ visitors: 4, buyers: 2, orders: 2, netRevenue: 20_000, averageOrder: 10_000, revenuePerVisitor: 5000 });
  });
});

describe('links', () => {
  const parts = (link: string) => new URL(link).searchParams;
  it.each([
    ['page', DAY],
    ['mail', 30 * DAY],
  ] as const)('to files from a %s end in time', (use, lasting) => {
    const link = parts(downloadLink(services, 'grt_0000001', use));
    const state = () => checkDownloadLink(services, 'grt_0000001', link.get('until') ?? '', link.get('signature') ?? '');
    services.moment.at += lasting - 1;
    expect(state()).toBe('good');
    services.moment.at += 1;
    expect(state()).toBe('expired');
    expect(checkDownloadLink(services, 'grt_0000002', link.get('until') ?? '', link.get('signature') ?? '')).toBe('false');
  });

  it('to an order’s page of which nothing is kept end after 90 days', () => {
    const order = sells(null, 'ilse@moonmail.test', 'crt_000000001');
    services.moment.at += 90 * DAY - 1;
    expect(orderByToken(services, order.token)?.id).toBe(order.id);
    services.moment.at += 1;
    expect(orderByToken(services, order.token)).toBeUndefined();
    expect(orderByToken(services, undefined)).toBeUndefined();
  });

  it('that mark the shop’s own people hold five minutes, the mark two weeks', () => {
    const cookies: Record<string, string> = {};
    const response = {
      cookie: (name: string, value: string) => (cookies[name] = value),
      set: () => response,
      status: () => response,
      end: () => response,
    } as unknown as Response;
    const link = new URL(teamLink(services)).searchParams.get('mark') ?? '';
    const open = (mark: string) => handleTeamLink(services, { query: { mark } } as unknown as Request, response);
    open(`${Number(link.split('.')[0]) + 1}.${link.split('.')[1]}`);
    expect(cookies).toEqual({});
    services.moment.at += 5 * MINUTE - 1;
    open(link);
    const marked = request('vis_aaaaaaaaaa', `; ruta_team=${cookies.ruta_team}`);
    expect(isTeam(services, marked)).toBe(true);
    services.moment.at += 14 * DAY;
    expect(isTeam(services, marked)).toBe(false);
  });
});

describe('publishing', () => {
  it('knows what has changed since, page by page', () => {
    const changes = () => unpublishedChanges(loadFunnel(services.db, funnelId));
    expect(changes().stepIds).toHaveLength(3);
    publishHere(services, funnelId, null);
    expect(changes()).toEqual({ stepIds: [], settings: false });
    const sales = loadFunnel(services.db, funnelId).steps.find((each) => each.kind === 'sales');
    if (!sales) throw new Error('no sales page');
    const revision = savePage(services, sales.id, { revision: sales.revision, page: { ...sales.draft, title: 'Another' } });
    expect(changes()).toEqual({ stepIds: [sales.id], settings: false });
    savePage(services, sales.id, { revision, page: sales.draft });
    expect(changes()).toEqual({ stepIds: [], settings: false });
  });

  it('stops what cannot be sold, and warns of what is likely forgotten', () => {
    const problems = () => problemsOf(services, loadFunnel(services.db, funnelId)).map(({ message, severity }) => `${severity}: ${message}`);
    // No processor is connected in this shop, and it has written no terms.
    expect(problems()).toEqual([
      expect.stringContaining('warning: No card processor is connected'),
      expect.stringContaining('warning: The order form speaks of terms'),
    ]);
    const price = { kind: 'one-time' as const, regular: 100 };
    updateProduct(services, productId, selling('First Light', price));
    expect(problems()).toEqual(expect.arrayContaining([expect.stringContaining('has nothing to deliver')]));
    updateProduct(services, productId, selling('First Light', price, { kind: 'physical' }));
    expect(problems()).toEqual(expect.arrayContaining([expect.stringMatching(/^blocking: .+no shipping rates/)]));
    setArchived(services, productId, true);
    expect(problems()).toEqual(expect.arrayContaining([expect.stringMatching(/^blocking: .+archived/)]));
    expect(() => publishHere(services, funnelId, null)).toThrow('cannot go live yet');
  });
});
