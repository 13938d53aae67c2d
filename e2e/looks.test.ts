import { gzipSync } from 'node:zlib';
import { FONT_PAIRS, LOOK_NAMES, LOOKS } from '@ruta/core/shop';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { OfferFunnel, offerOf, thing } from '../apps/server/test/support/offers';
import { selling } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';

let ruta: Installation;
let api: Seller;
let funnel: OfferFunnel;
let visitor: Person;

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
  visitor = await Person.arrive();
});
afterAll(async () => {
  await visitor.leave();
  await ruta.stop();
});

const size = (width: number) =>
  (visitor.driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width,
    height: 900,
    deviceScaleFactor: 1,
    mobile: width < 500,
  });

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
    }
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
