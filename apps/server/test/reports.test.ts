import { type Condition, ConditionSchema, truthOf } from '@ruta/core/conditions';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { type DimensionName, type Figures, figureOf, type ReportQuery, ReportQuerySchema, ReportSchema } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import type { TrackedEvent } from '@ruta/core/tracking';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { loadProduct } from '../src/catalog/store';
import { addTags, keepAnswers } from '../src/contacts/answers';
import { gatherFacts } from '../src/facts/gather';
import { loadFunnel } from '../src/funnel/store';
import { countRefunded } from '../src/orders/refunded';
import { linesOf, loadOrder } from '../src/orders/store';
import { openOrder } from '../src/orders/write';
import { markPaid } from '../src/payments/fulfil';
import { giveMoneyBack } from '../src/payments/refund';
import { behind } from '../src/reports/behind';
import { reportCsv } from '../src/reports/csv';
import { ordersFor } from '../src/reports/filter';
import { report } from '../src/reports/report';
import { loadShop } from '../src/shop/store';
import { createFunnel } from '../src/templates/createFunnel';
import { rebuildRollUps } from '../src/tracking/rebuild';
import { placeDays } from '../src/tracking/tables';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

const DAY = 24 * 60 * 60_000;
let services: TestServices;
let funnels: string[];
let productId: string;
beforeEach(() => {
  services = testServices();
  productId = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { kind: 'service', buyAgain: true })).id;
  funnels = ['One', 'Two'].map((name) => createFunnel(services, { name, template: 'straight-sale', productId }));
});
afterEach(() => services.end());

const stepOf = (funnelId: string, kind: string) => loadFunnel(services.db, funnelId).graph.steps.find((step) => step.kind === kind)?.id ?? '';
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
const byKey = (by: DimensionName, measure: keyof Figures, more: Partial<ReportQuery> = {}) =>
  Object.fromEntries(ask(by, more).rows.flatMap(({ key, figures }) => (figures[measure] ? [[key, figures[measure]]] : [])));

/** A log of a few people over a few days, some of it on the very edge of a day. */
const logOf = (begin: number, places: Array<{ funnelId: string; stepId: string; kind: string }>) =>
  fc.array(
    fc.record({
      at: fc.oneof(fc.integer({ min: 0, max: 6 * DAY }), fc.constantFrom(DAY - 1, DAY, 2 * DAY)).map((after) => begin + after),
      who: fc.integer({ min: 1, max: 5 }).map((number) => `vis_person${number}`),
      place: fc.constantFrom(...places),
      happens: fc.constantFrom('page.viewed', 'step.left', 'order.paid', 'lead.submitted'),
      source: fc.constantFrom('', 'letter', 'radio'),
      device: fc.constantFrom('phone', 'desktop'),
      mode: fc.constantFrom('live', 'live', 'live', 'test'),
      value: fc.constantFrom(0, 9_900),
    }),
    { minLength: 1, maxLength: 40 },
  );

type Log = ReturnType<typeof logOf> extends fc.Arbitrary<infer Rows> ? Rows : never;

const eventOf = (row: Log[number], index: number, run: string): TrackedEvent =>
  ({
    id: `evt_${run}${String(index).padStart(6, '0')}`,
    at: row.at,
    kind: row.happens,
    mode: row.mode,
    visitorId: row.who,
    visitId: null,
    funnelId: row.place.funnelId,
    stepId: row.place.stepId,
    publicationId: null,
    orderId: null,
    contactId: null,
    device: row.device,
    campaign: row.source ? { source: row.source } : null,
    firstCampaign: null,
    clicks: null,
    mayTell: true,
    data: row.happens === 'order.paid' ? { value: row.value } : {},
  }) as TrackedEvent;

/** Counts by looking through the whole log for each person: first there when, with what, and what they then did. */
function bruteForce(log: Log, isHere: (row: Log[number]) => boolean, keyOf: (first: Log[number]) => string) {
  const counts: Record<string, number> = {};
  const bought: Record<string, number> = {};
  for (const who of new Set(log.map((row) => row.who))) {
    const theirs = log.filter((row) => row.who === who && row.mode === 'live' && isHere(row));
    const words = ({ source, device }: Log[number]) => `${source}\n\n${device}`;
    const [first] = theirs.toSorted((a, b) => a.at - b.at || (words(a) < words(b) ? -1 : 1));
    if (!first) continue;
    const key = keyOf(first);
    counts[key] = (counts[key] ?? 0) + 1;
    if (theirs.some((row) => row.happens === 'order.paid' && row.value > 0)) bought[key] = (bought[key] ?? 0) + 1;
  }
  return { counts, bought };
}

/** The roll-ups of the current generation without what adds up to nothing. */
const rollUps = () =>
  services.db
    .select()
    .from(placeDays)
    .where(sql`generation = ${services.recorder.rollUps.generation} AND came > 0`)
    .orderBy(placeDays.placeId, placeDays.day, placeDays.device, placeDays.source)
    .all()
    .map(({ generation: _generation, ...row }) => row);

describe('people', () => {
  it('are those that a count of the whole log finds, in whatever order and however often it arrives, and the same when made anew', async () => {
    const begin = services.moment.at - 10 * DAY;
    const places = funnels.flatMap((funnelId) => ['sales', 'checkout'].map((kind) => ({ funnelId, stepId: stepOf(funnelId, kind), kind })));
    let run = 0;
    await fc.assert(
      fc.asyncProperty(logOf(begin, places), fc.infiniteStream(fc.nat()), async (log, chance) => {
        run++;
        for (const table of ['events', 'place_visitors', 'place_days', 'offer_showings']) services.db.run(sql`DELETE FROM ${sql.raw(table)}`);
        const events = log.map((row, index) => eventOf(row, index, `run${String(run).padStart(4, '0')}`));
        // Late, out of order, and every third one twice.
        const shuffled = events
          .flatMap((event, index) => (index % 3 === 0 ? [event, event] : [event]))
          .toSorted(() => (chance.next().value % 2 === 0 ? 1 : -1));
        for (const event of shuffled) services.recorder.record(event);

        const shop = bruteForce(
          log,
          () => true,
          ({ source }) => source,
        );
        expect(byKey('source', 'visitors')).toEqual(shop.counts);
        expect(byKey('source', 'converted')).toEqual(shop.bought);
        expect(byKey('day', 'visitors')).toEqual(
          bruteForce(
            log,
            () => true,
            ({ at }) => dayOf()(at),
          ).counts,
        );
        const [one = ''] = funnels;
        const ofOne = bruteForce(
          log,
          ({ place }) => place.funnelId === one,
          ({ device }) => device,
        );
        expect(byKey('device', 'visitors', { funnelId: one })).toEqual(ofOne.counts);
        for (const { stepId } of places) {
          const here = bruteForce(
            log,
            ({ place }) => place.stepId === stepId,
            () => stepId,
          );
          expect(byKey('step', 'came')[stepId] ?? 0).toBe(here.counts[stepId] ?? 0);
        }
        // Those who came to both funnels count in each, and once in the shop.
        const total = Object.values(shop.counts).reduce((sum, each) => sum + each, 0);
        expect(ask('funnel').total.visitors ?? 0).toBe(total);
        const kept = rollUps();
        expect(await rebuildRollUps(services)).toBe(true);
        expect(rollUps()).toEqual(kept);
      }),
      { numRuns: 40 },
    );
  });

  it('are counted by another time zone’s days once the figures are made anew, while what happens meanwhile is not lost', async () => {
    const [funnelId = ''] = funnels;
    const places = [{ funnelId, stepId: stepOf(funnelId, 'sales'), kind: 'sales' }];
    const log = fc.sample(logOf(services.moment.at - 10 * DAY, places), { numRuns: 200, seed: 7 }).flat();
    log.forEach((row, index) => {
      services.recorder.record(eventOf({ ...row, who: `vis_person${index % 900}` }, index, 'many'));
    });
    const rebuilding = rebuildRollUps(services);
    expect(await rebuildRollUps(services)).toBe(false);
    services.recorder.record(eventOf({ ...(log[0] as Log[number]), mode: 'live', who: 'vis_latecomer', at: services.moment.at }, 1, 'late'));
    await rebuilding;
    expect(byKey('day', 'visitors')[dayOf()(services.moment.at)]).toBe(1);
    expect(services.db.get<{ n: number }>(sql`SELECT count(DISTINCT generation) AS n FROM place_visitors`)?.n).toBe(1);
  });
});

/** A paid order of one product. */
function sell(funnelId: string, number: number, more: { country?: string; source?: string; quantity?: number; of?: string } = {}) {
  const shop = loadShop(services.db);
  const { country = 'PT', source, quantity = 1 } = more;
  const line = { ...cartLine('main', 'main', loadProduct(services.db, more.of ?? productId)), quantity };
  const { order, payment } = openOrder(services.db, services, {
    funnelId,
    stepId: stepOf(funnelId, 'checkout'),
    cartId: `crt_${String(number).padStart(9, '0')}`,
    visitorId: null,
    mode: 'live',
    quote: storedQuote(quoteCart(shop, { lines: [line], buyer: { country } }, services.moment.at)),
    codeId: null,
    buyer: { email: `buyer${number}@moonmail.test`, firstName: 'Ilse', lastName: '', country },
    campaign: source ? { source, campaign: `${source} one` } : null,
  });
  markPaid(services.db, services, order, payment);
  return order.id;
}

describe('money', () => {
  it('is the same in every report, and that of the orders to the cent', () => {
    const [one = '', two = ''] = funnels;
    const first = sell(one, 1, { source: 'letter', quantity: 3 });
    services.moment.at += DAY;
    sell(one, 2, { country: 'DE', source: 'radio' });
    sell(two, 3, { country: 'NO' });
    services.moment.at += DAY;
    // Of 369.00 a third and a cent was given back: 123.01, of which 69.00 × 123.01 ÷ 369.00 = 23.0019 are tax, so 100.01 goods.
    countRefunded(services.db, first, [{ id: linesOf(services.db, first)[0]?.id ?? '', amount: 123_01 }]);
    const paid = services.db.get<{ net: number }>(sql`SELECT sum(net) AS net FROM order_lines WHERE role <> 'shipping'`)?.net ?? 0;
    const expected = paid - 100_01;
    for (const by of ['day', 'funnel', 'step', 'product', 'price', 'code', 'campaign', 'source', 'country', 'device', 'partner', 'hour'] as const) {
      const { rows, total } = ReportSchema.parse(ask(by));
      expect([by, rows.reduce((sum, { figures }) => sum + (figures.revenue ?? 0), 0), total.revenue]).toEqual([by, expected, expected]);
      expect([by, rows.reduce((sum, { figures }) => sum + (figures.refunded ?? 0), 0)]).toEqual([by, 100_01]);
    }
    expect(ask('product').rows[0]?.figures).toMatchObject({ quantity: 5, orders: 3 });
    expect(byKey('source', 'orders')).toEqual({ letter: 1, radio: 1, '': 1 });
    // Average order before refunds, without tax: 300.00 + 100.00 of an inclusive 123.00 at home; the other two by their own rates.
    expect(figureOf(ask('funnel', { funnelId: one }).total, 'averageOrder')).toBe((ask('funnel', { funnelId: one }).total.orderValue as number) / 2);
    expect(reportCsv(ask('source')).trim().split('\n').at(-1) ?? '').toContain(`${(expected / 100).toFixed(2)}`);
  });

  it('can be of those orders alone for which a condition held; of whom only bought, no visitors are told', () => {
    const [one = ''] = funnels;
    sell(one, 1, { country: 'DE', source: 'letter' });
    sell(one, 2, { country: 'PT', source: 'letter' });
    const germans = ask('source', { filter: { fact: 'country', operator: 'one of', countries: ['DE'] } });
    expect(germans.total).toMatchObject({ orders: 1, visitors: null });
    expect(germans.visitorsUnknown).toBe(true);
    expect(figureOf(germans.total, 'perVisitor')).toBeNull();
    // What cannot be counted is told nowhere as 0.
    const filter = { fact: 'country', operator: 'one of', countries: ['DE'] } as const;
    for (const [by, measure] of [
      ['step', 'came'],
      ['cart', 'started'],
      ['spend', 'leads'],
    ] as const) {
      expect(ask(by, { filter: { ...filter, countries: ['DE'] } }).rows.map(({ figures }) => figures[measure])).not.toContain(undefined);
      expect(ask(by, { filter: { ...filter, countries: ['DE'] } }).rows.every(({ figures }) => figures[measure] === null)).toBe(true);
    }
    const byLetter = ask('source', { filter: { fact: 'source', which: 'last', source: 'letter' } });
    expect([byLetter.visitorsUnknown, byLetter.total.orders]).toEqual([false, 2]);
  });

  it('asks a filter of many orders at once what it would of each by itself', () => {
    const [one = ''] = funnels;
    const bundled = createProduct(
      services,
      selling('Star Wheel', { kind: 'one-time', regular: 2400 }, { kind: 'service', buyAgain: true, tags: ['paper'] }),
    ).id;
    const sold = [sell(one, 1, { country: 'DE', source: 'letter', quantity: 3 }), sell(one, 2, { of: bundled }), sell(one, 1001, { source: 'radio' })];
    // Somebody who came back, and gave the second one back whole.
    services.db.run(sql`UPDATE orders SET contact_id = (SELECT contact_id FROM orders WHERE id = ${sold[0]}) WHERE id = ${sold[1]}`);
    const second = sold[1] ?? '';
    countRefunded(
      services.db,
      second,
      linesOf(services.db, second).map(({ id, total }) => ({ id, amount: total })),
    );
    const { contactId } = loadOrder(services.db, sold[2] ?? '');
    addTags(services.db, services, contactId ?? '', ['choir']);
    keepAnswers(services.db, services, contactId ?? '', 'frm_1', [{ field: 'fld_1', label: 'Where', value: 'Faro' }]);
    const filters: Condition[] = [
      { fact: 'owned', what: { by: 'product', productId: bundled } },
      { fact: 'owned', what: { by: 'product', productId }, quantity: 3 },
      { fact: 'bought', what: { by: 'tag', tag: 'paper' } },
      { fact: 'orderTotal', operator: 'at least', amount: 15_000 },
      { not: { fact: 'code' } },
      { fact: 'country', operator: 'one of', countries: ['DE'] },
      { fact: 'source', which: 'last', source: 'radio' },
      { fact: 'tag', tag: 'choir' },
      { fact: 'answer', question: 'fld_1', answer: 'Faro' },
      { fact: 'paymentMethod', method: 'card' },
    ].map((filter) => ConditionSchema.parse(filter));
    const period = { from: 0, until: services.moment.at + DAY };
    const held = filters.map((filter) => {
      const oneByOne = sold.filter((id) => {
        const order = loadOrder(services.db, id);
        return truthOf(filter, gatherFacts(services, { order, visitor: null, at: order.paidAt ?? 0 })) === true;
      });
      expect((JSON.parse(ordersFor(services, filter, 'product', period)) as string[]).toSorted()).toEqual(oneByOne.toSorted());
      return oneByOne.length;
    });
    expect(held).toEqual([0, 2, 1, 1, 3, 1, 1, 1, 1, 3]);
  });

  it('is compared with as many days before, day by day', () => {
    const [one = ''] = funnels;
    const day = dayOf()(services.moment.at);
    sell(one, 1);
    services.moment.at += 7 * DAY;
    sell(one, 2, { quantity: 2 });
    const later = dayOf()(services.moment.at);
    const before = { by: 'day', to: later, compare: 'before', funnelId: undefined, filter: undefined } as const;
    // A day that is not over is compared with no whole one.
    const unfinished = report(services, { ...before, from: later });
    expect([unfinished.earlier, unfinished.totalBefore, unfinished.total.orders]).toEqual([null, undefined, 1]);
    services.moment.at += DAY;
    const asked = report(services, { ...before, from: later });
    expect([asked.earlier?.to, asked.totalBefore?.orders ?? 0]).toEqual([dayOf()(services.moment.at - 2 * DAY), 0]);
    const wide = report(services, {
      by: 'day',
      from: dayOf()(services.moment.at - 7 * DAY),
      to: later,
      compare: 'before',
      funnelId: undefined,
      filter: undefined,
    });
    expect(wide.rows.at(-1)?.figures.orders).toBe(1);
    expect([wide.totalBefore?.orders, wide.rows.at(-1)?.before?.orders, wide.earlier?.to]).toEqual([1, 1, day]);
  });

  it('says in words what cannot be asked', () => {
    const wrong = (query: object) => ReportQuerySchema.safeParse({ by: 'day', from: '2026-01-01', to: '2026-01-31', ...query }).error?.issues[0]?.message;
    expect(wrong({})).toBeUndefined();
    expect(wrong({ from: '2026-02-01' })).toBe('The period ends before it begins.');
    expect(wrong({ from: '2001-01-01' })).toBe('Ask for ten years at most.');
    expect(wrong({ from: 'yesterday' })).toBe('Write a day as 2026-03-31.');
    expect(wrong({ filter: '{"fact":"nothing"}' })).toBe('This filter cannot be read. Choose it anew.');
  });
});

describe('subscribers', () => {
  it('are followed by the month they began in: who stayed how long, what they paid, and their orders', () => {
    const [one = ''] = funnels;
    const monthly = { kind: 'subscription' as const, regular: 12_30, interval: { every: 1, unit: 'month' as const }, charges: null };
    const club = createProduct(services, selling('Club', monthly, { kind: 'service', buyAgain: true })).id;
    sell(one, 1);
    const from = dayOf()(services.moment.at);
    // The first of June: two begin, one of them gets its money back on the last day before the month is full.
    const leaves = sell(one, 2, { of: club });
    services.moment.at += 60_000;
    sell(one, 3, { of: club });
    services.moment.at += 29 * DAY;
    const [line] = linesOf(services.db, leaves);
    const request = { id: 'rfd_0000000001', lines: [{ id: line?.id ?? '', amount: 12_30 }], way: 'noted' as const, reason: '', takesBack: true, tells: false };
    giveMoneyBack(services, leaves, request);
    services.moment.at += 31 * DAY;
    sell(one, 4, { of: club });
    const { rows, total } = ask('cohort', { from });
    expect(
      rows.map(({ key, figures }) => [key, figures.subscribed, figures.goesOn, figures.dueOne, figures.keptOne, figures.dueTwo, figures.paidSince]),
    ).toEqual([
      // 12.30 with tax are 10.00 without; of June one is left, and its one payment.
      ['2026-06', 2, 1, 2, 1, 0, 10_00],
      ['2026-07', 1, 1, 0, 0, 0, 10_00],
    ]);
    expect([figureOf(total, 'stayOne'), figureOf(total, 'stayTwo'), figureOf(total, 'perSubscriber')]).toEqual([1 / 2, null, 2000 / 3]);
    const orders = behind(services, { by: 'cohort', key: '2026-06', from, to: dayOf()(services.moment.at), compare: 'none', filter: undefined });
    expect(orders).toMatchObject({ count: 2, revenue: 10_00, orders: [{ revenue: 10_00 }, { revenue: 0 }] });
  });
});
