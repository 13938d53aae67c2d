import { describe, expect, it } from 'vitest';
import { type Graph, GraphSchema, nextStep, STEP_KINDS, stopsInOrder } from '../src/funnel';
import { type IdKind, makeId } from '../src/ids';
import { bumpsOf } from '../src/offers';
import { allElements, PageDocumentSchema } from '../src/page';
import { copyFunnel, drawFunnel, stepPage, TEMPLATES } from '../src/templates';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const named = (name: string) => ({ id: newId('product'), name, pictureIds: [], included: [] });
const products = { product: named('First Light'), gift: named('Moon Month') };
const extras = { bump: named('Workbook'), upsell: named('Sketching'), downsell: named('Moon only'), second: named('Audio') };
const lines = ({ steps, routes }: Graph) => {
  const nameOf = (id: string) => steps.find((step) => step.id === id)?.name;
  return routes.map(({ from, outcome, to }) => `${nameOf(from)} ${outcome} ${nameOf(to)}`);
};

describe.each(TEMPLATES.map(({ template }) => template))('the shape %s', (template) => {
  it.each([
    ['as it is', {}],
    ['with everything beside and after the payment', extras],
  ])('%s leads from its entry to the end, with a page for every stop', (_how, more) => {
    const { graph, pages } = drawFunnel(template, { ...products, extras: more }, newId);
    expect(GraphSchema.parse(graph)).toEqual(graph);
    for (const step of graph.steps) expect(PageDocumentSchema.parse(pages[step.id])).toEqual(pages[step.id]);
    expect(new Set(graph.steps.map(({ slug }) => slug)).size).toBe(graph.steps.length);
    expect(stopsInOrder(graph).at(-1)?.kind).toBe('thank-you');
    const checkout = graph.steps.find(({ kind }) => kind === 'checkout');
    expect(nextStep(graph, checkout?.id ?? '', { outcome: 'paid' }, {})).toMatchObject({
      kind: 'step',
      step: { name: 'upsell' in more ? 'Sketching' : 'Thank you' },
    });
    expect(bumpsOf(checkout ?? { sells: [] })).toHaveLength(('bump' in more ? 1 : 0) + (template === 'gift-and-offer' ? 1 : 0));
  });
});

it('a name of as many letters as a product may have makes pages that can be read, whatever the shape and the kind of stop', () => {
  const long = { ...products.product, name: 'Sternbild'.repeat(14).slice(0, 119) };
  const named = { ...products.gift, name: long.name };
  for (const { template } of TEMPLATES) {
    const { graph, pages } = drawFunnel(template, { product: long, gift: named, extras: { bump: long, upsell: long, downsell: long, second: long } }, newId);
    expect(GraphSchema.safeParse(graph).error).toBeUndefined();
    for (const page of Object.values(pages)) expect(PageDocumentSchema.safeParse(page).error).toBeUndefined();
  }
  for (const { kind } of STEP_KINDS) expect(PageDocumentSchema.safeParse(stepPage(kind, long, long.name, newId)).error).toBeUndefined();
});

describe('what stands after the payment', () => {
  it('is a ladder: a no to the first leads to the gentler one, both on to the second', () => {
    const { graph } = drawFunnel('direct-link', { ...products, extras }, newId);
    expect(lines(graph).sort()).toEqual(
      [
        'Checkout paid Sketching',
        'Sketching accepted Audio',
        'Sketching declined Moon only',
        'Moon only accepted Audio',
        'Moon only declined Audio',
        'Audio accepted Thank you',
        'Audio declined Thank you',
      ].sort(),
    );
  });
});

describe('a funnel of one’s own', () => {
  it('is copied whole, with ids of its own and buttons that lead to its own stops', () => {
    const { graph, pages } = drawFunnel('gift-then-offer', { ...products, extras }, newId);
    const copy = copyFunnel(graph, pages, newId);
    expect(lines(copy.graph)).toEqual(lines(graph));
    const ids = [...graph.steps.flatMap((step) => [step.id, ...step.sells.map(({ id }) => id)]), ...graph.routes.map(({ id }) => id)];
    const all = JSON.stringify(copy);
    expect(ids.filter((id) => all.includes(id))).toEqual([]);
    const targets = Object.values(copy.pages)
      .flatMap(allElements)
      .flatMap((element) => (element.type === 'button' && element.action.kind === 'step' ? [element.action.stepId] : []));
    expect(targets).toHaveLength(1);
    expect(copy.graph.steps.map(({ id }) => id)).toEqual(expect.arrayContaining(targets));
  });
});
