import { gzipSync } from 'node:zlib';
import { ELEMENTS, newElement } from '@ruta/core/elements';
import { FONT_PAIRS, LOOK_NAMES, LOOKS } from '@ruta/core/shop';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { OfferFunnel, offerOf, thing } from '../apps/server/test/support/offers';
import { selling } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';

/** What belongs to a checkout, an offer or an order. */
const PAID: ReadonlySet<string> = new Set(['order-form', 'offers', 'downloads', 'receipt', 'order-summary', 'bumps', 'confirmation']);

let ruta: Installation;
let api: Seller;
let funnel: OfferFunnel;
/** Its page holds every element in a dark section. */
let night: OfferFunnel;
let visitor: Person;
/** Has text twice as large as others. */
let reader: Person;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  const product = selling(
    'First Light',
    { kind: 'one-time', regular: 13_800 },
    { buyAgain: true, included: ['Six weeks of evenings', 'A map for each'], refundPolicy: 'Write to us within 14 days and the money is back.' },
  );
  funnel = await OfferFunnel.draw(api, { product });
  const book = await thing(api, 'Workbook', 2_400);
  await funnel.bumps(offerOf(book.id, { place: 'bump', words: { headline: 'The workbook, printed' } }));
  const { id } = funnel.step('sales');
  const { page, revision } = await api.read(`/steps/${id}/page`);
  const [column] = page.sections[2].columns;
  const words = [{ type: 'text', text: 'I know the names now, and so does my son.' }];
  column.elements.push({ id: 'elm_looks00000000', type: 'testimonial', words, name: 'Ilse', detail: 'Zwolle' });
  for (const [index, marker] of ['number', 'dot'].entries()) {
    column.elements.push({ id: `elm_looks0000000${index + 1}`, type: 'list', marker, items: [words, words] });
  }
  await api.make(`/steps/${id}/page`, { revision, page }, 'PUT');
  await funnel.publish();

  // Everything that can stand in a section, in a dark one, on a page of its own.
  night = await OfferFunnel.draw(api, { product: selling('Night', { kind: 'one-time', regular: 900 }) });
  const own = await api.read(`/steps/${night.step('sales').id}/page`);
  const elements = ELEMENTS.map(({ type }) => type)
    .filter((type) => !PAID.has(type))
    .map((type, index) => newElement(type, () => `elm_dark0000${String(index).padStart(6, '0')}`));
  const dark = {
    ...own.page.sections[2],
    id: 'sec_dark00000000',
    name: 'Dark',
    ground: 'dark',
    columns: [{ ...own.page.sections[2].columns[0], id: 'col_dark00000000', elements }],
  };
  own.page.sections.push(
    JSON.parse(
      JSON.stringify(dark).replaceAll(',"placeholder":true', '').replaceAll('"name":""', '"name":"Ilse"').replaceAll('A question people ask', 'Is it heavy?'),
    ),
  );
  await api.make(`/steps/${night.step('sales').id}/page`, { revision: own.revision, page: own.page }, 'PUT');
  await night.publish();
  visitor = await Person.arrive();
  reader = await Person.arrive({ textSize: 32 });
});
afterAll(async () => {
  await visitor.leave();
  await reader.leave();
  await ruta.stop();
});

const size = (width: number, person = visitor) =>
  (person.driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width,
    height: 900,
    deviceScaleFactor: 1,
    mobile: width < 500,
  });

/** What stands where, at so many times its size: of everything with words in it left, width, height and size of text. */
const places = (person: Person, times: number) =>
  person.driver.executeScript<Array<[string, ...number[]]>>(
    `return document.fonts.ready.then(() => [...document.querySelectorAll('main *, footer *')].filter((it) => it.checkVisibility() && it.innerText).map((it) => {
       const { left, width, height } = it.getBoundingClientRect();
       return [it.innerText.slice(0, 30), ...[left, width, height, parseFloat(getComputedStyle(it).fontSize)].map((length) => length * arguments[0])];
     }))`,
    times,
  );

describe.each(LOOK_NAMES)('the look %s', (look) => {
  it('fits every screen with its content untouched, is readable, and keeps its weight', async () => {
    const shop = await api.read('/shop');
    const fonts = Object.keys(FONT_PAIRS)[LOOK_NAMES.indexOf(look) + 3];
    await api.make('/shop/brand', { ...shop.brand, look, fonts }, 'PUT');
    for (const path of ['', '/checkout']) {
      await visitor.open(`${ruta.site}/${funnel.slug}${path}`);
      for (const width of [320, 390, 768, 1280, 1920]) {
        await size(width);
        const wide = `return [...document.querySelectorAll('body *')].filter((it) => it.getBoundingClientRect().right > innerWidth + 1 && getComputedStyle(it).position !== 'absolute').map((it) => it.className)`;
        expect(await visitor.driver.executeScript<boolean>('return document.documentElement.scrollWidth <= innerWidth'), `${width}`).toBe(true);
        expect(await visitor.driver.executeScript<string[]>(wide), `${width}`).toEqual([]);
      }
      await size(1280);
      expect(await axeProblems(visitor)).toEqual([]);
      await size(390);
      expect(await axeProblems(visitor)).toEqual([]);

      // Text twice as large is the whole page twice as large: what a reader with a screen half as wide sees.
      await reader.open(`${ruta.site}/${funnel.slug}${path}`);
      await size(1280, reader);
      await size(640);
      const large = await places(reader, 1);
      const plain = await places(visitor, 2);
      expect(large.map(([words]) => words)).toEqual(plain.map(([words]) => words));
      const apart = large.filter((place, index) =>
        place.some((length, at) => typeof length === 'number' && Math.abs(length - Number(plain[index]?.[at])) > 8 + length / 50),
      );
      expect(apart).toEqual([]);
      await size(390, reader);
      expect(await reader.driver.executeScript<number>('return document.documentElement.scrollWidth - innerWidth')).toBeLessThanOrEqual(0);
    }
    for (const width of [390, 1280]) {
      await size(width);
      await visitor.open(`${ruta.site}/${night.slug}`);
      expect(await axeProblems(visitor), `dark, ${width}`).toEqual([]);
    }
    // The processor's own fields look like the page's, which it alone can read.
    await visitor.open(`${ruta.site}/${funnel.slug}/checkout`);
    const ofField = `const of = (css, name) => getComputedStyle(document.querySelector(css))[name];
      return [...['height', 'color', 'backgroundColor', 'borderTopWidth', 'borderTopLeftRadius', 'fontSize', 'fontFamily'].map((name) => of('input:is([type=email],#number)', name)),
        of('label:is(.field label,[for=number])', 'color'), of('label:is(.field label,[for=number])', 'fontSize'), [...document.fonts].length > 0]`;
    const own = await visitor.driver.executeScript(ofField);
    expect(await visitor.inside('.card-frame iframe', async () => (await visitor.find('#number')) && visitor.driver.executeScript(ofField))).toEqual(own);
    await size(1280);
    await visitor.open(`${ruta.site}/${funnel.slug}`);
    const [headline = 0, body = 1, weight] = await visitor.driver.executeScript<[number, number, string]>(
      `const of = (css) => parseFloat(getComputedStyle(document.querySelector(css)).fontSize);
       return [of('h1'), of('body'), getComputedStyle(document.querySelector('h1')).fontWeight]`,
    );
    expect(headline / body).toBeGreaterThanOrEqual(2.5);
    expect(weight).toBe(`${LOOKS[look].weight}`);
    expect(await visitor.text()).toMatch(/six weeks of evenings/i);
    // Its words, its style and all: what a phone on a bad line waits for first. No look loads more typefaces than another.
    const html = await (await fetch(`${ruta.site}/${funnel.slug}`)).text();
    expect(gzipSync(html).length).toBeLessThanOrEqual(9 * 1024);
    expect((html.match(/rel="preload" as="font"/g) ?? []).length).toBeLessThanOrEqual(2);
  });
});
