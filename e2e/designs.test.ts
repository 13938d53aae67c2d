import { gzipSync } from 'node:zlib';
import { DESIGNS } from '@ruta/core/templates';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { writeOwnWords } from '../apps/server/test/support/ownWords';
import { selling } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';

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
