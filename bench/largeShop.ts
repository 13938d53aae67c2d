import path from 'node:path';
import { ContactListQuerySchema } from '@ruta/core/contacts';
import { ReportQuerySchema, shiftDay } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import Database from 'better-sqlite3';
import { sql } from 'drizzle-orm';
import { armsOf, roundsOf } from '../apps/server/src/arms/store';
import { rounds } from '../apps/server/src/arms/tables';
import { createProduct } from '../apps/server/src/catalog/service';
import { countContacts } from '../apps/server/src/contacts/store';
import { planTest } from '../apps/server/src/experiments/lifecycle';
import { decisionOf } from '../apps/server/src/experiments/roundView';
import { countedTest } from '../apps/server/src/experiments/view';
import { forecastBasis } from '../apps/server/src/forecast/basis';
import { listFunnels, loadFunnel } from '../apps/server/src/funnel/store';
import { funnelFigures } from '../apps/server/src/reports/funnelFigures';
import { report } from '../apps/server/src/reports/report';
import { loadShop } from '../apps/server/src/shop/store';
import { createFunnel } from '../apps/server/src/templates/createFunnel';
import { todayOf } from '../apps/server/src/today/service';
import { selling } from '../apps/server/test/support/products';
import { type TestServices, testServices } from '../apps/server/test/support/services';
import type { Measurement } from './measure';

const ORDERS = 200_000;
const DAYS = 720;
const DAY_MS = 86_400_000;
/** One in so many is a subscription. */
const SUBSCRIBERS = 10;

const numbers = (count: number) => `WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${count})`;

/** A shop with 200,000 orders of two years in one funnel, each with its payment, its line and its buyer. */
export function largeShop(orders = ORDERS): TestServices & { funnelId: string; testId: string } {
  const services = testServices();
  const { db } = services;
  const product = createProduct(services, selling('Star chart', { kind: 'one-time', regular: 2400 }));
  const funnelId = createFunnel(services, { name: 'Large', template: 'straight-sale', productId: product.id });
  const checkout = loadFunnel(db, funnelId).graph.steps.find(({ kind }) => kind === 'checkout')?.id ?? '';
  const edition = product.editions[0];
  const began = services.moment.at - DAYS * DAY_MS;
  const at = `(${began} + i * ${Math.floor((DAYS * DAY_MS) / orders)})`;
  const quote = JSON.stringify({ version: 2, dueLater: 0, lines: [], plans: [] });
  const terms = JSON.stringify({ line: { productId: product.id, priceId: edition?.prices[0]?.id, price: { kind: 'subscription' } } });
  db.run(`INSERT INTO contacts (id, email, first_name, last_name, country, answers, orders, paid, created_at, updated_at)
    ${numbers(orders)} SELECT printf('con_%012d', i), printf('person%d@moonmail.test', i), 'Ilse', 'Vos', 'NL', '{}', 1, 2400, ${at}, 0 FROM n`);
  db.run(`INSERT INTO orders (id, number, state, mode, funnel_id, step_id, cart_id, contact_id, visitor_id, currency, total, tax, net_goods, buyer, email, first_name, goods, token, created_at, paid_at)
    ${numbers(orders)} SELECT printf('ord_%012d', i), 1000000 + i, 'paid', 'live', '${funnelId}', '${checkout}', printf('crt_%012d', i), printf('con_%012d', i), printf('vis_%012d', i),
      'EUR', 2400, 449, 1951, '{"country":"NL"}', printf('person%d@moonmail.test', i), 'Ilse', 'Star chart', printf('token%d', i), ${at}, ${at} FROM n`);
  db.run(`INSERT INTO payments (id, order_id, kind, state, due, amount, quote, created_at, paid_at)
    ${numbers(orders)} SELECT printf('pay_%012d', i), printf('ord_%012d', i), 'first', 'paid', ${at}, 2400, '${quote}', ${at}, ${at} FROM n`);
  db.run(`INSERT INTO charges (id, order_id, payment_id, provider, mode, idempotency_key, amount, currency, state, created_at, updated_at)
    ${numbers(orders)} SELECT printf('chg_%012d', i), printf('ord_%012d', i), printf('pay_%012d', i), 'quayside', 'live', printf('key%d', i), 2400, 'EUR', 'captured', ${at}, ${at} FROM n`);
  db.run(`INSERT INTO order_lines (id, order_id, payment_id, role, part, product_id, edition_id, price_id, name, quantity, total, tax, net, rate, refunded, refunded_net)
    ${numbers(orders)} SELECT printf('lin_%012d', i), printf('ord_%012d', i), printf('pay_%012d', i), 'main', 'whole', '${product.id}', '${edition?.id}', '${edition?.prices[0]?.id}', 'Star chart', 1, 2400, 449, 1951, 23, 0, 0 FROM n`);
  db.run(`INSERT INTO plans (id, order_id, line_id, state, terms, bought_at, left, next_due)
    ${numbers(orders / SUBSCRIBERS)} SELECT printf('pln_%012d', i), printf('ord_%012d', i * ${SUBSCRIBERS}), printf('lin_%012d', i * ${SUBSCRIBERS}), 'active', '${terms}', (${began} + i * ${SUBSCRIBERS} * ${Math.floor((DAYS * DAY_MS) / orders)}), NULL, 0 FROM n`);
  db.run(`INSERT INTO outbox (id, kind, payload, idempotency_key, attempts, next_at, created_at, sent_at, order_id)
    ${numbers(orders * 2)} SELECT printf('out_%012d', i), 'mail', '{}', printf('mail%d', i), 0, 0, 0, 1, printf('ord_%012d', 1 + i / 2) FROM n`);
  db.run(`INSERT INTO visitors (id, first_at, last_at, visit_id, visits, device)
    ${numbers(orders)} SELECT printf('vis_%012d', i), ${at}, ${at}, 'vst_1', 1, 'phone' FROM n`);
  return { ...services, funnelId, testId: largeTest(services, funnelId, checkout) };
}

/** A test whose running round has seen every buyer, and as many who bought nothing of it. */
function largeTest(services: TestServices, funnelId: string, checkout: string): string {
  const { db } = services;
  const { id, armId } = planTest(services, { funnelId, stepId: checkout, name: 'Half the price', goal: 'revenue' });
  const arms = armsOf(db, id).map((arm) => ({ id: arm.id, name: arm.name, share: arm.share, changes: arm.changes }));
  const terms = {
    goal: 'revenue' as const,
    audience: null,
    ends: 'decision' as const,
    lastDay: null,
    difference: 50,
    perArm: 9_000,
    visitors: 18_000,
    weeks: 3,
  };
  const startedAt = services.moment.at - DAYS * DAY_MS;
  const round = { id: 'rnd_000000000000', experimentId: id, funnelId, number: 1, startedAt, terms, arms, stops: [checkout], publicationId: '', base: '' };
  db.insert(rounds)
    .values({ ...round, isTallied: true })
    .run();
  db.run(sql`UPDATE experiments SET state = 'running' WHERE id = ${id}`);
  db.run(sql`INSERT INTO round_visitors (round_id, visitor_id, arm_id, first_at, day, device, net, orders)
    SELECT ${round.id}, visitor_id, CASE rowid % 2 WHEN 0 THEN ${arms[0]?.id} ELSE ${armId} END, created_at, date(created_at / 1000, 'unixepoch'), 'phone', 1500 + rowid % 900, 1 FROM orders
    UNION ALL SELECT ${round.id}, 'x' || visitor_id, CASE rowid % 2 WHEN 0 THEN ${arms[0]?.id} ELSE ${armId} END, created_at, date(created_at / 1000, 'unixepoch'), 'desktop', 0, 0 FROM orders`);
  db.run(sql`INSERT INTO round_days SELECT round_id, arm_id, day, device, count(*), 0, 0, sum(orders), sum(net), 0, total(net * net), sum(orders), 0, 0, 0
    FROM round_visitors GROUP BY round_id, arm_id, day, device`);
  return id;
}

/** What a seller looks at, in a shop of that size: the slowest of them, in milliseconds. */
export async function largeBench(): Promise<Measurement> {
  const services = largeShop();
  const { db, funnelId, testId } = services;
  const raw = new Database(path.join(services.config.dataDir, 'shop.sqlite'), { readonly: true });
  const { timeZone } = loadShop(db).settings;
  const to = dayFinder(timeZone)(services.moment.at);
  const period = { from: shiftDay(to, -29), to };
  const ask = (by: string, more: object = {}) => report(services, ReportQuerySchema.parse({ by, ...period, compare: 'none', ...more }));
  const { graph } = loadFunnel(db, funnelId);
  const screens: Record<string, () => unknown> = {
    today: () => todayOf(services),
    funnels: () => listFunnels(db),
    map: () =>
      funnelFigures(
        services,
        funnelId,
        graph.steps.map(({ id }) => id),
        period,
      ),
    forecast: () => forecastBasis(services, funnelId, period),
    cohorts: () => ask('cohort'),
    test: () => countedTest(services, { id: testId, address: null }),
    'tests decided': () => roundsOf(db, testId).map((round) => decisionOf(services, round)),
    contacts: () => countContacts(db, ContactListQuerySchema.parse({})),
    ...Object.fromEntries(['day', 'product', 'campaign', 'country'].map((by) => [by, () => ask(by)])),
    'funnel of it': () => ask('day', { funnelId }),
  };
  let slowest = 0;
  for (const [name, look] of Object.entries(screens)) {
    look();
    const began = performance.now();
    look();
    const took = performance.now() - began;
    slowest = Math.max(slowest, took);
    console.error(`  ${name}: ${took.toFixed(0)} ms`);
  }
  const bare = raw.prepare('SELECT count(*), sum(net) FROM order_lines');
  bare.get();
  const began = performance.now();
  bare.get();
  const baseline = performance.now() - began;
  raw.close();
  services.end();
  return { name: 'reports.large', value: slowest, unit: 'ms', baseline, ratio: slowest / baseline };
}
