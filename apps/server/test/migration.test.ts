import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ProductSchema } from '@ruta/core/catalog';
import { QuoteInputSchema, quote } from '@ruta/core/pricing';
import Database from 'better-sqlite3';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { addFunctions, type OpenDb, openDb } from '../src/base/db';
import { eachProduct } from '../src/catalog/store';
import { unpublishedChanges } from '../src/funnel/service';
import { latestPublication, loadFunnel } from '../src/funnel/store';
import { chargesOf, linesOf, loadOrder, paymentsOf } from '../src/orders/store';
import { plansOf } from '../src/plans/store';

const migrations = path.resolve(import.meta.dirname, '../drizzle');
const journal = JSON.parse(readFileSync(path.join(migrations, 'meta/_journal.json'), 'utf8')) as { entries: Array<{ when: number; tag: string }> };

let folder: string;
let opened: OpenDb | undefined;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'ruta-old-'));
});
afterEach(() => {
  opened?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A database as a release left it that knew so many of today's migrations. */
function written(releases: number, fill: (db: Database.Database) => void): string {
  const file = path.join(folder, 'shop.sqlite');
  const db = new Database(file);
  addFunctions(db);
  db.exec('CREATE TABLE __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)');
  for (const { tag, when } of journal.entries.slice(0, releases)) {
    for (const statement of readFileSync(path.join(migrations, `${tag}.sql`), 'utf8').split('--> statement-breakpoint')) db.exec(statement);
    db.prepare('INSERT INTO __drizzle_migrations (hash, created_at) VALUES (?, ?)').run(tag, when);
  }
  fill(db);
  db.close();
  return file;
}

/** A row with the columns that are named, in a table of whatever release. */
function insert(db: Database.Database, table: string, row: Record<string, unknown>): void {
  const columns = Object.keys(row).map((column) => `"${column}"`);
  const values = Object.values(row).map((value) => (typeof value === 'object' && value !== null ? JSON.stringify(value) : value));
  db.prepare(`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`).run(...values);
}

const PAGE = { version: 1, title: 'Pay', description: '', indexed: false, sections: [] };
const STEP = { id: 'stp_000000001', kind: 'checkout', name: 'Pay', slug: 'pay' };
const ORDER = {
  id: 'ord_000000001',
  number: 1001,
  state: 'paid',
  mode: 'live',
  funnel_id: 'fun_000000001',
  step_id: STEP.id,
  cart_id: 'crt_000000001',
  contact_id: 'con_000000001',
  currency: 'EUR',
  buyer: { email: 'a@b.test', firstName: 'Ann', lastName: '', country: 'PT' },
  token: 'token',
  created_at: 1,
  paid_at: 1,
};
const CONTACT = { id: 'con_000000001', email: 'a@b.test', first_name: 'Ann', last_name: '', answers: {}, created_at: 1, updated_at: 1 };

/** What the first release had written. */
function firstRelease(db: Database.Database): void {
  db.exec(`
    INSERT INTO files (id, kind, name, content_type, bytes, created_at) VALUES ('fil_000000001', 'download', 'a.pdf', 'application/pdf', 3, 1);
    INSERT INTO products VALUES ('prd_000000001', 'Course', '', 'For <you> & me', 'digital', 'standard', '{"kind":"one-time","regular":13800,"sale":{"amount":9900}}', NULL, NULL, 1, 1);
    INSERT INTO product_files VALUES ('prd_000000001', 'fil_000000001', 0);
  `);
  insert(db, 'contacts', CONTACT);
  insert(db, 'connections', { id: 'con_quayside1', provider: 'quayside', account: 'acct_1', public_key: 'pk', secrets: 'sealed', created_at: 1 });
  insert(db, 'funnels', { id: 'fun_000000001', name: 'Sale', slug: 'sale', entry_id: STEP.id, created_at: 1, updated_at: 1 });
  insert(db, 'steps', { ...STEP, funnel_id: 'fun_000000001', product_id: 'prd_000000001', draft: PAGE, revision: 3, updated_at: 1 });
  const graph = { entryId: STEP.id, steps: [{ ...STEP, productId: 'prd_000000001' }], routes: [] };
  const snapshot = { name: 'Sale', slug: 'sale', giftId: null, graph, pages: { [STEP.id]: PAGE } };
  insert(db, 'publications', { id: 'pub_000000001', funnel_id: 'fun_000000001', version: 1, at: 1, snapshot });
  const sold = {
    currency: 'EUR',
    pricesIncludeTax: true,
    taxCountry: 'PT',
    reverseCharge: false,
    lines: [
      {
        id: 'main',
        productId: 'prd_000000001',
        name: 'Course',
        role: 'main',
        taxClass: 'standard',
        quantity: 1,
        regularUnit: 13_800,
        currentUnit: 9900,
        unit: 9900,
        offerDearer: false,
        amount: 9900,
        codeDiscount: 0,
        discounted: 9900,
        rate: 23,
        net: 8049,
        tax: 1851,
        total: 9900,
      },
    ],
    shipping: { zone: 'EU', reason: 'flat rate', rate: 23, net: 407, tax: 93, total: 500 },
    code: null,
    goods: 9900,
    discount: 0,
    tax: 1944,
    dueToday: 10_400,
    problems: [],
  };
  insert(db, 'orders', { ...ORDER, total: 10_400, tax: 1944, net_goods: 8049, quote: sold });
  insert(db, 'charges', {
    id: 'chg_000000001',
    order_id: ORDER.id,
    provider: 'quayside',
    mode: 'live',
    idempotency_key: `${ORDER.id}-1`,
    provider_charge_id: 'qs_1',
    amount: 10_400,
    currency: 'EUR',
    state: 'captured',
    card_last4: '0019',
    created_at: 1,
    updated_at: 1,
  });
  db.exec(`INSERT INTO order_lines VALUES ('lin_000000001', 'ord_000000001', 'chg_000000001', 'prd_000000001', 'Course', 'main', 1, 9900, 1851, 8049);
    INSERT INTO grants VALUES ('grt_000000001', 'ord_000000001', 'lin_000000001', 'fil_000000001', 2, 20);`);
}

/** A course of three instalments of 33.33, 33.33 and 33.34, with the card kept, as the second release had written it. */
function secondRelease(db: Database.Database): void {
  insert(db, 'contacts', CONTACT);
  insert(db, 'connections', { id: 'con_quayside1', provider: 'quayside', account: 'acct_1', public_key: 'pk', secrets: 'sealed', created_at: 1 });
  const bought = { country: 'PT', now: Date.UTC(2026, 0, 31, 10), shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true } };
  const price = { kind: 'instalments', regular: 10_000, count: 3, interval: { every: 1, unit: 'month' } } as const;
  const line = { id: 'main', productId: 'prd_000000001', name: 'Course', role: 'main', kind: 'service', taxClass: 'standard', price, quantity: 1 } as const;
  const input = { shop: bought.shop, taxTable: [], shippingTable: [], lines: [line], buyer: { country: 'PT' }, now: bought.now };
  const { plans: _plans, ...stored } = quote(QuoteInputSchema.parse(input));
  const sums = { total: stored.dueToday, tax: stored.tax, net_goods: stored.dueToday - stored.tax };
  insert(db, 'orders', { ...ORDER, ...sums, quote: stored, payment_method: 'qs_pm_1', paid_at: bought.now });
  const kept = { total: stored.dueToday, tax: stored.tax, net: stored.dueToday - stored.tax };
  insert(db, 'order_lines', { id: 'lin_000000001', order_id: ORDER.id, product_id: 'prd_000000001', name: 'Course', role: 'main', quantity: 1, ...kept });
}

it('brings a shop of the first release along: products get an edition, orders keep every sum and get payments', () => {
  opened = openDb(written(1, firstRelease), migrations);
  const { db, raw } = opened;
  const [product] = [...eachProduct(db)].flat();
  expect(ProductSchema.safeParse(product).success).toBe(true);
  expect(product).toMatchObject({
    description: '<p>For &lt;you&gt; &amp; me</p>',
    status: 'live',
    editions: [{ id: 'edn_000000001', prices: [{ id: 'prc_000000001', price: { kind: 'one-time', regular: 13_800, sale: { amount: 9900 } } }] }],
    files: [{ id: 'fil_000000001', only: null }],
  });
  expect(loadOrder(db, ORDER.id)).toMatchObject({
    number: 1001,
    total: 10_400,
    tax: 1944,
    netGoods: 8049,
    email: 'a@b.test',
    firstName: 'Ann',
    goods: 'Course',
  });
  const [payment] = paymentsOf(db, ORDER.id);
  expect(payment).toMatchObject({ kind: 'first', state: 'paid', amount: 10_400 });
  expect(payment?.quote).toMatchObject({
    version: 2,
    dueToday: 10_400,
    tax: 1944,
    plans: [],
    dueLater: 0,
    total: 10_400,
    shipping: { listed: 500, paidBefore: 0, total: 500 },
    lines: [{ lineId: 'main', part: 'whole', price: { kind: 'one-time', regular: 13_800 }, taxShares: [{ base: 9900, tax: 1851 }], total: 9900 }],
  });
  expect(linesOf(db, ORDER.id)).toMatchObject([
    { role: 'main', part: 'whole', name: 'Course', total: 9900, tax: 1851, net: 8049, taxClass: 'standard', rate: 23, refunded: 0, paymentId: payment?.id },
    { role: 'shipping', name: 'EU', total: 500, tax: 93, net: 407, rate: 23, productId: null },
  ]);
  // The key of a charge is what the processor knows it by, so it stays.
  expect(chargesOf(db, payment?.id ?? '')).toMatchObject([{ state: 'captured', accountId: 'acc_quayside1l', idempotencyKey: `${ORDER.id}-1` }]);
  expect(raw.prepare('SELECT mode, reference, weight FROM accounts ORDER BY mode').all()).toEqual([
    { mode: 'live', reference: 'acct_1', weight: 1 },
    { mode: 'test', reference: 'acct_1', weight: 1 },
  ]);
  expect(raw.prepare('SELECT orders, paid FROM contacts').get()).toEqual({ orders: 1, paid: 10_400 });
  expect(raw.prepare('SELECT edition_id, sold FROM edition_sales').all()).toEqual([{ edition_id: 'edn_000000001', sold: 1 }]);
  expect(raw.pragma('foreign_key_check')).toEqual([]);
  expect(raw.pragma('foreign_keys', { simple: true })).toBe(1);
  expect(raw.prepare('SELECT edition_id, max_downloads, until FROM order_lines JOIN grants ON line_id = order_lines.id').get()).toEqual({
    edition_id: 'edn_000000001',
    max_downloads: 20,
    until: null,
  });
});

it('reads the funnels of the first release with what their steps sell, in drafts and as they were published', () => {
  opened = openDb(written(1, firstRelease), migrations);
  const funnel = loadFunnel(opened.db, 'fun_000000001');
  const offer = { productId: 'prd_000000001', editionId: null, priceId: null, quantity: 1, place: 'main' };
  expect(funnel.graph.steps).toMatchObject([{ id: STEP.id, sells: [offer] }]);
  expect(funnel.steps[0]).toMatchObject({ revision: 3, draft: PAGE });
  const snapshot = latestPublication(opened.db, 'fun_000000001')?.snapshot;
  expect(snapshot?.graph.steps).toEqual(funnel.graph.steps);
  expect(snapshot?.pages[STEP.id]).toEqual(PAGE);
  expect(unpublishedChanges(funnel)).toEqual({ stepIds: [], settings: false });
});

it('brings plans along: what goes on being owed has terms of its own, and no order lists later payments', () => {
  opened = openDb(written(2, secondRelease), migrations);
  const { db, raw } = opened;
  expect(plansOf(db, ORDER.id)).toMatchObject([
    {
      state: 'active',
      left: 2,
      nextDue: Date.UTC(2026, 1, 28, 10),
      boughtAt: Date.UTC(2026, 0, 31, 10),
      terms: { line: { productId: 'prd_000000001', quantity: 1 } },
    },
  ]);
  const [payment] = paymentsOf(db, ORDER.id);
  expect(payment).toMatchObject({ amount: 3333, quote: { dueToday: 3333, dueLater: 6667, plans: [{ lineId: 'main' }] } });
  expect(payment?.quote).not.toHaveProperty('later');
  expect(raw.prepare('SELECT contact_id, account_id, reference FROM payment_methods WHERE id = ?').get(payment?.methodId)).toEqual({
    contact_id: CONTACT.id,
    account_id: 'acc_quayside1l',
    reference: 'qs_pm_1',
  });
});

it('settles what was kept before: percentages of two decimals, and goods that are used up may be bought again', () => {
  opened = openDb(
    written(3, (db) => {
      const terms = (percent: number) => JSON.stringify({ code: 'X', discount: { kind: 'percent', percent } });
      const code = db.prepare('INSERT INTO codes (id, code, terms, created_at, updated_at) VALUES (?, ?, ?, 1, 1)');
      code.run('cod_1', 'A', terms(12.345));
      code.run('cod_2', 'B', terms(10));
      code.run('cod_3', 'C', JSON.stringify({ code: 'X', discount: { kind: 'fixed', amount: 500 } }));
    }),
    migrations,
  );
  const discounts = opened.raw.prepare("SELECT json_extract(terms, '$.discount') AS discount FROM codes ORDER BY id").all() as Array<{ discount: string }>;
  expect(discounts.map(({ discount }) => JSON.parse(discount))).toEqual([
    { kind: 'percent', percent: 12.35 },
    { kind: 'percent', percent: 10 },
    { kind: 'fixed', amount: 500 },
  ]);
});

it('folds the campaigns of before, of every script, and adds up what is one now', () => {
  const releases = journal.entries.findIndex(({ tag }) => tag === '0041_folded_campaigns');
  opened = openDb(
    written(releases, (db) => {
      const spring = { source: 'Press ', campaign: 'ÉTÉ Spring', term: ' ' };
      const visitor = { first_at: 1, last_at: 1, visit_id: 'v', device: 'phone' };
      insert(db, 'visitors', { id: 'vis_1', ...visitor, first_campaign: spring, last_campaign: { source: 'radio' } });
      insert(db, 'visitors', { id: 'vis_2', ...visitor, first_campaign: null, last_campaign: null });
      const day = { generation: 1, place_id: 'shop', day: '2026-06-01', device: 'phone', reached: 1, leads: 2 };
      insert(db, 'place_days', { ...day, source: 'Press', campaign: 'été spring', came: 3 });
      insert(db, 'place_days', { ...day, source: 'press', campaign: 'ÉTÉ Spring', came: 4 });
      insert(db, 'ad_spend', { day: '2026-06-01', source: 'PRESS', campaign: 'Été spring', cost: 500, clicks: 1 });
      insert(db, 'ad_spend', { day: '2026-06-01', source: 'press', campaign: 'été SPRING', cost: 700, clicks: 2 });
    }),
    migrations,
  );
  const { raw } = opened;
  expect(raw.prepare('SELECT first_campaign, last_campaign FROM visitors ORDER BY id').raw().all()).toEqual([
    ['{"source":"press","campaign":"été spring"}', '{"source":"radio"}'],
    [null, null],
  ]);
  expect(raw.prepare('SELECT source, campaign, came, reached, leads FROM place_days').raw().all()).toEqual([['press', 'été spring', 7, 2, 4]]);
  expect(raw.prepare('SELECT source, campaign, cost, clicks FROM ad_spend').raw().all()).toEqual([['press', 'été spring', 1200, 3]]);
});

it('refuses a database of a newer release, and leaves it as it is', () => {
  const file = written(journal.entries.length, (db) => {
    db.prepare('INSERT INTO __drizzle_migrations (hash, created_at) VALUES (?, ?)').run('later', Date.UTC(2100, 0, 1));
  });
  const before = readFileSync(file);
  expect(() => openDb(file, migrations)).toThrow(`${file} was written by a newer release of Ruta.`);
  expect(readFileSync(file).equals(before)).toBe(true);
});
