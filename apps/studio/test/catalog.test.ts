import { namedEdition, type Price, type Product, ProductInputSchema } from '@ruta/core/catalog';
import { type Code, CodeSchema } from '@ruta/core/codes';
import { type IdKind, makeId } from '@ruta/core/ids';
import type { ShippingTable } from '@ruta/core/pricing';
import { describe, expect, it } from 'vitest';
import { fieldOf, newPrice, readDraft, readPrice, toDraft } from '../src/catalog/productDraft';
import { readCodeDraft, toCodeDraft } from '../src/codes/codeDraft';
import { readZones, toZones } from '../src/shop/shippingDraft';

const shop = { currency: 'EUR', timeZone: 'Europe/Lisbon' };
let count = 0;
const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000 + ++count, new Uint8Array(10));
const monthly = { every: 1, unit: 'month' as const };
const PRICES: Price[] = [
  { kind: 'one-time', regular: 16_800, sale: { amount: 13_800, from: Date.UTC(2026, 2, 1, 9), until: Date.UTC(2026, 6, 1, 19) } },
  { kind: 'instalments', regular: 10_000, count: 3, interval: { every: 2, unit: 'week' } },
  { kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null },
  { kind: 'subscription', regular: 9000, interval: { every: 1, unit: 'year' }, trial: { days: 3, price: 100 }, setUpFee: 500, charges: 5 },
  { kind: 'pay-what-you-want', minimum: 300, suggested: 800, maximum: 5000 },
  { kind: 'pay-what-you-want', minimum: 0, suggested: 800 },
  { kind: 'free' },
];

function product(changes: object = {}): Product {
  return {
    ...ProductInputSchema.parse({
      name: 'First Light',
      label: 'Course',
      description: '<p>Six weeks.</p>',
      included: ['Twelve films', 'A notebook'],
      tags: ['spring', 'sky'],
      editions: [
        namedEdition(newId, 'Course', PRICES, { sku: 'FL', stock: 20 }),
        namedEdition(newId, 'With kit', [{ name: 'In full', price: { kind: 'one-time', regular: 21_200 } }], { weight: 450 }),
      ],
      bundle: [{ productId: newId('product'), editionId: newId('edition'), quantity: 2 }],
      delivery: {
        link: { words: 'Go in', url: 'https://perigeelane.test/in' },
        course: { url: 'https://studyporch.test/x', courseId: 'x' },
        keys: { kind: 'list', warnAt: 5 },
        maxDownloads: null,
        downloadDays: 30,
      },
      closesAt: Date.UTC(2026, 9, 25, 12),
      leadTo: { kind: 'address', url: 'https://perigeelane.test/wait' },
      confirmation: { kind: 'address', url: 'https://perigeelane.test/thanks' },
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

describe('a product’s sheet', () => {
  it.each([
    ['with everything', product()],
    ['that leads to a funnel', product({ leadTo: { kind: 'funnel', funnelId: newId('funnel') }, closesAt: null, bundle: [] })],
    [
      'with generated keys and words after the purchase',
      product({
        delivery: { keys: { kind: 'pattern', pattern: 'SKY-####-****' } },
        confirmation: { kind: 'page', text: 'Go.', buttonWords: 'Hi', buttonUrl: 'https://a.test' },
      }),
    ],
  ])('shows one %s, and saves it as it was', (_what, one) => {
    expect(readDraft(toDraft(one, shop), one.pictureIds, shop)).toEqual({ input: ProductInputSchema.parse(one) });
  });

  it('says every mistake at its own field, all at once', () => {
    const draft = toDraft(product(), shop);
    draft.name = ' ';
    draft.contactEmail = 'nobody';
    draft.closesAt = '2026-02-30T10:00';
    draft.linkUrl = 'perigeelane';
    draft.maxDownloads = 'many';
    draft.editions[0]?.prices.splice(0, 1, { ...newPrice(), regular: '1.23.4,50', hasSale: true, sale: '-1' });
    draft.editions[1] = { ...(draft.editions[1] as (typeof draft.editions)[number]), stock: '1.5' };
    const read = readDraft(draft, [], shop);
    expect(read).toMatchObject({
      errors: {
        name: 'Give the product a name that buyers see.',
        contactEmail: expect.stringContaining('e-mail'),
        closesAt: 'Choose a date and time.',
        linkUrl: expect.stringContaining('https://'),
        maxDownloads: expect.stringContaining('whole number'),
        'editions.0.prices.0.regular': expect.stringContaining('one decimal mark'),
        'editions.0.prices.0.sale': expect.stringContaining('negative'),
        'editions.1.stock': expect.stringContaining('whole number'),
      },
    });
  });

  it('says what does not fit together once each field is right', () => {
    const draft = toDraft(product(), shop);
    draft.editions[1] = { ...(draft.editions[1] as (typeof draft.editions)[number]), name: 'course' };
    expect(readDraft(draft, [], shop)).toEqual({ errors: { 'editions.1.name': 'Two editions have this name.' } });
  });

  it.each([
    [{ kind: 'instalments', count: '1', regular: '100' }, 'count'],
    [{ kind: 'subscription', regular: '9', hasTrial: true, trialDays: '400' }, 'trialDays'],
    [{ kind: 'subscription', regular: '9', every: '0' }, 'every'],
    [{ kind: 'one-time', regular: '10', hasSale: true, sale: '10' }, 'sale'],
    [{ kind: 'one-time', regular: '10', hasSale: true, sale: '8', saleFrom: '2026-02-02T10:00', saleUntil: '2026-02-01T10:00' }, 'saleUntil'],
    [{ kind: 'pay-what-you-want', minimum: '10', suggested: '5' }, 'suggested'],
  ])('refuses %j at the field it was typed in', (changes, name) => {
    const draft = toDraft(product(), shop);
    draft.editions[1]?.prices.splice(0, 1, { ...newPrice(), ...(changes as object) });
    const read = readDraft(draft, [], shop);
    expect('errors' in read && Object.keys(read.errors)).toEqual([`editions.1.prices.0.${name}`]);
  });

  it('makes the total of instalments from the amount each', () => {
    const draft = { ...newPrice(), kind: 'instalments' as const, typed: 'each' as const, each: '45', count: '4' };
    expect(readPrice(draft, shop)).toMatchObject({ price: { kind: 'instalments', regular: 18_000, count: 4 }, errors: {} });
  });

  it('keeps what was typed for another kind of price', () => {
    const draft = { ...newPrice(), regular: '168', count: '5' };
    for (const kind of ['subscription', 'instalments', 'one-time'] as const) draft.kind = kind;
    expect(readPrice(draft, shop).price).toMatchObject({ kind: 'one-time', regular: 16_800 });
  });

  it('finds the field of a path the server names', () => {
    expect(
      ['editions.1.prices.0.price.sale.amount', 'delivery.keys.pattern', 'leadTo.funnelId', 'tags.3', 'name'].map((path) => fieldOf(path.split('.'))),
    ).toEqual(['editions.1.prices.0.sale', 'keyPattern', 'leadFunnelId', 'tags', 'name']);
  });
});

describe('a discount code’s form', () => {
  const codes: Code[] = [
    CodeSchema.parse({ code: 'NIGHT', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 12.5 } }),
    CodeSchema.parse({
      code: 'TENNER',
      on: false,
      scope: { kind: 'products', productIds: ['prd_000001'] },
      discount: { kind: 'fixed', amount: 1000 },
      payments: 'every',
      minimum: 5000,
      from: Date.UTC(2026, 0, 1),
      until: Date.UTC(2026, 6, 1),
      limit: 5,
      limitPerBuyer: 1,
    }),
  ];
  it.each(codes)('shows $code and saves it as it was', (code) => {
    expect(readCodeDraft(toCodeDraft(code, shop), shop)).toEqual({ terms: code });
  });
  it('says every mistake at its field', () => {
    const draft = { ...toCodeDraft(null, shop), code: 'a b', percent: 'ten', scope: 'products' as const, limit: '-1', minimum: '1,999' };
    const read = readCodeDraft(draft, shop);
    expect('errors' in read && Object.keys(read.errors).sort()).toEqual(['code', 'limit', 'minimum', 'percent', 'productIds']);
  });
});

describe('the shipping zones’ form', () => {
  const table: ShippingTable = [
    { name: 'Home', countries: ['PT'], rate: { kind: 'flat', amount: 350 }, freeFrom: 6000 },
    {
      name: 'Islands',
      countries: ['PT'],
      region: 'Azores',
      rate: {
        kind: 'value',
        bands: [
          { upTo: 5000, amount: 1290 },
          { upTo: null, amount: 990 },
        ],
      },
    },
    { name: 'EU', countries: ['NL', 'DE'], rate: { kind: 'weight', bands: [{ upTo: 250, amount: 590 }] } },
  ];
  it('shows a table and saves it as it was', () => {
    expect(readZones(toZones(table, 'EUR'), 'EUR')).toEqual({ table });
  });
  it('says at its band, zone or country what does not fit', () => {
    const zones = toZones(table, 'EUR');
    const [home, islands, eu] = zones;
    if (!home || !islands || !eu) throw new Error('three zones');
    eu.countries = ['NL', 'PT'];
    eu.bands = [
      { upTo: '', amount: '5' },
      { upTo: '250', amount: 'x' },
    ];
    home.name = '';
    const read = readZones(zones, 'EUR');
    expect(read).toMatchObject({
      errors: {
        'zones.0.name': 'Give the zone a name.',
        'zones.2.bands.1.amount': expect.stringContaining('digits'),
      },
    });
    eu.bands = [
      { upTo: '', amount: '5' },
      { upTo: '250', amount: '6' },
    ];
    home.name = 'Home';
    expect(readZones(zones, 'EUR')).toMatchObject({
      errors: { 'zones.2.countries': 'PT is in “Home” already.', 'zones.2.bands.1.upTo': 'A band without an upper bound must be the last one.' },
    });
  });
});
