import { describe, expect, it } from 'vitest';
import {
  allElements,
  bandOf,
  type Condition,
  ConditionSchema,
  drawFunnel,
  evaluate,
  FactsSchema,
  formatMoney,
  type Graph,
  GraphSchema,
  type IdKind,
  describe as inWords,
  makeId,
  nextStep,
  PageDocumentSchema,
  plainText,
  type Route,
  SlugSchema,
  slugify,
  stopsInOrder,
} from '../src';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const facts = (changes: object = {}) => FactsSchema.parse(changes);

describe('conditions', () => {
  const owns: Condition = { fact: 'ownsProduct', productId: 'p1', name: 'Sketching' };
  const rich: Condition = { fact: 'orderTotal', operator: 'at least', amount: 20_000 };
  const abroad: Condition = { fact: 'country', operator: 'none of', countries: ['PT', 'ES'] };

  it.each<[Condition, object, boolean]>([
    [owns, { ownsProducts: ['p1'] }, true],
    [owns, {}, false],
    [rich, { orderTotal: 20_000 }, true],
    [rich, { orderTotal: 19_999 }, false],
    [rich, {}, false],
    [abroad, { country: 'NO' }, true],
    [abroad, {}, false],
    [{ all: [rich, abroad] }, { orderTotal: 30_000, country: 'NO' }, true],
    [{ any: [owns, rich] }, { orderTotal: 30_000 }, true],
    [{ not: owns }, {}, true],
    [{ fact: 'device', device: 'phone' }, { device: 'phone' }, true],
    [{ fact: 'returning', returning: false }, {}, false],
  ])('%j with %j is %s', (condition, given, expected) => {
    expect(ConditionSchema.safeParse(condition).success).toBe(true);
    expect(evaluate(condition, facts(given))).toBe(expected);
  });

  it('are said in plain words', () => {
    const words = inWords({ all: [{ any: [rich, abroad] }, { not: owns }] }, (amount) => formatMoney(amount, 'EUR', { short: true }));
    expect(words).toBe('(order at least €200 or lives outside PT, ES) and not owns “Sketching”');
  });
});

describe('routes', () => {
  const ids = Array.from({ length: 4 }, () => newId('step')) as [string, string, string, string];
  const [optIn, sales, offer, thanks] = ids;
  const step = (id: string, kind: Graph['steps'][number]['kind']) => ({ id, kind, name: kind, slug: kind, productId: null });
  const route = (from: string, outcome: Route['outcome'], to: string, priority = 0, condition?: Condition): Route => ({
    id: newId('route'),
    from,
    outcome,
    to,
    priority,
    ...(condition ? { condition } : {}),
  });
  const graph: Graph = {
    entryId: optIn,
    steps: [step(thanks, 'thank-you'), step(offer, 'offer'), step(sales, 'checkout'), step(optIn, 'opt-in')],
    routes: [
      route(optIn, 'submitted', sales),
      route(sales, 'paid', offer, 5),
      route(sales, 'paid', thanks, 1, { fact: 'ownsProduct', productId: 'p1', name: 'Sketching' }),
      route(offer, 'accepted', thanks),
      route(offer, 'declined', thanks),
    ],
  };

  it('lead by priority to the first whose condition holds', () => {
    expect(nextStep(graph, sales, 'paid', facts({ ownsProducts: ['p1'] }))?.step.id).toBe(thanks);
    expect(nextStep(graph, sales, 'paid', facts())?.step.id).toBe(offer);
    expect(nextStep(graph, thanks, 'next', facts())).toBeUndefined();
  });

  it('put the stops in the order people pass them, and in bands', () => {
    expect(stopsInOrder(graph).map((stop) => stop.kind)).toEqual(['opt-in', 'checkout', 'offer', 'thank-you']);
    expect(stopsInOrder(graph).map((stop) => bandOf(graph, stop))).toEqual([0, 2, 3, 4]);
  });

  it('that run in a circle still give every stop once', () => {
    const circle = { ...graph, routes: [...graph.routes, route(thanks, 'next', optIn)] };
    expect(stopsInOrder(circle)).toHaveLength(4);
  });
});

describe('templates', () => {
  const product = { id: newId('product'), name: 'First Light, a course', kind: 'digital' as const, pictureIds: [] };
  const gift = { id: newId('product'), name: 'Moon Month', pictureIds: [] };

  it.each(['straight-sale', 'gift-first'] as const)('%s draws every page, each valid and bound to its product', (template) => {
    const { graph, pages } = drawFunnel(template, { product, gift: template === 'gift-first' ? gift : undefined }, newId);
    expect(GraphSchema.safeParse(graph).success).toBe(true);
    expect(Object.keys(pages).toSorted()).toEqual(graph.steps.map((step) => step.id).toSorted());
    for (const page of Object.values(pages)) {
      expect(PageDocumentSchema.safeParse(page).error).toBeUndefined();
      expect(allElements(page).filter((element) => element.type === 'headline' && element.level === 1)).toHaveLength(1);
      // The product's name is never written out on a page, so another product leaves no trace of the first.
      const written = allElements(page).flatMap((element) => ('words' in element ? [plainText(element.words, () => '')] : []));
      expect(written.join(' ')).not.toContain('First Light');
    }
    // From the entry every stop is reached by its goal, up to the thank-you page.
    const outcomes = { 'opt-in': 'submitted', sales: 'next', checkout: 'paid', offer: 'accepted', 'thank-you': 'next' } as const;
    let at = graph.steps.find((step) => step.id === graph.entryId);
    const passed: string[] = [];
    while (at) {
      passed.push(at.kind);
      at = nextStep(graph, at.id, outcomes[at.kind], facts())?.step;
    }
    expect(passed).toEqual([template === 'gift-first' ? 'opt-in' : 'sales', 'checkout', 'thank-you']);
  });

  it('that begin with a gift ask for one', () => {
    expect(() => drawFunnel('gift-first', { product }, newId)).toThrow('gift');
  });
});

describe('addresses', () => {
  it.each([
    ['Moon Month, a calendar', 'moon-month-a-calendar'],
    ['  Ça & là ', 'ca-la'],
    ['日本', ''],
  ])('%s → %s', (name, slug) => expect(slugify(name)).toBe(slug));
  it.each(['', 'Big', 'a--b', '-a', 'a/b', 'x'.repeat(61)])('refuse “%s”', (slug) => expect(SlugSchema.safeParse(slug).success).toBe(false));
});
