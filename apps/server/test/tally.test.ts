import { inArm } from '@ruta/core/experiments';
import { mainOffer } from '@ruta/core/offers';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { seededRandom } from '@ruta/core/statistics';
import { sql } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { changeArmMap, openFunnel } from '../src/arms/armFunnel';
import { tallyRounds } from '../src/arms/tally';
import { loadProduct } from '../src/catalog/store';
import { endTest, planTest, startTest } from '../src/experiments/lifecycle';
import { viewTest } from '../src/experiments/view';
import { loadFunnel } from '../src/funnel/store';
import { linesOf } from '../src/orders/store';
import { openOrder } from '../src/orders/write';
import { markPaid } from '../src/payments/fulfil';
import { giveMoneyBack } from '../src/payments/refund';
import { loadShop } from '../src/shop/store';
import { rebuildRollUps } from '../src/tracking/rebuild';
import { makeEvent, placeOf } from '../src/tracking/visitor';
import { closeShop, DAY, testedShop } from './support/testedShop';

afterEach(closeShop);

const MINUTE = 60_000;

/** A shop whose checkout is under test with one goal, and what may happen there, in any order. */
function playedShop(goal: 'revenue' | 'next' | 'leads' | 'sales') {
  const { services, funnelId, who } = testedShop();
  const { db, moment } = services;
  const checkout = loadFunnel(db, funnelId).graph.steps.find(({ kind }) => kind === 'checkout');
  const offer = checkout && mainOffer(checkout);
  if (!checkout || !offer) throw new Error('Nothing is sold.');
  const product = loadProduct(db, offer.productId);
  const { id, armId } = planTest(services, { funnelId, stepId: checkout.id, name: 'Half the price', goal });
  const arm = inArm(funnelId, armId);
  const sells = checkout.sells.map((each) => ({ ...each, discount: { kind: 'percent' as const, percent: 50, base: 'current' as const } }));
  const { revision } = openFunnel(db, arm).funnel;
  changeArmMap(services, arm, { revision, operations: [{ kind: 'changeStep', stepId: checkout.id, changes: { sells } }] }, () => undefined);
  let count = 0;
  db.run(sql`WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < 39)
    INSERT INTO visitors (id, first_at, last_at, visit_id, visits, device) SELECT printf('vis_%08d', i), 0, 0, 'vst_1', 1, 'phone' FROM n`);
  const visitorOf = (person: number) => `vis_${String(person).padStart(8, '0')}`;
  const happens = (kind: 'page.viewed' | 'lead.submitted', person: number, at: number) => {
    const live = services.live.step(checkout.id, who(visitorOf(person)));
    if (!live) throw new Error('There is no checkout.');
    const event = makeEvent(services, kind, 'live', null, placeOf(live), `evt_${String(++count).padStart(10, '0')}`);
    services.recorder.record({ ...event, at, visitorId: visitorOf(person), device: person % 2 ? 'phone' : 'desktop' });
  };
  const orders: string[] = [];
  const buys = (person: number, amount: number) => {
    const live = services.live.step(checkout.id, who(visitorOf(person)));
    if (!live) throw new Error('There is no checkout.');
    const lines = [
      cartLine('main', 'main', product, {}, { discount: { kind: 'percent', percent: amount, base: 'current' } }),
      ...(amount > 50 ? [cartLine('bump-off_extra00', 'bump', product, {})] : []),
    ];
    const quote = storedQuote(quoteCart(loadShop(db), { lines, buyer: { country: 'PT' } }, moment.at));
    const opened = openOrder(db, services, {
      ...{ funnelId, stepId: checkout.id, publicationId: placeOf(live).publicationId, cartId: `crt_${String(++count).padStart(10, '0')}` },
      ...{ visitorId: visitorOf(person), mode: 'live', codeId: null, campaign: null, quote, arms: live.arms },
      buyer: { email: `buyer${person}@moonmail.test`, firstName: 'Ilse', lastName: '', country: 'PT' },
    });
    db.transaction((tx) => markPaid(tx, services, opened.order, opened.payment));
    orders.push(opened.order.id);
  };
  const givesBack = (index: number, part: number) => {
    const orderId = orders[index % orders.length];
    const line = orderId ? linesOf(db, orderId).find(({ total, refunded }) => total > refunded) : undefined;
    if (!orderId || !line) return;
    const amount = Math.max(1, Math.floor((line.total - line.refunded) * part));
    const request = { id: `ask_${String(++count).padStart(10, '0')}`, way: 'noted' as const, lines: [{ id: line.id, amount }], reason: 'Not liked' };
    giveMoneyBack(services, orderId, { ...request, takesBack: false, tells: false });
  };
  return { services, id, happens, buys, givesBack };
}

/** What a test is planned by: people who came, and of whom some did what it waits for. */
function before({ services, happens, buys }: ReturnType<typeof playedShop>) {
  for (let person = 0; person < 24; person++) happens('page.viewed', person, Date.UTC(2026, 5, 1, 11));
  for (let person = 0; person < 5; person++) happens('lead.submitted', person, Date.UTC(2026, 5, 1, 11, 30));
  for (let person = 0; person < 7; person++) buys(person, person * 15);
  services.moment.at += MINUTE;
}

describe.each(['revenue', 'next', 'leads', 'sales'] as const)('a test that waits for %s', (goal) => {
  it('counts onward what counting whole finds, whatever happens in whatever order', async () => {
    const here = playedShop(goal);
    const { services, id, happens, buys, givesBack } = here;
    const { db, moment } = services;
    const random = seededRandom({ revenue: 11, next: 12, leads: 13, sales: 14 }[goal]);
    const any = (most: number) => Math.floor(random() * most);
    const play = (times: number) => {
      for (let index = 0; index < times; index++) {
        moment.at += any(90) * MINUTE;
        const person = any(40);
        // Views are written a moment after they happened, some long after.
        const viewed = () => happens('page.viewed', person, moment.at - any(2) * any(200) * MINUTE);
        [
          viewed,
          viewed,
          viewed,
          () => happens('lead.submitted', person, moment.at - any(3) * MINUTE),
          () => buys(person, any(99)),
          () => givesBack(any(90), random()),
        ][any(6)]?.();
      }
    };
    const kept = () => [
      db.all(sql`SELECT * FROM round_visitors ORDER BY round_id, visitor_id`),
      db.all(sql`SELECT * FROM round_days WHERE visitors <> 0 ORDER BY 1, 2, 3, 4`),
    ];
    before(here);
    startTest(services, id);
    play(250);
    const [visitors = [], days = []] = kept();
    expect(visitors.length).toBeGreaterThan(30);
    expect(days.length).toBeGreaterThan(5);
    await tallyRounds(services, 'all');
    expect(kept()).toEqual([visitors, days]);
    // The same once figures are made anew from the log, and of what is given back after its end.
    await rebuildRollUps(services);
    expect(kept()).toEqual([visitors, days]);
    moment.at += MINUTE;
    endTest(services, id, { put: null });
    play(120);
    const ended = kept();
    await tallyRounds(services, 'all');
    expect(kept()).toEqual(ended);

    // What it shows is what stands there, and it is not all nothing.
    const [round] = viewTest(services, id).rounds;
    const sum = db.get<{ n: number; net: number; reached: number }>(
      sql`SELECT count(*) AS n, sum(net - refunded) AS net, sum(CASE ${goal} WHEN 'next' THEN reached WHEN 'leads' THEN leads ELSE orders > 0 END) AS reached FROM round_visitors`,
    );
    const all = round?.days.flatMap(({ arms }) => arms) ?? [];
    const add = (of: 'visitors' | 'converted' | 'revenue') => all.reduce((total, each) => total + each[of], 0);
    expect([add('visitors'), add('converted'), add('revenue')]).toEqual([sum?.n, sum?.reached, sum?.net]);
    expect(sum?.reached).toBeGreaterThan(3);
    expect(sum?.net).toBeGreaterThan(1000);
  });
});

it('rounds of an earlier release are counted once', async () => {
  const here = playedShop('revenue');
  const { services, id, happens, buys } = here;
  const { db } = services;
  before(here);
  startTest(services, id);
  for (let person = 0; person < 20; person++) happens('page.viewed', person, services.moment.at);
  services.moment.at += DAY;
  for (let person = 0; person < 8; person++) buys(person, 10);
  const shown = viewTest(services, id).rounds;
  db.run(sql`UPDATE round_visitors SET net = 0, orders = 0`);
  db.run(sql`DELETE FROM round_days`);
  await tallyRounds(services, 'uncounted');
  expect(viewTest(services, id).rounds[0]?.result.arms.map(({ visitors }) => visitors)).toEqual([0, 0]);
  db.run(sql`UPDATE rounds SET is_tallied = 0`);
  await tallyRounds(services, 'uncounted');
  expect(viewTest(services, id).rounds).toEqual(shown);
});
