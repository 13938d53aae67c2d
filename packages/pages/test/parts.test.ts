import {
  DRAWING_NAMES,
  type ElementType,
  ICON_NAMES,
  type Layout,
  newElement,
  newPlanCard,
  type PageElement,
  PICTURE_SHAPES,
  TESTIMONIAL_STYLES,
  words,
} from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import { PATTERN_NAMES, type PageDocument, type Section } from '@ruta/core/page';
import { buildSection, SECTIONS } from '@ruta/core/sections';
import { DEFAULT_BRAND } from '@ruta/core/shop';
import { describe, expect, it } from 'vitest';
import type { PageContext } from '../src/context';
import { pageCss } from '../src/css';
import { drawingOf, patternRule } from '../src/drawings';
import { cropStyle } from '../src/elements/Photo';
import { cardOptions } from '../src/elements/PriceTableView';
import { layoutClasses, sectionClasses, sizeClasses } from '../src/layout';
import { type HtmlOptions, renderPage } from '../src/render';
import { shopContext } from '../src/shopContext';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const FILE = 'fil_000000000001';
const picture = { id: FILE, width: 900, height: 600, widths: [480, 900] };
const shop = { name: 'Perigee Lane', email: 'ines@perigeelane.test', currency: 'EUR' };
const option = (id: string, title: string, price: string) => ({ id, title, price, description: '', isGone: false });
const product = {
  name: 'First Light',
  description: '',
  richDescription: '',
  included: [],
  previewUrl: '',
  refundPolicy: '',
  picture,
  price: '€48',
  otherPrices: [],
  options: [option('prc_a', 'To read', '€48'), option('prc_b', 'With letters', '€138'), option('prc_c', 'With evenings', '€238')],
  current: 4800,
  regular: 4800,
  onSale: false,
  struck: null,
  gone: null,
};
const context: PageContext = {
  ...shopContext(DEFAULT_BRAND, shop),
  product,
  pictures: { [FILE]: picture },
  href: (action, elementId, { part, option: chosen } = {}) =>
    `/go/${action.kind}/${elementId}${part === undefined ? '' : `/${part}`}${chosen ? `?option=${chosen}` : ''}`,
  addressOf: (stepId) => `https://shop.test/${stepId ?? 'here'}`,
  sharedAddress: (stepId) => `https://shop.test/${stepId ?? 'first'}`,
  cleanHtml: (code) => code.replaceAll('<script>', ''),
};
const options: HtmlOptions = {
  address: 'https://shop.test/x',
  scripts: [],
  pixelUrl: null,
  structuredData: null,
  shareImage: null,
  icon: null,
  code: [],
};
const made = <T extends ElementType>(type: T, changes: object = {}) => ({ ...newElement(type, newId), ...changes }) as PageElement;
const sectionOf = (elements: PageElement[], changes: Partial<Section> = {}): Section => ({
  ...buildSection({ name: 'One', columns: [{ span: 12, parts: [] }] }, newId),
  ...changes,
  columns: [{ id: newId('column'), span: 12, elements }],
});
const pageOf = (sections: Section[], changes: Partial<PageDocument> = {}): PageDocument => ({
  version: 1,
  title: 'A page',
  description: '',
  indexed: true,
  sections,
  ...changes,
});
const render = (page: PageDocument, changes: Partial<PageContext> = {}, more: Partial<HtmlOptions> = {}) =>
  renderPage(page, { ...context, ...changes }, { ...options, ...more });
/** What stands in the main part of a page with one element. */
const html = (element: PageElement, changes: Partial<PageContext> = {}): string =>
  /<main[^>]*>(.*)<\/main>/s.exec(render(pageOf([sectionOf([element])]), changes))?.[1] ?? '';

describe('drawings', () => {
  it.each(DRAWING_NAMES)('%s is drawn with nothing but shapes in the brand’s colours', (name) => {
    const { width, height, shapes } = drawingOf(name);
    expect([width, height].every((side) => side >= 180 && side <= 380)).toBe(true);
    expect(shapes).not.toMatch(/NaN|undefined|<script|href|#[0-9a-f]{3}/i);
    const tags = [...shapes.matchAll(/<(\w+)/g)].map(([, tag]) => tag);
    expect(tags.every((tag) => ['path', 'circle', 'ellipse', 'g'].includes(tag ?? ''))).toBe(true);
    expect((shapes.match(/<g[ >]/g) ?? []).length).toBe((shapes.match(/<\/g>/g) ?? []).length);
    // Every class is one that the style knows.
    const classes = [...shapes.matchAll(/class="([^"]*)"/g)].flatMap(([, list]) => (list ?? '').split(' '));
    expect(classes.every((each) => ['a', 'b', 'c', 'd', 'k', 'o', 'h'].includes(each))).toBe(true);
  });
  it('are told apart, and say what they show only where somebody said it', () => {
    expect(new Set(DRAWING_NAMES.map((name) => drawingOf(name).shapes)).size).toBe(DRAWING_NAMES.length);
    expect(html(made('picture', { source: { kind: 'drawing', name: 'open-book' }, alt: 'A "book"' }))).toContain('role="img" aria-label="A &quot;book&quot;"');
    expect(html(made('picture', { source: { kind: 'drawing', name: 'open-book' }, alt: '' }))).toContain('aria-hidden="true"');
  });
  it.each(PATTERN_NAMES)('the pattern %s is one rule without anything to load', (name) => {
    expect(patternRule(name)).toMatch(new RegExp(`^\\.pattern-${name}::before\\{mask-image:url\\("data:image/svg\\+xml,[^"]+"\\)\\}$`));
  });
});

describe('pictures', () => {
  const file = { source: { kind: 'file', fileId: FILE }, alt: 'A hill' };
  it.each(PICTURE_SHAPES)('of the shape %s', (shape) => {
    expect(html(made('picture', { ...file, shape }))).toContain(`class="picture picture-${shape}"`);
  });
  it('are cropped to a part of them, in its proportions', () => {
    const crop = { x: 0.25, y: 0.5, width: 0.5, height: 0.25 };
    // 900 × 0.5 wide and 600 × 0.25 high; twice as wide as its frame, four times as high, moved by a half and twice its frame.
    expect(html(made('picture', { ...file, crop }))).toContain('style="aspect-ratio:450/150" data-cropped=""');
    expect(cropStyle(crop)).toMatchObject({ width: '200%', height: '400%', left: '-50%', top: '-200%' });
  });
  it('keep the point in sight that somebody chose', () => {
    expect(html(made('picture', { ...file, focus: { x: 0.1, y: 0.9 } }))).toContain('object-position:10% 90%');
  });
  it('lead somewhere, with words below them', () => {
    const text = html(made('picture', { ...file, action: { kind: 'next' }, caption: words('Seen at night') }));
    expect(text).toMatch(/<figure class="captioned"><a class="picture-link" href="\/go\/next\/elm_\w+" aria-label="A hill">/);
    expect(text).toContain('<figcaption class="text-small">Seen at night</figcaption>');
  });
});

describe('videos', () => {
  it.each([
    ['https://films.test/a.mp4', 'file'],
    ['https://films.test/a.webm?t=3', 'file'],
    ['https://player.test/watch/12', 'player'],
  ])('%s is a link that a script plays as a %s', (url, kind) => {
    const text = html(made('video', { source: { kind: 'address', url }, title: 'The first evening' }));
    expect(text).toContain(`href="${url}" data-video="${kind}" aria-label="Play: The first evening"`);
    expect(text).not.toMatch(/<iframe|<video/);
  });
  it('that were uploaded come from the shop itself, and none is nothing', () => {
    expect(html(made('video', { source: { kind: 'file', fileId: FILE, name: 'a.mp4' } }))).toContain(`href="/video/${FILE}" data-video="file"`);
    expect(html(made('video'))).not.toContain('video-frame');
  });
});

describe('price tables', () => {
  it('give each card its price: its own, or the next that no other shows', () => {
    const card = (optionId: string | null) => ({ ...newPlanCard(), optionId });
    expect(cardOptions([card(null), card('prc_a'), card(null), card(null)], product.options).map((each) => each?.id)).toEqual([
      'prc_b',
      'prc_a',
      'prc_c',
      undefined,
    ]);
  });
  it('lead in with the choice made, and leave out a card without a price', () => {
    const text = html(made('price-table', { cards: [newPlanCard(), { ...newPlanCard(), mark: words('Most chosen') }, newPlanCard(), newPlanCard()] }));
    expect([...text.matchAll(/\?option=(\w+)/g)].map(([, id]) => id)).toEqual(['prc_a', 'prc_b', 'prc_c']);
    expect((text.match(/class="plan/g) ?? []).length).toBeGreaterThanOrEqual(3);
    expect(text).toContain('<p class="plan-mark">Most chosen</p>');
    expect(text).toContain('<h3 class="plan-title">With letters</h3><p class="plan-price">€138</p>');
  });
});

describe('lists of things', () => {
  it('stand with icons that are hidden from those who cannot see them', () => {
    const text = html(made('icon-list', { items: ICON_NAMES.slice(0, 24).map((icon) => ({ icon, title: words(icon), words: [] })) }));
    expect((text.match(/<svg/g) ?? []).length).toBe(24);
    expect((text.match(/aria-hidden="true"/g) ?? []).length).toBe(24);
  });
  it.each(ICON_NAMES)('the icon %s is drawn', (icon) => {
    expect(html(made('badges', { items: [{ icon, words: words('x') }] }))).toMatch(/<svg[^>]*class="lucide[^"]* icon"[^>]*>.+<\/svg>/);
  });
  it('of steps are counted, and of progress say where one is', () => {
    expect(html(made('steps'))).toMatch(/<ol class="steps steps-column"><li>/);
    const text = html(made('progress', { current: 1 }));
    expect(text).toContain('<li class="done"><span>Your choice</span></li><li aria-current="step"><span>Payment</span></li><li><span>Yours</span></li>');
  });
  it('are compared in a table that can be read aloud', () => {
    const text = html(made('comparison', { caption: 'Two ways', marked: 0 }));
    expect(text).toContain('<section class="comparison" aria-label="Two ways" tabindex="0">');
    expect(text).toContain('<th scope="col" class="marked">First Light</th>');
    expect(text).toContain('<span class="unseen">yes</span>');
    expect((text.match(/<th scope="row">/g) ?? []).length).toBe(2);
  });
});

describe('countdowns', () => {
  const AT = 1_800_000_000_000;
  const show = (until: object | undefined, now: number, endsAt: PageContext['endsAt'] = null) =>
    html(made('countdown', { label: words('Doors open in'), ended: words('The doors are open.'), until }), {
      endsAt,
      endOf: (at) => ({ at, now, words: 'the tenth at eight' }),
    });
  it('to a moment of their own tell it without script, and how much is left with one', () => {
    const shown = show({ at: AT, afterwards: 'words' }, AT - 90_000);
    expect(shown).toContain('data-left="90000"');
    expect(shown).toContain('until the tenth at eight');
  });
  it('say other words once it has come, or are gone', () => {
    expect(show({ at: AT, afterwards: 'words' }, AT)).toMatch(/<p class="countdown">The doors are open/);
    expect(show({ at: AT, afterwards: 'hide' }, AT)).not.toContain('countdown');
    expect(show({ at: AT, afterwards: 'hide' }, AT - 1)).not.toContain('data-ended');
  });
  it('follow the offer without one, and are nothing where nothing ends', () => {
    expect(show(undefined, 0, { at: AT, now: AT - 5000, words: 'then' })).toContain('data-left="5000"');
    expect(show(undefined, 0)).not.toContain('countdown');
  });
});

describe('what people say', () => {
  const saying = { words: words('It is good.'), name: 'Ilse', detail: 'Zwolle', stars: 4, pictureId: FILE };
  it.each(TESTIMONIAL_STYLES)('in the style %s', (style) => {
    const text = html(made('testimonial', { ...saying, style }));
    expect(text).toContain(`class="testimonial testimonial-${style}"`);
    expect(text).toContain('<strong>Ilse</strong>, Zwolle');
    expect(text).toContain('aria-label="4 of 5 stars"');
    expect(text).toContain('class="portrait"');
  });
  it('stands beside each other, or is leafed through by keyboard too', () => {
    expect(html(made('testimonials', { arrangement: 'wall' }))).toContain('<ul class="sayings sayings-wall">');
    const text = html(made('testimonials', { arrangement: 'carousel' }));
    expect(text).toContain('tabindex="0"');
    expect(text).toMatch(/<p class="carousel-buttons" hidden="">.*aria-label="The one before".*aria-label="The next one"/);
  });
  it('comes from those whose signs stand there, by name where there is no picture', () => {
    const text = html(
      made('logos', {
        items: [
          { name: 'A School', pictureId: null },
          { name: 'A Fair', pictureId: FILE },
        ],
      }),
    );
    expect(text).toContain('<li>A School</li>');
    expect(text).toContain('alt="A Fair"');
  });
});

describe('what leads on', () => {
  it('from a navigation is told by its place, wide and narrow alike', () => {
    const link = (label: string) => ({ label: words(label), action: { kind: 'address', url: 'https://x.test' }, style: 'link' });
    const text = render(pageOf([sectionOf([made('navigation', { items: [link('One'), link('Two')] })])]));
    expect(text).toMatch(/<header>.*<nav class="navigation" aria-label="On this site">/);
    expect((text.match(/href="\/go\/address\/elm_\w+\/1"/g) ?? []).length).toBe(2);
    expect(text).toContain('<summary>Menu</summary>');
  });
  it('by sharing tells nobody: an address, a mail, and what a script can do', () => {
    const text = html(made('share', { message: 'Look & see', stepId: 'stp_1' }));
    expect(text).toContain('data-share-address="https://shop.test/stp_1"');
    expect(text).toContain(`href="mailto:?subject=A%20page&amp;body=${encodeURIComponent('Look & see\n\nhttps://shop.test/stp_1').replaceAll('&', '&amp;')}"`);
    expect(text).toMatch(/data-share="copy" hidden=""/);
  });
});

describe('forms', () => {
  const field = (key: string, kind: string, more: object = {}) => ({ key, label: key, kind, required: false, ...more });
  it.each([
    ['long', '<textarea rows="4" maxLength="2000" id="it" name="it"'],
    ['phone', 'type="tel" maxLength="200"'],
    ['number', 'inputMode="decimal"'],
    ['date', 'type="date"'],
    ['check', '<input type="checkbox" name="it" value="yes"/>'],
  ])('ask for %s as it is filled in', (kind, part) => {
    expect(html(made('form', { fields: [field('it', kind, { value: 'kept' })] })).replaceAll(' defaultValue=""', '')).toContain(part);
  });
  it('hold in a hidden field what the seller put there, until the link says something else', () => {
    expect(html(made('form', { fields: [field('it', 'hidden', { value: 'kept' })] }))).toMatch(
      /<input (?=[^>]*type="hidden")(?=[^>]*name="it")(?=[^>]*data-from-link="it")(?=[^>]*value="kept")/,
    );
  });
  it('ask for several answers with a legend, and keep what was ticked', () => {
    const form = made('form', { fields: [field('which', 'several', { choices: ['a', 'b'] })] });
    const text = html(form, { form: { actionUrl: '/go', values: { which: 'b' }, errors: { which: 'Please.' } } });
    expect(text).toContain('<fieldset class="field field-wrong ticks" data-field="which"><legend class="field-label">');
    expect(text).toMatch(/value="a"\/>.*value="b" checked=""|checked="" value="b"/s);
    expect(text).toContain('role="alert">Please.</p>');
  });
  it('stand in stages with names, of which none is hidden without script', () => {
    const text = html(
      made('form', { stages: ['Who', 'What'], fields: [field('a', 'text'), field('b', 'text', { stage: 1 }), field('c', 'text', { stage: 5 })] }),
    );
    expect(text).toContain('data-stages="2"');
    expect(
      [...text.matchAll(/<fieldset class="stage" data-stage="(\d)">(.*?)<\/fieldset>/gs)].map(([, stage, inside]) => [
        stage,
        [...(inside ?? '').matchAll(/name="(\w)"/g)].map(([, name]) => name),
      ]),
    ).toEqual([
      ['0', ['a']],
      ['1', ['b', 'c']],
    ]);
    expect(text).not.toContain('hidden=""');
  });
  it('say what was promised once one was sent, and show errors only at the one they are of', () => {
    const [one, two] = [made('form'), made('form')];
    const page = pageOf([sectionOf([one, two])]);
    const sent = render(page, { form: { actionUrl: '', values: {}, errors: {}, sent: { id: one.id, words: 'It has arrived.' } } });
    expect((sent.match(/role="status" autofocus="" tabindex="-1">It has arrived/g) ?? []).length).toBe(1);
    const wrong = render(page, { form: { actionUrl: '', values: {}, errors: { email: 'Not an address.' }, formId: two.id } });
    expect((wrong.match(/Not an address\./g) ?? []).length).toBe(1);
    expect((wrong.match(/id="form"/g) ?? []).length).toBe(1);
    // The page opens at it, and nowhere else.
    expect((wrong.match(/<input[^>]*name="email"[^>]*autofocus=""/gi) ?? wrong.match(/<input[^>]*autofocus=""[^>]*name="email"/gi) ?? []).length).toBe(1);
    expect((wrong.match(/autofocus/g) ?? []).length).toBe(1);
  });
});

describe('appointments', () => {
  const element = made('appointment');
  const days = [
    {
      date: '2026-11-30',
      words: 'Monday, November 30',
      slots: [
        { start: 9, words: '09:00' },
        { start: 10, words: '09:30' },
      ],
    },
  ];
  const shown = (more: object) =>
    html(element, { appointments: { [element.id]: { actionUrl: '/go/book', zone: 'Europe/Lisbon', days, values: {}, errors: {}, booked: null, ...more } } });
  it('offer times by day, keep the chosen one, and say whose clock it is', () => {
    const text = shown({ values: { slot: '10' }, errors: { email: 'Please fill this in.' } });
    expect(text).toContain('Times are those of <span data-zone-words="">Lisbon</span>.');
    expect(text).toMatch(/name="slot" (checked="" value="10"|value="10" checked="")/);
    expect(text).toContain('Please fill this in.');
  });
  it('say when nothing is free, and when one is booked', () => {
    expect(shown({ days: [] })).toContain('No time is free just now. Write to ines@perigeelane.test');
    const booked = shown({ booked: 'Booked: Monday' });
    expect(booked).toContain('role="status" autofocus="" tabindex="-1"><p class="item-title">Booked: Monday</p>');
    expect(booked).not.toContain('<form');
  });
});

describe('how things stand', () => {
  it.each<[Layout | undefined, string]>([
    [undefined, ''],
    [{}, ''],
    [{ space: 'large', align: 'end', width: 'half', panel: 'tint', scale: 'smaller' }, 'layout above-large scale-smaller to-end share-half stand stand-tint'],
    [{ sizes: { phone: { hide: true }, desktop: { order: -2, align: 'center' } } }, 'layout phone-hide desktop-order--2 desktop-align-center'],
  ])('an element: %j', (layout, classes) => {
    expect(layoutClasses(layout)).toBe(classes);
  });
  it('a section, with a veil only over a picture', () => {
    const section = sectionOf([], { pattern: 'dots', inset: true, overlap: true, tall: true, place: 'center', veil: 'strong' });
    expect(sectionClasses(section, true)).toBe(
      'ground-plain space-normal align-start width-normal pattern pattern-dots inset overlap tall place-center veil veil-strong',
    );
    expect(sectionClasses(section, false)).not.toContain('veil');
    expect(sizeClasses({ tablet: { space: 'none', scale: 'larger' } })).toEqual(['tablet-scale-larger', 'tablet-space-none']);
  });
  it('a page carries rules for just what it has, and one for every class it uses', () => {
    const page = pageOf([sectionOf([made('steps', { layout: { sizes: { phone: { order: 3 } } } })], { pattern: 'waves' })]);
    const css = pageCss(DEFAULT_BRAND, { page });
    expect(css).toContain('.phone-order-3{order:3}');
    expect(css).toContain('.pattern-waves::before');
    expect(css).toContain('.steps{');
    for (const other of ['.pattern-dots', '.price-table', '.phone-order-4', '.own-html', 'dialog.opening']) expect(css).not.toContain(other);
    const all = pageCss(DEFAULT_BRAND);
    for (const each of ['.pattern-dots', '.price-table', '.phone-order-4', '.own-html']) expect(all).toContain(each);
  });
  it.each(SECTIONS.map(({ key }) => key))('the ready section %s is shown without anything known', (key) => {
    const section = buildSection(SECTIONS.find((each) => each.key === key)?.plan() ?? { name: '', columns: [] }, newId);
    const text = render(pageOf([section]), { product: null, pictures: {} });
    expect(text).toContain(`id="${section.id}"`);
    expect(text).not.toMatch(/undefined|\[object Object\]|NaN/);
  });
});

describe('a page around it', () => {
  const popUp = { id: 'pop_000000000001', name: 'Wait', trigger: { kind: 'scroll' as const, percent: 40 }, often: 'day' as const, width: 'wide' as const };
  it('has its pop-ups after everything else, and none that is empty', () => {
    const inside = sectionOf([made('text', { words: words('Inside') })], { popUpId: popUp.id });
    const text = render(pageOf([sectionOf([made('divider')]), inside], { popUps: [popUp, { ...popUp, id: 'pop_000000000002' }] }));
    expect((text.match(/<dialog/g) ?? []).length).toBe(1);
    expect(text).toContain('data-opens="scroll 40" data-often="day" aria-label="Wait"');
    expect(text.indexOf('Inside')).toBeGreaterThan(text.indexOf('</main>'));
  });
  it('gives no two fields the same id, and answers a form of a pop-up in it', () => {
    const [one, two] = [made('form'), made('form')];
    const page = pageOf([sectionOf([one]), sectionOf([two], { popUpId: popUp.id })], { popUps: [popUp] });
    const ids = [...render(page).matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(render(page)).not.toContain('<dialog open');
    const answered = (form: object) => render(page, { form: { actionUrl: '', values: {}, errors: {}, ...form } });
    expect(answered({ formId: two.id, errors: { email: 'Please.' } })).toContain('<dialog open=""');
    expect(answered({ sent: { id: two.id, words: 'Kept.' } })).toContain('<dialog open=""');
    expect(answered({ formId: one.id, errors: { email: 'Please.' } })).not.toContain('<dialog open');
  });
  it('puts own code where it belongs, whatever stands in it', () => {
    const text = render(
      pageOf([]),
      {},
      { code: [{ needs: 'nothing', head: '<meta name="a" content="$1 </body>">', body: '<script>"</head>"</script>', purchase: '' }] },
    );
    expect(text).toContain('<meta name="a" content="$1 </body>"></head>');
    expect(text.endsWith('<script>"</head>"</script></body></html>')).toBe(true);
  });
  it('has an icon and a sign of its own', () => {
    const text = render(pageOf([sectionOf([made('logo')])]), { brand: { ...DEFAULT_BRAND, logoId: FILE } }, { icon: FILE as never });
    expect(text).toContain(`<link rel="icon" href="/media/${FILE}/icon-32.png" sizes="32x32" type="image/png"/>`);
    expect(text).toContain(`<img src="/media/${FILE}/480.webp" alt="Perigee Lane" width="900" height="600"/>`);
  });
  it('takes the form of buttons and the treatment of pictures from the brand', () => {
    const css = pageCss({ ...DEFAULT_BRAND, buttons: 'pill', pictures: 'toned' }, { page: pageOf([]) });
    expect(css).toContain('--button-corner:62.4375rem');
    expect(css).toContain('grayscale(.85)');
    expect(pageCss(DEFAULT_BRAND, { page: pageOf([]) })).not.toContain('grayscale(.85)');
  });
  it('shows own HTML only as it was cleaned', () => {
    expect(html(made('html', { code: '<p>a</p><script>x' }))).toContain('<div class="own-html"><p>a</p>x</div>');
  });
});
