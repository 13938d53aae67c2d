import { ProductListQuerySchema } from '@ruta/core/catalog';
import { ContactListQuerySchema } from '@ruta/core/contacts';
import type { ListPage, ListQuery } from '@ruta/core/lists';
import { OrderListQuerySchema } from '@ruta/core/orders';
import { toLocalTime } from '@ruta/core/shop';
import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { countProducts, listProductRows, productWords } from '../src/catalog/list';
import { createProduct, setArchived } from '../src/catalog/service';
import { countContacts } from '../src/contacts/store';
import { contacts } from '../src/contacts/tables';
import { listContacts } from '../src/facts/contactsWho';
import { ordersCsv } from '../src/orders/exportOrders';
import { countOrders, listOrders } from '../src/orders/list';
import { orders } from '../src/orders/tables';
import { loadShop } from '../src/shop/store';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

let services: TestServices;

/** A person, with few different days and sums, so that many rows are equal where they are sorted. */
function person(number: number, changes: object = {}) {
  const values = {
    id: `con_${String(number).padStart(12, '0')}`,
    email: `person${number}@moonmail.test`,
    firstName: number % 3 === 0 ? '100%' : 'Ilse_V',
    lastName: '',
    answers: {},
    paid: (number % 4) * 1000,
    createdAt: 1000 + (number % 5),
    updatedAt: 1,
    ...changes,
  };
  services.db.insert(contacts).values(values).run();
  return values;
}

function order(number: number, changes: object = {}) {
  const id = String(number).padStart(12, '0');
  const values = {
    id: `ord_${id}`,
    number: 1000 + number,
    state: 'paid' as const,
    mode: 'live' as const,
    funnelId: 'fun_000000000001',
    stepId: 'stp_000000000001',
    cartId: `crt_${id}`,
    contactId: `con_${String(number % 7).padStart(12, '0')}`,
    currency: 'EUR',
    total: (number % 3) * 500,
    tax: 0,
    netGoods: 0,
    buyer: { email: '', firstName: '', lastName: '', country: 'PT' },
    email: `person${number}@moonmail.test`,
    firstName: 'Ilse',
    goods: number % 2 === 0 ? 'Star chart' : 'Red torch',
    token: `token${number}`,
    createdAt: 1,
    paidAt: 1000 + (number % 4),
    ...changes,
  };
  services.db.insert(orders).values(values).run();
}

beforeAll(() => {
  services = testServices();
  for (let number = 0; number < 40; number++) person(number);
  for (let number = 0; number < 40; number++) order(number);
  order(40, { number: null });
  order(41, { state: 'open', paidAt: null, number: null });
  order(42, { mode: 'test' });
  for (let number = 0; number < 12; number++) {
    services.moment.at += 1000;
    const changes = { kind: number % 2 ? ('service' as const) : ('digital' as const), tags: number < 3 ? ['sky'] : [], categories: ['Prints'] };
    createProduct(services, selling(`Product ${number % 4}`, { kind: number === 0 ? 'free' : 'one-time', regular: 100 + number } as never, changes));
  }
});
afterAll(() => services.end());

/** Every page of a list, one after the other. */
function whole<Row extends { id: string }>(list: (query: { after?: string | undefined }) => ListPage<Row>): { pages: Row[][]; ids: string[] } {
  const pages: Row[][] = [];
  for (let after: string | undefined | null; after !== null && pages.length < 200; ) {
    const page: ListPage<Row> = list({ after });
    pages.push(page.rows);
    after = page.next;
  }
  return { pages, ids: pages.flat().map((row) => row.id) };
}

describe('a list that is paged by key', () => {
  const asked = fc.record({ limit: fc.integer({ min: 1, max: 25 }), direction: fc.constantFrom('asc', 'desc') });

  it('brings every row once, in order, however it is cut', () => {
    const sorts = fc.constantFrom('created', 'paid', 'email');
    fc.assert(
      fc.property(asked, sorts, ({ limit, direction }, sort) => {
        const { pages, ids } = whole((query) => listContacts(services, ContactListQuerySchema.parse({ ...query, limit, direction, sort })));
        expect(new Set(ids).size).toBe(40);
        expect(ids).toHaveLength(40);
        expect(pages.slice(0, -1).every((page) => page.length === limit)).toBe(true);
        const name = sort === 'created' ? 'createdAt' : sort;
        const values = pages.flat().map((row) => row[name as 'paid']);
        const sorted = values.toSorted((a, b) => (a < b ? -1 : a > b ? 1 : 0));
        expect(values).toEqual(direction === 'asc' ? sorted : sorted.toReversed());
      }),
      { numRuns: 40 },
    );
  });

  it('moves nothing when somebody comes meanwhile', () => {
    const query = (after?: string) => listContacts(services, ContactListQuerySchema.parse({ limit: 10, after }));
    const first = query();
    person(99, { createdAt: 9_999_999 });
    const second = query(first.next ?? '');
    const seen = new Set(first.rows.map((row) => row.id));
    expect(second.rows.some((row) => seen.has(row.id))).toBe(false);
    expect(query().rows[0]?.email).toBe('person99@moonmail.test');
  });

  it.each([
    ['a column it has not', { sort: 'password' }, 'cannot be sorted by “password”'],
    ['a column of every object', { sort: 'constructor' }, 'cannot be sorted'],
    ['a key that is none', { after: 'nonsense' }, 'not where a page of this list ended'],
    ['a key of another shape', { after: Buffer.from('[{"a":1},2]').toString('base64url') }, 'not where a page of this list ended'],
  ])('is refused with %s', (_words, query, message) => {
    const errors = (() => {
      try {
        listContacts(services, ContactListQuerySchema.parse(query));
      } catch (error) {
        return JSON.stringify((error as { fields: unknown }).fields);
      }
      return '';
    })();
    expect(errors).toContain(message);
  });

  it.each([{ limit: 0 }, { limit: 201 }, { limit: 'many' }, { direction: 'sideways' }])('takes no %j', (query) => {
    expect(ContactListQuerySchema.safeParse(query).success).toBe(false);
  });
});

describe('searching', () => {
  const found = (search: string) => whole((query) => listContacts(services, ContactListQuerySchema.parse({ ...query, search }))).ids.length;
  it.each([
    ['100%', 15],
    ['%', 15],
    ['_V', 26],
    ['PERSON12@', 1],
    ['\\', 0],
    ["'; DROP TABLE contacts; --", 0],
  ])('“%s” finds %d, since % and _ stand for themselves', (search, count) => {
    expect(found(search)).toBe(count);
    expect(countContacts(services.db, ContactListQuerySchema.parse({ search }) as ListQuery)).toBe(found(search));
  });
});

describe('orders', () => {
  const list = (query: object) => whole((page) => listOrders(services.db, OrderListQuerySchema.parse({ ...page, limit: 7, ...query })));
  const count = (query: object) => countOrders(services.db, OrderListQuerySchema.parse(query));
  it('are those that were paid, gifts only for their contact', () => {
    expect(list({}).ids).toHaveLength(41);
    expect(list({ mode: 'live' }).ids).toHaveLength(40);
    // 40 % 7 = 5: contact 5 has the orders 5, 12, 19, 26, 33 and the gift.
    expect(list({ contactId: 'con_000000000005' }).ids).toHaveLength(6);
  });
  it('are found by number, name and goods, and counted as they are listed', () => {
    for (const search of ['1007', 'torch', 'nobody']) expect(count({ search })).toBe(list({ search }).ids.length);
    expect(count({ search: '1007' })).toBe(1);
    expect(count({ search: 'torch' })).toBe(20);
  });
});

describe('orders that are filtered', () => {
  it('are those of a state, of days with their last one included, of a funnel, a product and a country', () => {
    const list = (query: object) => whole((page) => listOrders(services.db, OrderListQuerySchema.parse({ ...page, limit: 7, ...query }))).ids;
    const rows = services.db
      .select()
      .from(orders)
      .all()
      .filter(({ number, paidAt }) => number !== null && paidAt !== null);
    const day = (at: number) => toLocalTime(at, loadShop(services.db).settings.timeZone).slice(0, 10);
    const [one, another] = rows.toSorted((a, b) => (a.paidAt ?? 0) - (b.paidAt ?? 0));
    if (!one || !another) throw new Error('There are no orders.');
    const counted = (query: object, fits: (row: (typeof rows)[number]) => boolean) => {
      const expected = rows.filter(fits).length;
      expect(list(query)).toHaveLength(expected);
      expect(countOrders(services.db, OrderListQuerySchema.parse(query))).toBe(expected);
      return expected;
    };
    const [from, until] = [day(one.paidAt ?? 0), day(another.paidAt ?? 0)];
    expect(counted({ from, until }, ({ paidAt }) => day(paidAt ?? 0) >= from && day(paidAt ?? 0) <= until)).toBeGreaterThan(0);
    expect(counted({ until: '1969-12-30' }, () => false)).toBe(0);
    services.db
      .update(orders)
      .set({ state: 'refunded', buyer: { ...one.buyer, country: 'NL' } })
      .where(eq(orders.id, one.id))
      .run();
    expect(list({ state: 'refunded' })).toEqual([one.id]);
    expect(list({ country: 'NL', state: 'refunded' })).toEqual([one.id]);
    expect(list({ country: 'NL', state: 'paid' })).toEqual([]);
    counted({ funnelId: one.funnelId }, ({ funnelId }) => funnelId === one.funnelId);
    expect(list({ funnelId: 'fun_nobody' })).toEqual([]);
    expect(list({ productId: 'prd_nobody' })).toEqual([]);
    for (const wrong of [{ from: 'yesterday' }, { country: 'Portugal' }, { state: 'lost' }]) expect(OrderListQuerySchema.safeParse(wrong).success).toBe(false);
  });

  it('go out as they are listed, part by part', () => {
    const parts = [];
    let after: string | undefined;
    do {
      const part = ordersCsv(services.db, OrderListQuerySchema.parse({ mode: 'live', after }));
      parts.push(part.csv);
      after = part.next ?? undefined;
    } while (after);
    const { data } = Papa.parse<Record<string, string>>(parts.join(''), { header: true, skipEmptyLines: true });
    const listed = whole((page) => listOrders(services.db, OrderListQuerySchema.parse({ ...page, limit: 7, mode: 'live' })));
    expect(data.map((row) => row.order_number)).toEqual(listed.pages.flat().map((row) => String(row.number)));
    expect(data[0]).toMatchObject({ state: 'paid', mode: 'live', currency: 'EUR', refunded: '0.00' });
  });
});

describe('products', () => {
  const list = (query: object) => listProductRows(services, ProductListQuerySchema.parse(query)).rows;
  it.each([
    [{ kind: 'service' }, 6],
    [{ tag: 'sky' }, 3],
    [{ tag: 'sky', kind: 'digital' }, 2],
    [{ category: 'Prints' }, 12],
    [{ category: 'sky' }, 0],
    [{ free: 'true' }, 1],
    [{ free: 'false' }, 11],
    [{ status: 'off' }, 0],
    [{ search: 'product 3' }, 3],
    [{ archived: 'true' }, 0],
  ])('with %j are %d', (query, count) => {
    expect(list(query)).toHaveLength(count);
    expect(countProducts(services.db, ProductListQuerySchema.parse(query))).toBe(count);
  });

  it('say what a list shows, and leave it when they are archived', () => {
    const [latest] = list({});
    expect(latest).toMatchObject({
      name: 'Product 3',
      price: { regular: 111 },
      options: 1,
      free: false,
      bundle: false,
      tags: [],
      categories: ['Prints'],
      picture: null,
    });
    expect(latest).not.toHaveProperty('description');
    setArchived(services, latest?.id ?? '', true);
    expect(list({})).toHaveLength(11);
    expect(list({ archived: 'true' })).toHaveLength(1);
    expect(productWords(services.db)).toEqual({ categories: ['Prints'], tags: ['sky'] });
    setArchived(services, latest?.id ?? '', false);
  });
});
