import { describe, expect, it } from 'vitest';
import { ProductSchema } from '../src/catalog';
import { type Graph, GraphSchema, nextStep, STEP_KINDS, stopsInOrder } from '../src/funnel';
import { type IdKind, makeId } from '../src/ids';
import { bumpsOf } from '../src/offers';
import { allElements, PageDocumentSchema } from '../src/page';
import { copyFunnel, drawFunnel, mainProductOf, stepPage, TEMPLATES, withMovedProducts } from '../src/templates';

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
    const drawn = drawFunnel('gift-then-offer', { ...products, extras }, newId);
    const { pages } = drawn;
    // A condition about a step is about the copy's own step.
    const asksOwnStep = { fact: 'saw' as const, stepId: drawn.graph.entryId };
    const graph = { ...drawn.graph, routes: drawn.graph.routes.map((route, index) => (index === 0 ? { ...route, condition: asksOwnStep } : route)) };
    const copy = copyFunnel(graph, pages, newId);
    expect(lines(copy.graph)).toEqual(lines(graph));
    const ids = [...graph.steps.flatMap((step) => [step.id, ...step.sells.map(({ id }) => id)]), ...graph.routes.map(({ id }) => id)];
    const all = JSON.stringify(copy);
    expect(ids.filter((id) => all.includes(id))).toEqual([]);
    const targets = Object.values(copy.pages)
      .flatMap(allElements)
      .flatMap((element) => (element.type === 'button' && element.action.kind === 'step' ? [element.action.stepId] : []));
    expect(targets).toHaveLength(1);
    expect(copy.graph.routes[0]?.condition).toEqual({ fact: 'saw', stepId: copy.graph.entryId });
    expect(copy.graph.steps.map(({ id }) => id)).toEqual(expect.arrayContaining(targets));
  });
});

describe('a copy about another product', () => {
  const product = (name: string, regular: number) => {
    const price = regular === 0 ? { kind: 'free' } : { kind: 'one-time', regular };
    return ProductSchema.parse({
      ...{ id: newId('product'), name, kind: 'service', pictures: [], files: [], archivedAt: null, createdAt: 1, updatedAt: 1 },
      editions: [{ id: newId('edition'), prices: [{ id: newId('price'), price }] }],
    });
  };
  const [course, calendar, other, chart] = [product('First Light', 13_800), product('Moon Month', 0), product('Deep Sky', 9_900), product('Star Chart', 0)];
  const drawn = drawFunnel('gift-then-offer', { product: course, gift: calendar, extras }, newId);
  const [entry, ...rest] = drawn.graph.steps;
  if (!entry) throw new Error('There is no first step.');
  const { id: priceId } = course.editions[0]?.prices[0] ?? { id: '' };
  const condition = {
    all: [
      { fact: 'bought' as const, what: { by: 'price' as const, priceId } },
      { not: { fact: 'owned' as const, what: { by: 'product' as const, productId: calendar.id } } },
    ],
  };
  const asking = {
    pages: Object.fromEntries(
      Object.entries(drawn.pages).map(([id, page]) => [
        id,
        { ...page, sections: page.sections.map((section) => ({ ...section, show: { kind: 'when' as const, condition } })) },
      ]),
    ),
    graph: {
      ...drawn.graph,
      steps: [{ ...entry, name: 'First Light, in short', slug: 'first-light' }, ...rest],
      routes: drawn.graph.routes.map((route) => ({ ...route, condition })),
    },
  };

  it('sells and gives the other ones at every step, and asks for them in every condition', () => {
    expect(mainProductOf(drawn.graph)).toBe(course.id);
    const moved = withMovedProducts(asking, [
      { from: course, to: other },
      { from: calendar, to: chart },
    ]);
    const all = JSON.stringify(moved);
    for (const id of [course.id, calendar.id, priceId]) expect(all).not.toContain(id);
    expect(mainProductOf(moved.graph)).toBe(other.id);
    expect(moved.graph.routes[0]?.condition).toEqual({
      all: [{ fact: 'bought', what: { by: 'product', productId: other.id } }, { not: { fact: 'owned', what: { by: 'product', productId: chart.id } } }],
    });
    expect(moved.graph.steps[0]).toMatchObject({ name: 'Deep Sky, in short', slug: 'deep-sky' });
    expect(
      Object.values(moved.pages)
        .map(({ title }) => title)
        .join(),
    ).not.toContain('First Light');
    for (const page of Object.values(moved.pages)) expect(PageDocumentSchema.parse(page)).toEqual(page);
    // What stands beside it stays.
    expect(moved.graph.steps.flatMap(bumpsOf)).toEqual(drawn.graph.steps.flatMap(bumpsOf));
  });

  it('stays as it is where nothing is moved', () => expect(withMovedProducts(asking, [])).toEqual(asking));

  it('keeps an address that another step has, and a name that there is no room for', () => {
    const [first, second, ...more] = asking.graph.steps;
    if (!first || !second) throw new Error('There are too few steps.');
    const twice = { ...asking, graph: { ...asking.graph, steps: [first, { ...second, slug: 'deep-sky' }, ...more] } };
    const long = { ...other, name: `Deep Sky ${'x'.repeat(75)}` };
    expect(withMovedProducts(twice, [{ from: course, to: other }]).graph.steps[0]).toMatchObject({ slug: 'first-light' });
    expect(withMovedProducts(asking, [{ from: course, to: long }]).graph.steps[0]).toMatchObject({ name: 'First Light, in short' });
  });
});
