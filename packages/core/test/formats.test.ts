import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { namedEdition, oneEdition, type Price, type Product, ProductInputSchema } from '../src/catalog';
import type { Code } from '../src/codes';
import {
  codesFromCsv,
  codesToCsv,
  decodeText,
  doubledSkus,
  productsFromCsv,
  productsFromJson,
  productsToCsv,
  productsToJson,
  readCsv,
  taxTableFromCsv,
  taxTableToCsv,
  wordsAtCommas,
  writeCsv,
} from '../src/formats';
import { type IdKind, makeId } from '../src/ids';
import { TAX_RATES_EU } from '../src/pricing';
import { fromLocalTime, toLocalTime } from '../src/shop';
import { code } from './support/cart';

let count = 0;
const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000 + ++count, new Uint8Array(10));
const terms = { currency: 'EUR', timeZone: 'Europe/Lisbon' };
const monthly = { every: 1, unit: 'month' as const };
const EVERY_PRICE: Price[] = [
  { kind: 'one-time', regular: 16_800, sale: { amount: 13_800, from: Date.UTC(2026, 2, 1, 9), until: Date.UTC(2026, 3, 1, 19) } },
  { kind: 'instalments', regular: 18_000, count: 4, interval: { every: 2, unit: 'week' } },
  { kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null },
  { kind: 'subscription', regular: 9000, interval: { every: 1, unit: 'year' }, trial: { days: 3, price: 100 }, setUpFee: 500, charges: 5 },
  { kind: 'pay-what-you-want', minimum: 300, suggested: 800, maximum: 5000 },
  { kind: 'free' },
];

function product(changes: object = {}): Product {
  return {
    ...ProductInputSchema.parse({
      name: 'Star Wheel, “large”',
      description: '<p>Turn it,\nhold it.</p>',
      included: ['The disc', 'A sleeve'],
      kind: 'physical',
      tags: ['to hold', 'paper'],
      closesAt: Date.UTC(2026, 10, 1, 20),
      editions: [
        namedEdition(newId, '50° north', EVERY_PRICE, { sku: 'W-50', weight: 120, stock: 40 }),
        namedEdition(newId, '35° south', [{ kind: 'one-time', regular: 2400 }]),
      ],
      delivery: { link: { words: 'Open it', url: 'https://perigeelane.test/a' }, downloadDays: 30 },
      ...changes,
    }),
    id: newId('product'),
    pictures: [],
    files: [],
    archivedAt: null,
    createdAt: 0,
    updatedAt: 0,
  };
}

describe('products as CSV', () => {
  it('come back as they went, every kind of price', () => {
    const all = [product(), product({ name: '=SUM(A1)', label: '+1 more', editions: oneEdition(newId, [{ kind: 'free' }]) })];
    const text = productsToCsv(all, terms);
    const { items, problems } = productsFromCsv(text, all, terms, newId);
    expect(problems).toEqual([]);
    expect(items.map((item) => item.change)).toEqual(['same', 'same']);
    expect(items.map((item) => item.input)).toEqual(all.map((each) => ProductInputSchema.parse(each)));
  });
  it('keep moments to the millisecond, and in the hour that comes twice', () => {
    // 25 October 2026, 01:30 comes twice in Lisbon; the second is 01:30Z
    for (const until of [Date.UTC(2026, 9, 25, 1, 30), Date.UTC(2026, 9, 25, 0, 30), 1_796_205_413_275]) {
      const one = product({ editions: oneEdition(newId, [{ kind: 'one-time', regular: 500, sale: { amount: 400, until } }]) });
      expect(productsFromCsv(productsToCsv([one], terms), [one], terms, newId)).toMatchObject({ problems: [], items: [{ change: 'same' }] });
    }
  });
  it('make new products where there is no id, equal but for the ids', () => {
    const original = product();
    const rows = productsToCsv([original], terms).split('\r\n');
    const blank = rows.map((row, index) => (index === 0 ? row : row.replace(/^prd_\w+,edn_\w+,prc_\w+/, ',,'))).join('\r\n');
    const { items, problems } = productsFromCsv(blank, [], terms, newId);
    expect(problems).toEqual([]);
    expect(items).toHaveLength(1);
    const withoutIds = (value: unknown) => JSON.parse(JSON.stringify(value, (key, each) => (key === 'id' ? undefined : each)));
    expect(withoutIds(items[0]?.input)).toEqual(withoutIds(ProductInputSchema.parse(original)));
  });
  it('leave what the file does not name as it is', () => {
    const before = product({ refundPolicy: 'Two weeks.' });
    const [edition] = before.editions;
    const file = `product_id,edition_id,price_id,name,price_kind,regular\n${before.id},${edition?.id},${edition?.prices[0]?.id},Star Wheel,one-time,"26,50"\n`;
    const { items, problems } = productsFromCsv(file, [before], terms, newId);
    expect(problems).toEqual([]);
    expect(items[0]).toMatchObject({ change: 'change', input: { name: 'Star Wheel', refundPolicy: 'Two weeks.', tags: ['to hold', 'paper'] } });
    expect(items[0]?.input.editions.map((each) => each.prices.length)).toEqual([6, 1]);
    expect(items[0]?.input.editions[0]?.prices[0]?.price).toEqual({ kind: 'one-time', regular: 2650 });
  });
  it.each([
    ['name,price_kind,regular\nA,one-time,"1.23.4,50"', 2, 'regular', 'at most one decimal mark'],
    ['name,price_kind,regular\nA,one-time,1.999', 2, 'regular', 'at most 2 decimals'],
    ['name,price_kind,regular\nA,one-time,-5', 2, 'regular', 'negative'],
    ['name,price_kind,regular\nA,one-time,99999999999', 2, 'regular', 'too large'],
    ['name,price_kind,regular,sale\nA,one-time,10,12', 2, 'sale', 'below the regular'],
    ['name,price_kind,regular,sale,sale_from,sale_until\nA,one-time,10,8,2026-02-02,2026-02-01', 2, 'sale_until', 'end after it starts'],
    ['name,price_kind,regular,sale,sale_from\nA,one-time,10,8,31.02.2026', 2, 'sale_from', 'Write the date'],
    ['name,price_kind,regular,instalments\nA,instalments,10,1', 2, 'instalments', 'at least 2'],
    ['name,price_kind,regular,trial_days\nA,subscription,10,900', 2, 'trial_days', 'at most 365'],
    ['name,price_kind\nA,rent', 2, 'price_kind', 'Invalid'],
    ['name,price_kind\n=1+1,free', 2, 'name', 'holds a formula'],
    ['name,price_kind\n"two\nlines",free\nA,one-time', 4, 'regular', ''],
    ['name,price_kind\n"never closed,free', 2, '', 'not closed'],
    ['name,colour,price_kind\nA,red,free', 1, 'colour', 'no column'],
    ['name\nA', 1, 'price_kind', 'missing'],
    ['product_id,name,price_kind\nprd_000000000,A,free', 2, 'product_id', 'no product with this id'],
    ['name,edition,price_kind\nA,,free\nA,Large,free', 2, 'edition', 'Name each edition'],
    ['name,status,price_kind\nA,sold,free', 2, 'status', 'Invalid'],
    ['name,label,refund_policy,price_kind\nA,x,one,free\nA,x,two,free', 3, 'refund_policy', 'says something else'],
  ])('%j is told at line %i, column %s', (text, line, column, message) => {
    const { items, problems } = productsFromCsv(text, [], terms, newId);
    expect(items).toEqual([]);
    expect(problems).toContainEqual({ line, column, message: expect.stringContaining(message) });
  });
  it('read semicolons and a mark at the beginning, as spreadsheets write them', () => {
    const { items, problems } = productsFromCsv('\uFEFFname;price_kind;regular\nA;one-time;12,50\n', [], terms, newId);
    expect(problems).toEqual([]);
    expect(items[0]?.input.editions[0]?.prices[0]?.price).toEqual({ kind: 'one-time', regular: 1250 });
  });
  it('come back whatever is written in their texts', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 }), fc.string({ unit: 'binary', maxLength: 60 }), (name, label) => {
        fc.pre(name.trim() !== '' && !name.includes('\r') && !label.includes('\r') && !label.includes('\uFEFF'));
        const one = product({ name, label, editions: oneEdition(newId, [{ kind: 'free' }]) });
        expect(productsFromCsv(productsToCsv([one], terms), [one], terms, newId)).toMatchObject({ problems: [], items: [{ change: 'same' }] });
      }),
    );
  });
});

describe('products as JSON', () => {
  it('come back as they went', () => {
    const all = [product(), product()];
    expect(productsFromJson(productsToJson(all, 'EUR'), all, 'EUR')).toMatchObject({ problems: [], items: [{ change: 'same' }, { change: 'same' }] });
    expect(productsFromJson(productsToJson(all, 'EUR'), [], 'EUR').items.map((item) => item.change)).toEqual(['add', 'add']);
  });
  it.each([
    ['{"format":', 'not a JSON file'],
    ['{"format":"other","version":1,"currency":"EUR","products":[]}', 'This is no file of products'],
    ['{"format":"ruta-products","version":1,"currency":"USD","products":[]}', 'The file is in USD'],
  ])('%s is refused', (text, message) => {
    expect(productsFromJson(text, [], 'EUR').problems[0]?.message).toContain(message);
  });
});

describe('codes as CSV', () => {
  const codes: Code[] = [
    code({ percent: 12.5 }),
    code(
      { fixed: 1000 },
      {
        code: 'TENNER',
        scope: { kind: 'products', productIds: ['prd_a', 'prd_b'] },
        payments: 'every',
        minimum: 5000,
        limit: 100,
        limitPerBuyer: 1,
        on: false,
      },
    ),
    code({ percent: 5 }, { code: 'MAIN', scope: { kind: 'main' }, from: Date.UTC(2026, 0, 1), until: Date.UTC(2026, 6, 1, 19, 30) }),
  ];
  it('come back as they went', () => {
    const { items, problems } = codesFromCsv(codesToCsv(codes, terms), new Set(['prd_a', 'prd_b']), terms);
    expect(problems).toEqual([]);
    expect(items.map((item) => item.terms)).toEqual(codes);
  });
  it.each([
    ['code,percent\nAB,101', 'percent', 'at most 100'],
    ['code,percent,amount\nAB,5,5', 'percent', 'either'],
    ['code\nAB', 'percent', 'either'],
    ['code,percent\nA B,5', 'code', 'letters, digits'],
    ['code,percent\nAB,5\nab,6', 'code', 'on line 2 already'],
    ['code,percent,scope,products\nAB,5,products,prd_x', 'products', 'no product'],
    ['code,percent,from,until\nAB,5,2026-02-02,2026-02-01', 'until', 'end after'],
  ])('%j is told at its column', (text, column, message) => {
    const { items, problems } = codesFromCsv(text, new Set(), terms);
    expect(items).toEqual([]);
    expect(problems).toContainEqual({ line: expect.any(Number), column, message: expect.stringContaining(message) });
  });
});

describe('tax tables as CSV', () => {
  it('come back as they went', () => {
    expect(taxTableFromCsv(taxTableToCsv(TAX_RATES_EU, terms), terms)).toEqual({ items: TAX_RATES_EU, problems: [] });
  });
  it('tell gaps, overlaps and rates at their line', () => {
    const file = 'country,standard,reduced,digital,from,until\nEE,22,9,9,,2026-01-01\nEE,24,9,9,2026-02-01,\nNL,121,9,9,,';
    expect(taxTableFromCsv(file, terms).problems).toEqual([
      { line: 3, column: 'from', message: expect.stringContaining('no rate holds') },
      { line: 4, column: 'standard', message: expect.stringContaining('up to 100') },
    ]);
  });
});

it('files call electronic publications by one word, and understand the earlier one', () => {
  const book = product({ taxClass: 'digital', kind: 'digital' });
  const text = productsToCsv([book], terms);
  expect(text).toContain(',digital,electronic,');
  expect(productsFromCsv(text, [book], terms, newId)).toMatchObject({ problems: [], items: [{ change: 'same' }] });
  expect(productsFromCsv(text.replaceAll(',electronic,', ',digital,'), [book], terms, newId)).toMatchObject({ problems: [], items: [{ change: 'same' }] });
  expect(productsFromCsv(text.replaceAll(',electronic,', ',books,'), [book], terms, newId).problems[0]).toMatchObject({ column: 'tax_class' });
  expect(taxTableFromCsv('country,standard,reduced,electronic\nNL,21,9,9', terms)).toEqual(
    taxTableFromCsv('country,standard,reduced,digital\nNL,21,9,9', terms),
  );
  expect(taxTableFromCsv('country,standard,reduced\nNL,21,9', terms).problems).toMatchObject([{ line: 1, column: 'electronic' }, { line: 2 }]);
  expect(taxTableFromCsv('country,standard,reduced,electronic\nNL,21,9,109', terms).problems).toMatchObject([{ line: 2, column: 'electronic' }]);
});

describe('text files', () => {
  it('are read as UTF-8 or UTF-16, and nothing else is guessed', () => {
    expect(decodeText(new TextEncoder().encode('é'))).toEqual({ ok: true, text: 'é' });
    expect(decodeText(Uint8Array.of(0xff, 0xfe, 0xe9, 0))).toEqual({ ok: true, text: 'é' });
    expect(decodeText(Uint8Array.of(0x61, 0xe9))).toMatchObject({ ok: false, message: expect.stringContaining('CSV UTF-8') });
  });
  it('neutralise what a spreadsheet would run, and give it back', () => {
    const text = writeCsv(['a'], [['=1+1'], ['@x'], ['-5.00'], ["it's"]]);
    expect(text).toBe("a\r\n'=1+1\r\n'@x\r\n-5.00\r\nit's\r\n");
    expect(readCsv(text, ['a'], ['a']).rows.map((row) => row.cells.a)).toEqual(['=1+1', '@x', '-5.00', "it's"]);
  });
  it('hold words with commas between them, each once', () => {
    expect(wordsAtCommas(' moon,, night sky ,moon,')).toEqual(['moon', 'night sky']);
    expect(wordsAtCommas('  ')).toEqual([]);
  });
  it('write times as they stand on the shop’s clocks', () => {
    const summer = Date.UTC(2026, 6, 1, 19, 30);
    expect(toLocalTime(summer, 'Europe/Lisbon')).toBe('2026-07-01T20:30');
    expect(fromLocalTime('2026-07-01 20:30', 'Europe/Lisbon')).toBe(summer);
    expect(['2026-02-30', '2026-13-01', 'soon', '2026-01-01 25:00'].map((text) => fromLocalTime(text, 'UTC'))).toEqual([null, null, null, null]);
  });
});

describe('what goes out as CSV', () => {
  const FORMULA = /^[\s"'\uFEFF]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]/;
  // A number may begin with a sign, and be run together with what follows where commas end nothing.
  const NUMBER = /^[+-]?\d[\d.]*(,|$)/;
  /** Cells as a spreadsheet takes them that ends cells with this: quotes hold only what begins with one. */
  const cellsBy = (text: string, delimiter: string) => Papa.parse<string[]>(text, { delimiter }).data.flat();
  const isHarmless = (cell: string) => !FORMULA.test(cell) || NUMBER.test(cell) || /^[\s"\uFEFF]*'/.test(cell);
  it.each([
    '=1+1',
    ' =1+1',
    '\t@SUM(A1)',
    '＝1+1',
    '＋cmd',
    "'=1",
    '"=1',
    'a;=cmd',
    'a; -b',
    'x\n=1',
    'x\ty\t=1',
    '@',
    '-',
    "it's",
    '-5',
    '+351 912',
    '1;2;-3',
  ])('holds %j as no formula, and gives it back', (cell) => {
    const text = writeCsv(
      ['one', 'two'],
      [
        ['a', cell],
        [cell, 'b'],
      ],
    );
    for (const delimiter of [',', ';', '\t']) expect(cellsBy(text, delimiter).filter((each) => !isHarmless(each))).toEqual([]);
    const { rows, problems } = readCsv(text, ['one', 'two'], []);
    expect(problems).toEqual([]);
    expect(rows.map(({ cells }) => cells)).toEqual([
      { one: 'a', two: cell },
      { one: cell, two: 'b' },
    ]);
  });
  it('comes in again as the same, whatever it was', () => {
    const piece = fc.constantFrom('=', '+', '-', '@', '＝', ';', ',', '"', "'", ' ', '\t', '\n', 'a', '1', 'é');
    const cell = fc.array(piece, { maxLength: 8 }).map((pieces) => pieces.join(''));
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 4 }), (rows) => {
        const text = writeCsv(['one', 'two'], rows);
        for (const delimiter of [',', ';', '\t']) expect(cellsBy(text, delimiter).filter((each) => !isHarmless(each))).toEqual([]);
        const read = readCsv(text, ['one', 'two'], []);
        expect(read.problems).toEqual([]);
        // A line of nothing but spaces is none.
        const kept = rows.filter((row) => row.some((each) => each.trim() !== ''));
        expect(read.rows.map(({ cells }) => [cells.one, cells.two])).toEqual(kept);
      }),
      { numRuns: 400 },
    );
  });
});

describe('SKUs of a file', () => {
  const coded = (name: string, ...skus: string[]) => ({
    name,
    label: '',
    editions: skus.map((sku, index) => ({ name: skus.length > 1 ? `No. ${index + 1}` : '', sku })),
  });
  it('are told where they stand on several products, in the file or the shop, whatever the capitals', () => {
    expect(doubledSkus([coded('Star Wheel', 'ST-1'), coded('Torch', 'st-1 ', 'TO-2')], [coded('Map Pack', 'to-2'), coded('Guide', 'GU-1')])).toEqual([
      'The SKU ST-1 is on “Star Wheel” and “Torch, No. 1”.',
      'The SKU TO-2 is on “Torch, No. 2” and “Map Pack”.',
    ]);
  });
  it('are nothing to be told of where each is one product’s, where none is given, or where only the shop has them twice', () => {
    expect(
      doubledSkus([coded('Star Wheel', ''), coded('Torch', ''), coded('Lamp', 'LA-1')], [coded('Map', 'MA-1'), coded('Guide', 'MA-1'), coded('Kit', '')]),
    ).toEqual([]);
  });
  it('are told in words that somebody can read, however many there are', () => {
    const told = doubledSkus(
      Array.from({ length: 60 }, (_, index) => coded(`Thing ${index}`, `S-${index % 25}`)),
      Array.from({ length: 9 }, (_, index) => coded(`Old ${index}`, 'S-0')),
    );
    expect(told).toHaveLength(21);
    expect(told[0]).toBe('The SKU S-0 is on “Thing 0”, “Thing 25”, “Thing 50”, “Old 0” and 8 more.');
    expect(told.at(-1)).toBe('5 more SKUs are on several products.');
  });
});
