import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Condition, ConditionSchema, evaluate, describe as inWords, truthOf } from '../src/conditions';
import { plainText } from '../src/elements';
import { FactsSchema } from '../src/facts';
import {
  bandOf,
  bringUpStep,
  carriesGoal,
  type Graph,
  GraphSchema,
  type Move,
  nextStep,
  OutcomeSchema,
  type Route,
  SlugSchema,
  StepSchema,
  slugify,
  stepKindOf,
  stopsInOrder,
} from '../src/funnel';
import { type IdKind, makeId } from '../src/ids';
import { formatMoney } from '../src/money';
import { mainOffer } from '../src/offers';
import { allElements, PageDocumentSchema } from '../src/page';
import { drawFunnel } from '../src/templates';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const facts = (changes: object = {}) => FactsSchema.parse(changes);

describe('conditions', () => {
  const owns: Condition = { fact: 'owned', what: { by: 'product', productId: 'p1' } };
  const rich: Condition = { fact: 'orderTotal', operator: 'at least', amount: 20_000 };
  const abroad: Condition = { fact: 'country', operator: 'none of', countries: ['PT', 'ES'] };
  const bought = (changes: object) => ({ fact: 'bought', what: { by: 'category', category: 'Prints' }, ...changes }) as Condition;
  const print = { productId: 'p1', editionId: 'e1', role: 'bump', quantity: 2, categories: ['Prints'], tags: ['wall'] };
  const now = { hour: 23, weekday: 7, date: '2026-03-29' };

  // What is asked, what is known, and yes, no or not known.
  const table: Array<[Condition, object, boolean | undefined]> = [
    [owns, { owned: [{ productId: 'p1' }] }, true],
    [owns, { owned: [] }, false],
    [owns, {}, undefined],
    [bought({}), { bought: [print] }, true],
    [bought({ quantity: 3 }), { bought: [print] }, false],
    [bought({ quantity: 3 }), { bought: [print, { ...print, quantity: 1 }] }, true],
    [bought({ role: 'main' }), { bought: [print] }, false],
    [bought({ what: { by: 'tag', tag: 'wall' } }), { bought: [print] }, true],
    [bought({ what: { by: 'edition', editionId: 'e2' } }), { bought: [print] }, false],
    [bought({ what: { by: 'price', priceId: 'c1' } }), { bought: [{ ...print, priceId: 'c1' }] }, true],
    [rich, { orderTotal: 20_000 }, true],
    [rich, { orderTotal: 19_999 }, false],
    [rich, {}, undefined],
    [abroad, { country: 'NO' }, true],
    [abroad, { country: 'ES' }, false],
    [abroad, {}, undefined],
    [{ fact: 'shippingCountry', operator: 'one of', countries: ['PT'] }, { shippingCountry: null }, false],
    [{ fact: 'code' }, { code: null }, false],
    [{ fact: 'code' }, { code: 'MOON' }, true],
    [{ fact: 'code', code: 'SUN' }, { code: 'MOON' }, false],
    [{ fact: 'paymentMethod', method: 'card' }, { paymentMethod: 'card' }, true],
    [{ fact: 'shippingMethod', zone: 'EU' }, { shippingMethod: null }, false],
    [{ fact: 'tag', tag: 'buyer' }, { tags: ['buyer'] }, true],
    [{ fact: 'tag', tag: 'buyer' }, {}, undefined],
    [{ fact: 'answer', question: 'where', answer: 'North' }, { answers: {} }, false],
    [{ fact: 'campaign', which: 'first', campaign: 'spring' }, { firstCampaign: { campaign: 'spring' } }, true],
    [{ fact: 'source', which: 'last', source: 'letter' }, { lastCampaign: null }, false],
    [{ fact: 'device', device: 'phone' }, { device: 'phone' }, true],
    [{ fact: 'language', language: 'pt' }, { language: 'de' }, false],
    [{ fact: 'returning', returning: false }, { returning: true }, false],
    [{ fact: 'declined' }, { declined: [] }, false],
    [{ fact: 'declined' }, { declined: ['stp_b'] }, true],
    [{ fact: 'declined', stepId: 'stp_a' }, { declined: ['stp_b'] }, false],
    [{ fact: 'declined', stepId: 'stp_a' }, {}, undefined],
    [{ fact: 'saw', stepId: 'stp_a' }, { seen: ['stp_a', 'stp_b'] }, true],
    [{ fact: 'saw', stepId: 'stp_a' }, { seen: [] }, false],
    [{ fact: 'openedCheckout', opened: true }, { openedCheckout: true }, true],
    [{ fact: 'openedCheckout', opened: false }, {}, undefined],
    [{ fact: 'hour', from: 22, until: 6 }, { now }, true],
    [{ fact: 'hour', from: 6, until: 23 }, { now }, false],
    [{ fact: 'weekday', days: [6, 7] }, { now }, true],
    [{ fact: 'date', from: '2026-03-29', until: '2026-03-29' }, { now }, true],
    [{ fact: 'date', until: '2026-03-28' }, { now }, false],
    // Kleene's tables: a known part settles what it can, the rest stays unknown, and so does its opposite.
    [{ all: [rich, abroad] }, { orderTotal: 30_000, country: 'NO' }, true],
    [{ all: [rich, abroad] }, { orderTotal: 100 }, false],
    [{ all: [rich, abroad] }, { orderTotal: 30_000 }, undefined],
    [{ any: [owns, rich] }, { orderTotal: 30_000 }, true],
    [{ any: [owns, rich] }, { orderTotal: 100 }, undefined],
    [{ not: owns }, { owned: [] }, true],
    [{ not: owns }, {}, undefined],
    [{ not: { not: owns } }, {}, undefined],
  ];
  it.each(table)('%j with %j is %s', (condition, given, expected) => {
    expect(ConditionSchema.safeParse(condition).success).toBe(true);
    expect(truthOf(condition, facts(given))).toBe(expected);
    // Only a known yes holds, of a condition and of its opposite.
    expect(evaluate(condition, facts(given))).toBe(expected === true);
    expect(evaluate({ not: condition }, facts(given))).toBe(expected === false);
  });

  it('are said in plain words, with the names things have now', () => {
    const plain = (id: string) => id;
    const names = {
      money: (amount: number) => formatMoney(amount, 'EUR', { short: true }),
      product: () => 'Sketching',
      edition: plain,
      price: plain,
      country: plain,
      step: () => 'Upsell 1',
    };
    expect(inWords({ all: [{ any: [rich, abroad] }, { not: owns }] }, names)).toBe('(order at least €200 or lives outside PT, ES) and not owns “Sketching”');
    expect(inWords({ all: [{ fact: 'declined', stepId: 'stp_a' }, { fact: 'saw', stepId: 'stp_a' }, { fact: 'declined' }] }, names)).toBe(
      'declined the offer on “Upsell 1” and saw “Upsell 1” and declined an offer',
    );
  });
});

describe('routes', () => {
  const ids = Array.from({ length: 4 }, () => newId('step')) as [string, string, string, string];
  const [optIn, sales, offer, thanks] = ids;
  const step = (id: string, kind: Graph['steps'][number]['kind']) => ({ id, kind, name: kind, slug: kind, sells: [] });
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
      route(sales, 'paid', thanks, 1, { fact: 'owned', what: { by: 'product', productId: 'p1' } }),
      route(offer, 'accepted', thanks),
    ],
  };
  const from = (stepId: string, move: Move, known: object = {}, on: Graph = graph) => {
    const answer = nextStep(on, stepId, move, facts(known));
    return answer.kind === 'address' ? answer.url : `${answer.kind} ${answer.step.kind}`;
  };

  it.each<[string, string, Move, object, string]>([
    ['the first by priority whose condition holds', sales, { outcome: 'paid' }, { owned: [{ productId: 'p1' }] }, 'step thank-you'],
    ['another where it does not', sales, { outcome: 'paid' }, { owned: [] }, 'step offer'],
    ['another where it is not known', sales, { outcome: 'paid' }, {}, 'step offer'],
    ['no to an offer goes along its yes', offer, { outcome: 'declined' }, {}, 'step thank-you'],
    ['where nothing leads they stay', optIn, { outcome: 'next' }, {}, 'stay opt-in'],
    ['a button’s own step, whatever the routes say', optIn, { outcome: 'next', to: { stepId: offer } }, {}, 'step offer'],
    ['a button’s step that is gone: the routes', optIn, { outcome: 'submitted', to: { stepId: 'stp_gone000000' } }, {}, 'step checkout'],
    ['a button’s own address', optIn, { outcome: 'next', to: { address: 'https://elsewhere.test' } }, {}, 'https://elsewhere.test'],
    ['a closed product’s address', sales, { outcome: 'closed', afterwards: 'https://later.test' }, {}, 'https://later.test'],
    ['a product’s own end instead of the thank-you page', offer, { outcome: 'accepted', afterwards: 'https://porch.test' }, {}, 'https://porch.test'],
    ['but an offer first', sales, { outcome: 'paid', afterwards: 'https://porch.test' }, { owned: [] }, 'step offer'],
  ])('%s', (_words, stepId, move, known, expected) => expect(from(stepId, move, known)).toBe(expected));

  it('that are not drawn lead who has paid to the thank-you page', () => {
    expect(from(sales, { outcome: 'paid' }, {}, { ...graph, routes: [] })).toBe('step thank-you');
    expect(from(sales, { outcome: 'closed' }, {}, { ...graph, routes: [] })).toBe('stay checkout');
  });

  it('answer for every step, outcome and knowledge, always with a step of the funnel', () => {
    const outcomes = fc.constantFrom(...OutcomeSchema.options);
    const known = fc.record({ owned: fc.constant([{ productId: 'p1' }]), orderTotal: fc.nat(40_000) }, { requiredKeys: [] });
    const someRoute = fc.tuple(fc.constantFrom(...ids), outcomes, fc.constantFrom(...ids), fc.integer({ min: 0, max: 3 }));
    fc.assert(
      fc.property(fc.constantFrom(...ids), outcomes, known, fc.array(someRoute, { maxLength: 8 }), (stepId, outcome, given, drawn) => {
        const answer = nextStep({ ...graph, routes: drawn.map((parts) => route(...parts)) }, stepId, { outcome }, facts(given));
        expect(answer.kind === 'address' ? [] : ids).toContain(answer.kind === 'address' ? null : answer.step.id);
        expect(outcome === 'paid' && stepId !== thanks ? answer.kind : 'step').toBe('step');
      }),
    );
  });

  it('put the stops in the order people pass them, and in bands', () => {
    expect(stopsInOrder(graph).map((stop) => stop.kind)).toEqual(['opt-in', 'checkout', 'offer', 'thank-you']);
    expect(stopsInOrder(graph).map((stop) => bandOf(graph, stop))).toEqual([0, 2, 3, 4]);
  });

  it('that run in a circle still give every stop once', () => {
    const circle = { ...graph, routes: [...graph.routes, route(thanks, 'next', optIn)] };
    expect(stopsInOrder(circle)).toHaveLength(4);
  });

  it('of steps that were stored with one product now sell a list, the same each time it is read', () => {
    const stored = { id: sales, kind: 'checkout', name: 'Checkout', slug: 'checkout', productId: newId('product') };
    const read = StepSchema.parse(bringUpStep(stored));
    expect(mainOffer(read)).toMatchObject({ productId: stored.productId, place: 'main', editionId: null, quantity: 1 });
    expect(StepSchema.parse(bringUpStep(read))).toEqual(read);
    expect(bringUpStep(stored)).toEqual(bringUpStep(stored));
    expect(StepSchema.parse(bringUpStep({ ...stored, productId: null })).sells).toEqual([]);
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
    const walked = (id: string): string[] => {
      const answer = nextStep(graph, id, { outcome: stepKindOf(graph.steps.find((step) => step.id === id)?.kind ?? 'sales').goal.outcome }, facts());
      return answer.kind === 'step' ? [answer.step.kind, ...walked(answer.step.id)] : [];
    };
    const entry = graph.steps.find((step) => step.id === graph.entryId);
    expect([entry?.kind, ...walked(graph.entryId)]).toEqual([template === 'gift-first' ? 'opt-in' : 'sales', 'checkout', 'thank-you']);
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

describe('the rate of a route', () => {
  const step = (id: string, kind: 'offer' | 'thank-you') => ({ id, kind, name: id, slug: id, sells: [] });
  const route = (id: string, outcome: 'accepted' | 'declined') => ({ id, from: 'a', to: 'b', outcome, priority: 0 });
  const steps = [step('a', 'offer'), step('b', 'thank-you')];
  it('is that of its step for a yes, and nothing for a no or for one of several', () => {
    const [yes, no] = [route('r1', 'accepted'), route('r2', 'declined')];
    expect([yes, no].map((each) => carriesGoal({ steps, routes: [yes, no] }, each))).toEqual([true, false]);
    const other = route('r3', 'accepted');
    expect(carriesGoal({ steps, routes: [yes, no, other] }, yes)).toBe(false);
  });
});
