import { LOOK_NAMES } from '@ruta/core/shop';
import { DESIGNS } from '@ruta/core/templates';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { writeOwnWords } from '../apps/server/test/support/ownWords';
import { selling } from '../apps/server/test/support/products';
import { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
let api: Seller;
let seller: Person;
let visitor: Person;
let products: Array<{ id: string }>;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  products = [
    await api.make('/products', selling('First Light', { kind: 'one-time', regular: 13_800 }, { included: ['Six weeks of evenings', 'A map'] })),
    await api.make('/products', selling('Moon Month', { kind: 'free' })),
  ];
  // Room for the whole canvas, so that nothing on it is drawn smaller.
  seller = await arriveAsOwner(ruta.studio, { width: 1920, height: 1000 });
  visitor = await Person.arrive({ width: 1200, height: 900 });
});
afterAll(async () => {
  await seller.leave();
  await visitor.leave();
  await ruta.stop();
});

const CANVAS = `document.querySelector('iframe[title="The page being edited"]').contentDocument`;
/** Where everything on a page stands, how large it is and how it is drawn, one line each. */
const drawn = (person: Person, page: string) =>
  person.driver.executeScript<string[]>(`
    const page = ${page};
    const view = page.defaultView;
    const parts = '.section, .row, .column, h1, h2, h3, p, li, details, img, svg, .button, hr, input, .panel, figure, blockquote';
    return [...page.body.querySelectorAll(parts)].filter((it) => !it.closest('.edit-tag, .edit-plus, .edit-edge')).flatMap((it) => {
      const box = it.getBoundingClientRect();
      // What is hidden from everybody, such as a field for machines, stands far outside.
      if ((box.width === 0 && box.height === 0) || box.right < 0) return [];
      const of = (style) => [style.color, style.backgroundColor, style.borderWidth, style.borderColor, style.borderRadius, style.boxShadow, style.transform, style.clipPath];
      const [own, before, after] = [null, '::before', '::after'].map((part) => view.getComputedStyle(it, part));
      const around = [before, after].flatMap((style) => (style.content === 'none' ? [] : [...of(style), style.width, style.height]));
      const place = [box.left, box.top + view.scrollY, box.width, box.height].map((size) => Math.round(size * 4) / 4);
      return [[/^(BUTTON|A|SPAN)$/.test(it.tagName) ? 'button' : it.tagName, ...place, own.font, own.textTransform, ...of(own), ...around].join(' ')];
    });`);

/** What stands otherwise on one of the two than on the other; the first few, since what follows moves with them. */
const different = (published: readonly string[], canvas: readonly string[]): string[] =>
  published.length === canvas.length
    ? published.flatMap((line, index) => (line === canvas[index] ? [] : [`published ${line}`, `canvas    ${canvas[index]}`])).slice(0, 6)
    : [`published ${published.length} parts`, `canvas ${canvas.length}`];

/** A page as visitors are sent it, and as it stands on the canvas. */
async function both(funnel: { id: string; slug: string; graph: { entryId: string; steps: Array<{ id: string; slug: string }> } }, stepId: string) {
  const step = funnel.graph.steps.find(({ id }) => id === stepId);
  await visitor.open(`${ruta.site}/${funnel.slug}${stepId === funnel.graph.entryId ? '' : `/${step?.slug}`}`);
  await seller.open(`${ruta.studio}/funnels/${funnel.id}/page/${stepId}`);
  const ready = (page: string) => `return ${page}?.querySelectorAll('.section').length > 1 && [...${page}.images].every((image) => image.complete)`;
  await seller.until(() => seller.driver.executeScript<boolean>(ready(CANVAS.replace(').', ')?.'))), 'the page is open');
  for (const [person, page] of [
    [visitor, 'document'],
    [seller, CANVAS],
  ] as const)
    await person.driver.executeScript(`for (const image of ${page}.images) image.loading = 'eager'; return ${page}.fonts.ready.then(() => true)`);
  await visitor.until(() => visitor.driver.executeScript<boolean>(ready('document')), 'the pictures are there');
  return { published: await drawn(visitor, 'document'), canvas: await drawn(seller, CANVAS) };
}

async function draw(changes: object) {
  const funnel = await api.make('/funnels', { productId: products[0]?.id, giftId: products[1]?.id, ...changes });
  await writeOwnWords(api, funnel.id);
  await api.make(`/funnels/${funnel.id}/publish`, {});
  return funnel;
}
const pages = (funnel: { graph: { steps: Array<{ id: string; kind: string }> } }) =>
  funnel.graph.steps.filter(({ kind }) => !['checkout', 'offer', 'thank-you'].includes(kind));

describe('what the canvas shows', () => {
  it.each(LOOK_NAMES)('is what is published, to the pixel, in the look %s', async (look) => {
    const shop = await api.read('/shop');
    await api.make('/shop/brand', { ...shop.brand, look }, 'PUT');
    const known = (await api.rows('/funnels')) as Array<{ id: string; name: string }>;
    const first = known.find(({ name }) => name === 'Gift first');
    const funnel = first ? await api.read(`/funnels/${first.id}`) : await draw({ name: 'Gift first', template: 'gift-first' });
    for (const { id } of pages(funnel)) {
      const { published, canvas } = await both(funnel, id);
      expect(published.length).toBeGreaterThan(20);
      expect(different(published, canvas)).toEqual([]);
    }
  });

  it.each(DESIGNS.map(({ design, template }) => ({ design, template })))('and so are the pages of the design $design', async ({ design, template }) => {
    const funnel = await draw({ name: `Design ${design}`, template, design, ownLook: true });
    for (const { id } of pages(funnel)) {
      const { published, canvas } = await both(funnel, id);
      expect(different(published, canvas)).toEqual([]);
    }
  });
});
