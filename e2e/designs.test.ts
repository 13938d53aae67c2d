import { gzipSync } from 'node:zlib';
import { type IdKind, makeId } from '@ruta/core/ids';
import type { PageDocument } from '@ruta/core/page';
import { buildSection, SECTIONS } from '@ruta/core/sections';
import { DESIGNS } from '@ruta/core/templates';
import { HtmlValidate } from 'html-validate';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { ownWords, writeOwnWords } from '../apps/server/test/support/ownWords';
import { selling } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';

const newId = (kind: IdKind) => makeId(kind, Date.now(), crypto.getRandomValues(new Uint8Array(10)));

let ruta: Installation;
let api: Seller;
let visitor: Person;
let productId: string;
let giftId: string;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  productId = (await api.make('/products', selling('A Thing for Long Evenings', { kind: 'one-time', regular: 4_800 }, { included: ['One', 'Two'] }))).id;
  giftId = (await api.make('/products', selling('A Page for the Wall', { kind: 'free' }))).id;
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

const validator = new HtmlValidate({ extends: ['html-validate:standard'] });
/** What a page may move by itself while it loads, as browsers reckon it (cumulative layout shift); "good" is up to 0.1. */
const STILL = 0.05;

/** How far things have moved by themselves since the page was opened, until its typefaces and pictures are there. */
const layoutShift = () =>
  visitor.driver.executeAsyncScript<number>(
    `const done = arguments[0];
     let sum = 0;
     const observer = new PerformanceObserver((list) => { for (const entry of list.getEntries()) sum += entry.value; });
     observer.observe({ type: 'layout-shift', buffered: true });
     const loaded = [...document.images].filter((image) => !image.complete && image.loading !== 'lazy').map((image) => new Promise((resolve) => { image.onload = image.onerror = resolve; }));
     Promise.all([document.fonts.ready, ...loaded]).then(() => requestAnimationFrame(() => requestAnimationFrame(() => { for (const entry of observer.takeRecords()) sum += entry.value; done(sum); })));`,
  );

describe.each(DESIGNS.map(({ design, template }) => ({ design, template })))('the funnel $design', ({ design, template }) => {
  it('fits every screen, is readable, and keeps its weight, on every page that it arranges', async () => {
    const funnel = await api.make('/funnels', { name: design, template, design, ownLook: true, productId, giftId });
    await writeOwnWords(api, funnel.id);
    await api.make(`/funnels/${funnel.id}/publish`, {});
    const { addresses } = await api.read(`/funnels/${funnel.id}`);
    for (const step of funnel.graph.steps.filter(({ kind }: { kind: string }) => kind !== 'confirmation' && kind !== 'replay')) {
      await visitor.open(addresses[step.id]);
      for (const width of [320, 390, 768, 1280, 1920]) {
        await size(width);
        expect(await visitor.driver.executeScript<boolean>('return document.documentElement.scrollWidth <= innerWidth'), `${step.kind} at ${width}`).toBe(true);
      }
      await size(390);
      expect(await axeProblems(visitor), step.kind).toEqual([]);
      await size(1280);
      expect(await axeProblems(visitor), step.kind).toEqual([]);
      const html = await (await fetch(addresses[step.id])).text();
      expect(gzipSync(html).length, step.kind).toBeLessThanOrEqual(16 * 1024);
      const { results } = await validator.validateString(html);
      expect(
        results.flatMap(({ messages }) => messages.map(({ ruleId, message }) => `${ruleId}: ${message}`)),
        step.kind,
      ).toEqual([]);
      for (const width of [390, 1280]) {
        await size(width);
        await visitor.open(addresses[step.id]);
        expect(await layoutShift(), `${step.kind} at ${width}`).toBeLessThanOrEqual(STILL);
      }
    }
  });
});

/** A page with every name and question that a seller would have to fill in. */
const filledIn = (page: PageDocument): PageDocument =>
  JSON.parse(JSON.stringify(ownWords(page)).replaceAll('"name":""', '"name":"Marta"').replaceAll('A question people ask', 'Does it work in a town?'));

describe.each(['plain', 'poster', 'night'] as const)('every ready section in the look %s', (look) => {
  it('fits every screen and is readable', async () => {
    const funnel = await api.make('/funnels', { name: `All of ${look}`, template: 'straight-sale', productId });
    const brand = { main: '#1F3A34', accent: '#B5542B', ground: '#FAF8F3', fonts: 'figtree', corner: 6, look };
    await api.make(`/funnels/${funnel.id}/look`, { brand, code: null }, 'PUT');
    const entry = funnel.graph.entryId as string;
    const { addresses } = await api.read(`/funnels/${funnel.id}`);
    await writeOwnWords(api, funnel.id);
    const own = (await api.read(`/steps/${entry}/page`)).page as PageDocument;
    // A page has one header and one footer, so that those stand on pages of their own.
    const alone = SECTIONS.filter(({ purpose }) => purpose === 'header' || purpose === 'footer').map((section) => [section]);
    const others = SECTIONS.filter(({ purpose }) => purpose !== 'header' && purpose !== 'footer');
    const together = Array.from({ length: Math.ceil(others.length / 12) }, (_, index) => others.slice(index * 12, index * 12 + 12));
    for (const group of [...together, ...alone]) {
      const { revision } = await api.read(`/steps/${entry}/page`);
      const built = group.map(({ plan }) => buildSection(plan(), newId));
      const [first] = group;
      const page = { ...own, sections: first?.purpose === 'header' ? [...built, ...own.sections.slice(1)] : [...own.sections.slice(0, 1), ...built] };
      await api.make(`/steps/${entry}/page`, { revision, page: filledIn(page) }, 'PUT');
      await api.make(`/funnels/${funnel.id}/publish`, {});
      await visitor.open(addresses[entry]);
      const names = group.map(({ key }) => key).join(', ');
      for (const width of [320, 768, 1280]) {
        await size(width);
        expect(await visitor.driver.executeScript<boolean>('return document.documentElement.scrollWidth <= innerWidth'), `${names} at ${width}`).toBe(true);
      }
      // What is asked of a page and not of each of its sections: one first headline, and no two of a kind by one name.
      const problems = (await axeProblems(visitor)).filter((problem) => !/^(page-has-heading-one|landmark-unique)/.test(problem));
      expect(problems, names).toEqual([]);
    }
  });
});

it('is chosen by picture, with the seller’s own product on it', async () => {
  const seller = await arriveAsOwner(ruta.studio);
  try {
    await seller.open(`${ruta.studio}/funnels/new`);
    await seller.choose('Trade', 'Events');
    const card = await seller.find('[data-design=full-house]');
    await seller.until(
      () =>
        seller.driver.executeScript<boolean>(
          `return [...arguments[0].querySelectorAll('[data-page-picture] > div')].some((it) => it.shadowRoot?.textContent.includes('A Thing for Long Evenings'))`,
          card,
        ),
      'the product stands on its picture',
    );
    await seller.click(await card.findElement({ css: 'input' }));
    await seller.click('Draw the funnel');
    await seller.find('.react-flow__node');
    const [drawn] = await api.rows('/funnels');
    const { brand } = await api.read(`/funnels/${drawn.id}`);
    expect(brand.look).toBe('stage');
  } finally {
    await seller.leave();
  }
});
