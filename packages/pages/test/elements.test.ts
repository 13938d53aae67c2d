import { ELEMENTS, type ElementType, newElement, type PageElement, words } from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import type { PageDocument } from '@ruta/core/page';
import { DEFAULT_BRAND, FONT_PAIRS } from '@ruta/core/shop';
import { describe, expect, it } from 'vitest';
import type { PageContext } from '../src/context';
import { fontFaces, fontFiles, pageCss } from '../src/css';
import { renderPage } from '../src/render';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const picture = { id: 'fil_000000000001', width: 900, height: 600, widths: [480, 900] };
const context: PageContext = {
  legal: [],
  asksTaxNumber: false,
  notice: null,
  brand: DEFAULT_BRAND,
  shop: { name: 'Perigee Lane', email: 'ines@perigeelane.test', currency: 'EUR' },
  product: {
    name: 'First Light',
    description: 'Six weeks.',
    richDescription: '<p>Six <strong>weeks</strong>.</p>',
    included: ['Twelve films'],
    previewUrl: '',
    refundPolicy: '30 days',
    picture,
    price: '€138',
    otherPrices: [],
    options: [],
    current: 13_800,
    regular: 16_800,
    onSale: true,
    struck: 16_800,
    gone: null,
  },
  gift: {
    name: 'Moon Month',
    description: '',
    richDescription: '',
    included: [],
    previewUrl: '',
    refundPolicy: '',
    picture: null,
    price: 'Free',
    otherPrices: [],
    options: [],
    current: 0,
    regular: 0,
    onSale: false,
    struck: null,
    gone: null,
  },
  buyer: null,
  pictures: {},
  assetBase: '',
  addressOf: () => '',
  sharedAddress: () => '',
  cleanHtml: () => '',
  appointments: {},
  href: (action) => (action.kind === 'scroll' ? `#${action.target}` : action.kind === 'address' ? action.url : '/go/next'),
  form: { actionUrl: '/go/form', values: {}, errors: {} },
  checkout: null,
  order: null,
  offers: null,
  endsAt: null,
  endOf: (at) => ({ at, now: at - 1, words: '' }),
};
const options = {
  address: 'http://127.0.0.1/x',
  scripts: [],
  pixelUrl: null,
  structuredData: null,
  shareImage: null,
  icon: null,
  code: [],
};

/** The HTML of one element on a page of its own. */
function html(element: PageElement, changes: Partial<PageContext> = {}): string {
  const page: PageDocument = {
    version: 1,
    title: 'Page',
    description: '',
    indexed: true,
    sections: [
      {
        id: newId('section'),
        name: 'One',
        ground: 'plain',
        space: 'normal',
        align: 'start',
        width: 'normal',
        backdropId: null,
        columns: [{ id: newId('column'), span: 12, elements: [element] }],
      },
    ],
  };
  const text = renderPage(page, { ...context, ...changes }, options);
  return /<main[^>]*>(.*)<\/main>/s.exec(text)?.[1] ?? '';
}
const made = <T extends ElementType>(type: T, changes: object = {}) => ({ ...newElement(type, newId), ...changes }) as PageElement;

describe('every element', () => {
  it.each(ELEMENTS.map(({ type }) => type))('%s can be shown on any page, whatever is known', (type) => {
    expect(() => html(made(type))).not.toThrow();
    expect(() => html(made(type), { product: null, gift: null, form: null })).not.toThrow();
  });
});

describe('headlines and texts', () => {
  it('are the tags they say', () => {
    expect(html(made('headline', { level: 3 }))).toMatch(/<h3 class="headline headline-medium">A headline<\/h3>/);
    expect(html(made('text', { style: 'lead' }))).toMatch(/<p class="text text-lead">/);
  });
  it('carry bold, italic and lines', () => {
    const rich = [{ type: 'text', text: 'a', bold: true }, { type: 'break' }, { type: 'text', text: 'b', italic: true, bold: true }];
    expect(html(made('text', { words: rich }))).toContain('<strong>a</strong><br/><strong><em>b</em></strong>');
  });
  it('fill in what is bound, and leave out what nobody knows', () => {
    const bound = words(
      'For ',
      { bound: 'product.name' },
      ' at ',
      { bound: 'product.price' },
      ' not ',
      { bound: 'product.regularPrice' },
      { bound: 'buyer.firstName' },
    );
    expect(html(made('text', { words: bound }))).toContain('For First Light at €138 not €168</p>');
  });
});

describe('pictures', () => {
  it('come in two formats at every width, with their size, and lazily further down', () => {
    const text = html(made('picture', { source: { kind: 'product' }, alt: 'A hill' }));
    expect(text).toContain('srcSet="/media/fil_000000000001/480.avif 480w, /media/fil_000000000001/900.avif 900w"');
    expect(text).toContain('width="900" height="600"');
    expect(text).toContain('alt="A hill"');
    expect(text).not.toContain('loading="lazy"');
  });
  it('that are not there leave no gap', () => {
    expect(html(made('picture', { source: { kind: 'gift' } }))).not.toContain('<img');
    expect(html(made('picture', { source: { kind: 'file', fileId: 'fil_999999' } }))).not.toContain('<img');
  });
});

describe('buttons', () => {
  it.each([
    [{ kind: 'next' }, '/go/next'],
    [{ kind: 'scroll', target: 'form' }, '#form'],
    [{ kind: 'address', url: 'https://elsewhere.test/a?b=1&c=2' }, 'https://elsewhere.test/a?b=1&amp;c=2'],
  ])('with %j lead to %s', (action, href) => {
    expect(html(made('button', { action }))).toContain(`href="${href}"`);
  });
});

describe('forms', () => {
  const form = made('form', {
    fields: [
      { key: 'email', label: 'E-mail', kind: 'email', required: true },
      { key: 'question1', label: 'Where?', kind: 'choice', required: false, choices: ['North', 'South'] },
    ],
  });
  it('are one element with labelled fields, errors at each, and what was typed', () => {
    const text = html(form, { form: { actionUrl: '/go/form', values: { email: 'x@', question1: 'South' }, errors: { email: 'Enter an e-mail address.' } } });
    expect(text).toMatch(/<label for="email">E-mail<\/label>/);
    expect(text).toMatch(/<input id="email" aria-invalid="true"[^>]*value="x@"/);
    expect(text).toContain('<option selected="">South</option>');
    expect(text).toContain('Where?<span class="optional"> (if you like)</span>');
  });
  it('hide their decoy from people and from those who hear the page', () => {
    expect(html(form)).toMatch(/<div class="decoy" aria-hidden="true">.*tabindex="-1"/is);
  });
});

describe('orders', () => {
  it('show files and receipt to their buyer only', () => {
    expect(html(made('downloads'))).not.toContain('panel');
    expect(html(made('receipt'))).not.toContain('panel');
    const files = [{ name: 'week one.pdf', size: '1.7 KB', url: '/d/grt_1?until=1&signature=x', from: 'First Light' }];
    const quote = {
      currency: 'EUR',
      pricesIncludeTax: true,
      taxCountry: 'US',
      reverseCharge: false,
      taxNumber: null,
      orderTotal: 0,
      plans: [],
      endless: false,
      dueLater: 0,
      total: 13_800,
      lines: [],
      shipping: null,
      code: null,
      goods: 0,
      discount: 0,
      tax: 0,
      dueToday: 13_800,
      problems: [],
    };
    const order = {
      number: '1001',
      test: false,
      quote,
      downloads: files,
      links: [],
      keys: [{ value: 'SKY-1234', from: 'First Light' }],
      contacts: [],
      confirmations: [{ text: 'Go outside.', buttonWords: 'Say hello', buttonUrl: 'https://porch.test' }],
    };
    expect(html(made('downloads'), { order })).toContain('href="/d/grt_1?until=1&amp;signature=x" download="">week one.pdf</a>');
    expect(html(made('downloads'), { order })).toMatch(/Go outside\..*href="https:\/\/porch\.test".*SKY-1234/);
    expect(html(made('receipt'), { order })).toContain('Paid, order 1001');
  });
  it('say so where nothing is on sale', () => {
    expect(html(made('order-form'))).toContain('Nothing is on sale here at the moment');
  });
});

describe('product details', () => {
  it('show what the sheet says, each part by itself', () => {
    expect(html(made('product'))).toContain('<p>Six <strong>weeks</strong>.</p>');
    expect(html(made('product', { shows: ['included'] }))).toMatch(/<li>Twelve films<\/li>/);
    expect(html(made('product', { shows: ['policy'] }))).toContain('30 days');
    expect(html(made('product', { shows: ['preview'] }))).not.toContain('product');
  });
});

describe('typefaces', () => {
  it.each(Object.keys(FONT_PAIRS) as Array<keyof typeof FONT_PAIRS>)('%s: what is asked for first is also what is described', (fonts) => {
    const brand = { ...DEFAULT_BRAND, fonts };
    for (const file of fontFiles(brand)) expect(fontFaces(brand)).toContain(`/assets/fonts/${file}`);
    expect(pageCss(brand)).toContain(`--heading:"${FONT_PAIRS[fonts].heading.family}"`);
  });
});
