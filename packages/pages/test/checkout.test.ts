import type { Price } from '@ruta/core/catalog';
import { type IdKind, makeId } from '@ruta/core/ids';
import { type Quote, quote, TAX_RATES_EU } from '@ruta/core/pricing';
import { DEFAULT_BRAND } from '@ruta/core/shop';
import { checkoutPage } from '@ruta/core/templates';
import { describe, expect, it } from 'vitest';
import type { CheckoutOption, CheckoutView, PageContext } from '../src/context';
import { renderPage, renderQuote } from '../src/render';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const monthly = { every: 1, unit: 'month' as const };

function sums(price: Price, changes: Partial<Parameters<typeof quote>[0]> = {}): Quote {
  return quote({
    shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
    taxTable: TAX_RATES_EU,
    shippingTable: [{ name: 'EU', countries: ['PT'], rate: { kind: 'flat', amount: 500 } }],
    lines: [{ id: 'm', productId: 'p', name: 'Club', role: 'main', kind: 'digital', taxClass: 'standard', weight: 0, price, quantity: 1 }],
    buyer: { country: 'PT' },
    now: Date.UTC(2026, 2, 15, 12),
    ...changes,
  });
}

const option = (changes: Partial<CheckoutOption>): CheckoutOption => ({
  id: 'prc_a',
  edition: '',
  name: '',
  price: '€9',
  description: '',
  chooses: null,
  left: null,
  ...changes,
});
const view = (changes: Partial<CheckoutView>): CheckoutView => ({
  actionUrl: '/pay/stp_1',
  quoteUrl: '/q',
  contactUrl: '/c',
  cartId: 'crt_1',
  quote: sums({ kind: 'one-time', regular: 900 }),
  values: { country: 'PT' },
  errors: {},
  message: null,
  countries: [
    { code: 'CA', name: 'Canada' },
    { code: 'PT', name: 'Portugal' },
  ],
  regions: [],
  options: [option({})],
  needsCard: true,
  bumps: [],
  sentBumps: [],
  mayNeedCard: true,
  sentOptions: [],
  cardFields: { url: 'http://processor.test/fields?key=1', origin: 'http://processor.test' },
  testMode: false,
  paidOrder: null,
  ...changes,
});

function html(changes: Partial<CheckoutView>, form: object = {}): string {
  const page = checkoutPage({ name: 'Club', pictureIds: [] }, newId);
  for (const section of page.sections)
    for (const column of section.columns)
      column.elements = column.elements.map((element) => (element.type === 'order-form' ? { ...element, ...form } : element));
  const context: PageContext = {
    legal: [],
    asksTaxNumber: false,
    notice: null,
    brand: DEFAULT_BRAND,
    shop: { name: 'Shop', email: 'shop@shop.test', currency: 'EUR' },
    product: null,
    gift: null,
    buyer: null,
    pictures: {},
    assetBase: '',
    addressOf: () => '',
    sharedAddress: () => '',
    cleanHtml: () => '',
    appointments: {},
    href: () => '#',
    form: null,
    checkout: view(changes),
    order: null,
    offers: null,
    endsAt: null,
    endOf: (at) => ({ at, now: at - 1, words: '' }),
  };
  const text = renderPage(page, context, {
    address: 'http://127.0.0.1/x',
    scripts: [],
    pixelUrl: null,
    structuredData: null,
    shareImage: null,
    icon: null,
    code: [],
  });
  return /<form.*<\/form>/s.exec(text)?.[0] ?? '';
}

describe('what a checkout asks', () => {
  it('is no choice where there is none', () => {
    const form = html({});
    expect(form).not.toContain('Your choice');
    expect(form).not.toContain('type="radio"');
  });
  it('is one of the editions, if each has one price', () => {
    const form = html({
      options: [
        option({ id: 'prc_a', edition: 'North' }),
        option({ id: 'prc_b', edition: 'South', left: 0 }),
        option({ id: 'prc_c', edition: 'West', left: 2 }),
      ],
    });
    expect(form.match(/type="radio"/g)).toHaveLength(3);
    expect(form).toMatch(/value="prc_a" checked|checked="" value="prc_a"|name="option" checked="" value="prc_a"/);
    expect(form).toMatch(/disabled=""[^>]*value="prc_b"|value="prc_b"[^>]*disabled=""/);
    expect(form).toContain('Sold out');
    expect(form).toContain('Only 2 left');
    expect(form).not.toContain('choice-edition');
  });
  it('is grouped by edition, if there are several prices in one', () => {
    const form = html({
      options: [
        option({ id: 'prc_a', edition: 'Course', name: 'In full' }),
        option({ id: 'prc_b', edition: 'Course', name: 'In four', description: 'Pay as you go' }),
        option({ id: 'prc_c', edition: 'With kit' }),
      ],
      values: { option: 'prc_b' },
    });
    expect(form.match(/class="choice-edition"/g)).toHaveLength(2);
    expect(form).toContain('Pay as you go');
    expect(form).toMatch(/checked=""[^>]*value="prc_b"|value="prc_b"[^>]*checked=""/);
  });
  it('is an amount where buyers choose it, shown with the option it belongs to', () => {
    const options = [option({ id: 'prc_a' }), option({ id: 'prc_b', name: 'Your own', chooses: '(from €3)' })];
    expect(html({ options })).toMatch(/data-chooses="prc_b" hidden=""/);
    const chosen = html({ options, values: { option: 'prc_b', chosen: '8.00' }, errors: { chosen: 'This is under the smallest amount for this product.' } });
    expect(chosen).toContain('What would you like to pay? (from €3)');
    expect(chosen).toMatch(/<input id="chosen" aria-invalid="true" aria-describedby="chosen-error"[^>]*value="8.00"/);
  });
  it('is how many, a tax number and a code only as the page says', () => {
    expect(html({})).not.toMatch(/name="quantity"|name="taxNumber"/);
    const form = html({ values: { code: 'NIGHT' } }, { askQuantity: true, askTaxNumber: true });
    expect(form).toMatch(/name="quantity"[^>]*value="1"|value="1"[^>]*name="quantity"/);
    expect(form).toContain('name="taxNumber"');
    expect(form).toMatch(/<details class="code-peek" open="">/);
    const hidden = html({ values: { code: 'NIGHT' } }, { hideCode: true });
    expect(hidden).toContain('<input type="hidden" name="code" value="NIGHT"/>');
    expect(hidden).not.toContain('Have a discount code?');
  });
  it('is an address and a region only where they count', () => {
    expect(html({})).not.toContain('name="street"');
    const form = html({
      bumps: [],
      sentBumps: [],
      mayNeedCard: true,
      sentOptions: ['pri_full'],
      regions: [{ country: 'CA', name: 'Canada', regions: ['Ontario', 'Quebec'] }],
      values: { country: 'CA', region: 'Quebec' },
    });
    expect(form).toContain('name="street"');
    expect(form).toMatch(/<option selected="">Quebec<\/option>/);
    expect(html({ regions: [{ country: 'CA', name: 'Canada', regions: ['Ontario'] }] })).toMatch(/data-regions="CA" hidden=""/);
  });
  it('is an address with those editions only that are shipped', () => {
    const options = [option({}), option({ id: 'pri_kit' })];
    const form = (chosen: string) => html({ options, bumps: [], sentBumps: [], mayNeedCard: true, sentOptions: ['pri_kit'], values: { option: chosen } });
    expect(form('pri_full')).toMatch(/data-sends="pri_kit" hidden=""/);
    expect(form('pri_kit')).toMatch(/data-sends="pri_kit">/);
    // without script nobody is kept from buying the other one
    expect(form('pri_full')).not.toMatch(/<input[^>]*name="street"[^>]*required/);
  });
  it('is a button that names no amount where there is none', () => {
    const trial = sums({ kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null });
    const free = html({ quote: trial });
    expect(free).toMatch(/data-pay-words="" hidden=""/);
    expect(free).toMatch(/data-free-words="">Start the free trial</);
    expect(html({})).toMatch(/data-free-words="" hidden=""/);
  });
  it('is a card for what is due later too, and none for what is free', () => {
    expect(html({ needsCard: true })).toContain('data-needs-card=""');
    const free = html({ needsCard: false, mayNeedCard: false });
    expect(free).not.toContain('data-payment');
    expect(free).not.toContain('data-needs-card');
  });
  it('is no card until a paid bump is ticked, and then the place for it is there', () => {
    const free = html({ needsCard: false, mayNeedCard: true });
    expect(free).toMatch(/<fieldset data-payment="" hidden="">/);
  });
});

describe('a quote on a page', () => {
  it('shows part, later payments and how it adds up', () => {
    const text = renderQuote(sums({ kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, setUpFee: 500, charges: null }));
    expect(text).toContain('14 days free');
    expect(text).toContain('Set-up: Club');
    expect(text).toContain('Then €9.00 a month, from 29 March 2026 until you cancel.');
    expect(text).toContain('How this adds up');
    // 5.00 × 23 ÷ 123 = 0.93
    expect(text).toContain('Tax within, 23 %: €5.00 × 23 ÷ 123</span> <span>€0.93');
  });
  it('strikes an old price through only beside the price of the same thing', () => {
    const sale = { amount: 600 };
    expect(renderQuote(sums({ kind: 'one-time', regular: 900, sale }))).toContain('<s>€9.00</s>');
    expect(renderQuote(sums({ kind: 'instalments', regular: 900, sale, count: 3, interval: monthly }))).not.toContain('<s>');
  });
  it('says a code that acts later, shipping, and reverse charge', () => {
    const trial: Price = { kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null };
    const code = {
      code: 'NIGHT',
      on: true,
      scope: { kind: 'order' as const },
      discount: { kind: 'percent' as const, percent: 50 },
      payments: 'first' as const,
    };
    expect(renderQuote(sums(trial, { code }))).toMatch(/Code NIGHT<\/th><td>from the first payment/);
    const sent = sums({ kind: 'one-time', regular: 900 });
    const line = sent.lines[0];
    expect(line).toBeDefined();
    const post = quote({
      shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
      taxTable: TAX_RATES_EU,
      shippingTable: [{ name: 'EU', countries: ['DE'], rate: { kind: 'flat', amount: 500 } }],
      lines: [
        {
          id: 'm',
          productId: 'p',
          name: 'Disc',
          role: 'main',
          kind: 'physical',
          taxClass: 'standard',
          weight: 120,
          price: { kind: 'one-time', regular: 2400 },
          quantity: 2,
        },
      ],
      buyer: { country: 'DE', validTaxNumber: true },
      now: 0,
    });
    const text = renderQuote(post);
    expect(text).toContain('Disc × 2');
    expect(text).toContain('Reverse charge');
    // 5.00 − 5.00 × 19 ÷ 119 = 4.20
    expect(text).toMatch(/Shipping to Germany<\/th><td>€4\.20/);
  });
});
