import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ProductSchema, QuoteSchema } from '@ruta/core';
import Database from 'better-sqlite3';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { listProducts } from '../src/catalog/store';
import { type OpenDb, openDb } from '../src/db/open';
import { orders } from '../src/sales/tables';

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

/** A database as the first release left it, with what was in it. */
function firstRelease(): string {
  const file = path.join(folder, 'shop.sqlite');
  const db = new Database(file);
  const [start] = journal.entries;
  for (const statement of readFileSync(path.join(migrations, `${start?.tag}.sql`), 'utf8').split('--> statement-breakpoint')) db.exec(statement);
  db.exec('CREATE TABLE __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)');
  db.prepare('INSERT INTO __drizzle_migrations (hash, created_at) VALUES (?, ?)').run('start', start?.when);
  db.exec(`
    INSERT INTO files (id, kind, name, content_type, bytes, created_at) VALUES ('fil_000000001', 'download', 'a.pdf', 'application/pdf', 3, 1);
    INSERT INTO products VALUES ('prd_000000001', 'Course', '', 'For <you> & me', 'digital', 'standard', '{"kind":"one-time","regular":13800,"sale":{"amount":9900}}', NULL, NULL, 1, 1);
    INSERT INTO product_files VALUES ('prd_000000001', 'fil_000000001', 0);
  `);
  const quote = {
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
  db.prepare(
    `INSERT INTO orders (id, number, state, mode, funnel_id, step_id, cart_id, currency, total, tax, net_goods, quote, buyer, token, created_at, paid_at)
     VALUES ('ord_000000001', 1001, 'paid', 'live', 'fun_000000001', 'stp_000000001', 'crt_000000001', 'EUR', 10400, 1944, 8049, ?, '{"email":"a@b.test"}', 'token', 1, 1)`,
  ).run(JSON.stringify(quote));
  db.exec(`INSERT INTO order_lines VALUES ('lin_000000001', 'ord_000000001', NULL, 'prd_000000001', 'Course', 'main', 1, 9900, 1851, 8049);
    INSERT INTO grants VALUES ('grt_000000001', 'ord_000000001', 'lin_000000001', 'fil_000000001', 2, 20);`);
  db.close();
  return file;
}

it('brings a shop of the first release along: products get an edition, past orders keep every sum', () => {
  opened = openDb(firstRelease(), migrations);
  const { db, raw } = opened;
  const [product] = listProducts(db);
  expect(ProductSchema.safeParse(product).success).toBe(true);
  expect(product).toMatchObject({
    description: '<p>For &lt;you&gt; &amp; me</p>',
    status: 'live',
    editions: [{ id: 'edn_000000001', prices: [{ id: 'prc_000000001', price: { kind: 'one-time', regular: 13_800, sale: { amount: 9900 } } }] }],
    files: [{ id: 'fil_000000001', only: null }],
  });
  const [order] = db.select().from(orders).all();
  expect(QuoteSchema.safeParse(order?.quote).error?.issues).toBeUndefined();
  expect(order?.quote).toMatchObject({
    dueToday: 10_400,
    tax: 1944,
    later: [],
    dueLater: 0,
    total: 10_400,
    shipping: { listed: 500, paidBefore: 0, total: 500 },
    lines: [{ lineId: 'main', part: 'whole', price: { kind: 'one-time', regular: 13_800 }, taxShares: [{ base: 9900, tax: 1851 }], total: 9900 }],
  });
  expect(raw.pragma('foreign_key_check')).toEqual([]);
  expect(raw.pragma('foreign_keys', { simple: true })).toBe(1);
  expect(raw.prepare('SELECT edition_id, max_downloads, until FROM order_lines JOIN grants ON line_id = order_lines.id').get()).toEqual({
    edition_id: 'edn_000000001',
    max_downloads: 20,
    until: null,
  });
});
