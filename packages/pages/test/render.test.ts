import { words } from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import type { PageDocument } from '@ruta/core/page';
import { quote, TAX_RATES_EU } from '@ruta/core/pricing';
import { DEFAULT_BRAND } from '@ruta/core/shop';
import { checkoutPage, salesPage } from '@ruta/core/templates';
import { describe, expect, it } from 'vitest';
import type { PageContext } from '../src/context';
import { fontFiles } from '../src/css';
import { renderPage } from '../src/render';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const context: PageContext = {
  legal: [],
  asksTaxNumber: false,
  notice: null,
  brand: DEFAULT_BRAND,
  shop: { name: 'Shop & Sons', email: 'shop@shop.test', currency: 'EUR' },
  product: {
    name: '<b>Course</b>',
    description: 'All of it',
    richDescription: '',
    included: [],
    previewUrl: '',
    refundPolicy: '',
    picture: null,
    price: '€138',
    otherPrices: ['4 × €45 a month'],
    options: [],
    current: 13_800,
    regular: 16_800,
    onSale: true,
    struck: 16_800,
    gone: null,
  },
  gift: null,
  buyer: null,
  pictures: {},
  assetBase: '',
  addressOf: () => '',
  sharedAddress: () => '',
  cleanHtml: () => '',
  appointments: {},
  href: () => '/go/stp_1',
  form: null,
  checkout: null,
  order: null,
  offers: null,
  endsAt: null,
  endOf: (at) => ({ at, now: at - 1, words: '' }),
};
const options = {
  address: 'http://127.0.0.1/x',
  scripts: ['/assets/scripts/view.js'],
  pixelUrl: '/e/pixel.gif',
  structuredData: { name: '</script><script>alert(1)' },
  shareImage: null,
  icon: null,
  code: [],
};
const html = (page: PageDocument, changes: Partial<PageContext> = {}) => renderPage(page, { ...context, ...changes }, options);

describe('a rendered page', () => {
  const page = salesPage({ name: 'Course', pictureIds: [] }, newId);
  it('fills bound values in and lets nothing out of its place', () => {
    const text = html(page);
    expect(text).toContain('&lt;b&gt;Course&lt;/b&gt;');
    expect(text).not.toContain('<b>Course');
    expect(text).not.toContain('</script><script>alert');
    expect(text).toContain('Shop &amp; Sons');
  });
  it('has one main headline, landmarks, and asks for no more than the brand’s fonts', () => {
    const text = html(page);
    expect(text.match(/<h1/g)).toHaveLength(1);
    for (const landmark of ['<header', '<main', '<footer']) expect(text).toContain(landmark);
    expect(text.match(/rel="preload"/g)).toHaveLength(fontFiles(DEFAULT_BRAND).length);
  });
  it('shows the old price struck through while a sale lasts, and not after', () => {
    expect(html(page)).toContain('<s>€168</s>');
    expect(html(page, { product: { ...(context.product as NonNullable<PageContext['product']>), onSale: false, struck: null, gone: null } })).not.toContain(
      '<s>',
    );
  });
  it('falls back where a buyer is not known', () => {
    const greeting = {
      ...page,
      sections: page.sections.slice(0, 1).map((section) => ({
        ...section,
        columns: [
          {
            id: newId('column'),
            span: 12,
            elements: [
              {
                id: newId('element'),
                type: 'headline' as const,
                level: 1 as const,
                size: 'large' as const,
                words: words('Hello ', { bound: 'buyer.firstName', fallback: 'you' }),
              },
            ],
          },
        ],
      })),
    };
    expect(html(greeting)).toContain('Hello you');
    expect(html(greeting, { buyer: { firstName: 'Łucja' } })).toContain('Hello Łucja');
  });
});

describe('a rendered checkout', () => {
  it('is a plain form with labels, errors beside their fields, and what was typed', () => {
    const sums = quote({
      shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
      taxTable: TAX_RATES_EU,
      shippingTable: [],
      lines: [
        {
          id: 'm',
          productId: 'p',
          name: 'Course',
          role: 'main',
          kind: 'digital',
          taxClass: 'standard',
          weight: 0,
          price: { kind: 'one-time', regular: 13_800 },
          quantity: 1,
        },
      ],
      buyer: { country: 'PT', validTaxNumber: false },
      now: 0,
    });
    const text = html(checkoutPage({ name: 'Course', pictureIds: [] }, newId), {
      checkout: {
        actionUrl: '/pay/stp_1',
        quoteUrl: '',
        contactUrl: '',
        cartId: 'crt_1',
        quote: sums,
        values: { firstName: 'Ilse', email: 'wrong' },
        errors: { email: 'Enter an e-mail address.' },
        message: 'Look again',
        countries: [{ code: 'PT', name: 'Portugal' }],
        regions: [],
        options: [],
        needsCard: true,
        bumps: [],
        sentBumps: [],
        mayNeedCard: true,
        sentOptions: [],
        cardFields: { url: 'http://processor.test/fields?key=1', origin: 'http://processor.test' },
        testMode: false,
        paidOrder: null,
      },
    });
    expect(text).toMatch(/<form[^>]*action="\/pay\/stp_1" method="post"/);
    expect(text).toContain('value="Ilse"');
    expect(text).toMatch(/<input id="email"[^>]*aria-invalid="true"[^>]*aria-describedby="email-error"/);
    expect(text).toContain('Enter an e-mail address.');
    expect(text).toContain('name="shown" value="13800"');
    // 138.00 × 23 ÷ 123 = 25.80
    expect(text).toContain('includes €25.80 tax (Portugal 23 %)');
    expect(text).toContain('<noscript>');
  });
});
