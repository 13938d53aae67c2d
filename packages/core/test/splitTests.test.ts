import { describe, expect, it } from 'vitest';
import { words } from '../src/elements';
import {
  armDifferences,
  assignArm,
  type Baseline,
  changesOf,
  ExperimentSettingsSchema,
  inArm,
  partsTouched,
  plannedFrom,
  type Shown,
  splitArm,
  spread,
  stopsTouched,
  tooEarly,
  touchTheSame,
  variantOf,
} from '../src/experiments';
import { applyToGraph, type Graph } from '../src/funnel';
import { type IdKind, makeId } from '../src/ids';
import { newOffer } from '../src/offers';
import { allElements, applyOperation, type Operation } from '../src/page';
import { salesPage } from '../src/templates';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = salesPage({ name: 'Course', pictureIds: [] }, newId);
const [landing, checkout, thanks] = [newId('step'), newId('step'), newId('step')];
const offer = newOffer(newId('offer'), 'prd_course000');
const graph: Graph = {
  entryId: landing,
  steps: [
    { id: landing, kind: 'sales', name: 'Landing page', slug: 'start', sells: [] },
    { id: checkout, kind: 'checkout', name: 'Checkout', slug: 'pay', sells: [offer] },
    { id: thanks, kind: 'thank-you', name: 'Thank you', slug: 'thanks', sells: [] },
  ],
  routes: [
    { id: newId('route'), from: landing, outcome: 'next', priority: 0, to: checkout },
    { id: newId('route'), from: checkout, outcome: 'paid', priority: 0, to: thanks },
  ],
};
const funnel: Shown = { graph, pages: { [landing]: page, [checkout]: page, [thanks]: page } };
const headline = allElements(page).find(({ type }) => type === 'headline')?.id as string;
const write = (text: string): Operation => ({ kind: 'changeElement', elementId: headline, changes: { words: words(text) } });
const withPage = (...operations: Operation[]): Shown => ({
  ...funnel,
  pages: { ...funnel.pages, [landing]: operations.reduce((current, each) => applyOperation(current, each).page, page) },
});
const withGraph = (...operations: Parameters<typeof applyToGraph>[1]): Shown => ({ ...funnel, graph: applyToGraph(graph, operations).graph });
const names = {
  money: String,
  product: (id: string) => (id === offer.productId ? 'Course' : id),
  edition: String,
  price: () => 'Once',
  country: String,
  step: String,
};

describe('the arm of a visitor', () => {
  const arms = [
    { name: 'Original', share: 50 },
    { name: 'B', share: 30 },
    { name: 'C', share: 20 },
  ];
  const visitors = Array.from({ length: 20_000 }, (_, index) => `vis_${index.toString(36).padStart(8, '0')}`);
  it('is the same at every visit, and as frequent as its share', () => {
    const counts = new Map<string, number>();
    for (const visitor of visitors) {
      const { name } = assignArm(visitor, 'exp_one', arms);
      expect(assignArm(visitor, 'exp_one', arms).name).toBe(name);
      counts.set(name, (counts.get(name) ?? 0) + 1);
    }
    // Within four standard deviations of what was asked for: √(20,000 × 0.5 × 0.5) = 71 and less.
    for (const { name, share } of arms) expect(Math.abs((counts.get(name) ?? 0) - visitors.length * (share / 100))).toBeLessThan(284);
  });
  it('says nothing of the arm in another test', () => {
    const both = visitors.filter((visitor) => spread(`exp_one ${visitor}`) < 0.5 && spread(`exp_two ${visitor}`) < 0.5).length;
    // A quarter of all, within four standard deviations: √(20,000 × ¼ × ¾) = 61.
    expect(Math.abs(both - visitors.length / 4)).toBeLessThan(245);
    const even = [
      { name: 'Original', share: 1 },
      { name: 'B', share: 1 },
    ];
    const same = visitors.filter((visitor) => assignArm(visitor, 'exp_one', even).name === assignArm(visitor, 'exp_two', even).name).length;
    // Half of all, within four standard deviations: √(20,000 × ½ × ½) = 71.
    expect(Math.abs(same - visitors.length / 2)).toBeLessThan(284);
  });
  it('is found again by the id of what is opened', () => {
    expect(splitArm(inArm(landing, 'arm_1'))).toEqual({ id: landing, armId: 'arm_1' });
    expect(splitArm(landing)).toEqual({ id: landing, armId: null });
  });
});

describe('an arm', () => {
  it('is only what differs, and goes on with whatever else is changed', () => {
    const changes = changesOf(funnel, withPage(write('Shorter nights')));
    expect(changes).toEqual({ graph: [], pages: { [landing]: [write('Shorter nights')] } });
    const later: Shown = {
      ...funnel,
      pages: { ...funnel.pages, [landing]: applyOperation(page, { kind: 'changeSettings', changes: { title: 'Later' } }).page },
    };
    expect(variantOf(later, changes).pages[landing]).toMatchObject({ title: 'Later' });
    expect(variantOf(later, changes).pages[checkout]).toBe(funnel.pages[checkout]);
  });
  it('tests prices, branches and stops of its own', () => {
    const dearer = withGraph({ kind: 'changeStep', stepId: checkout, changes: { sells: [{ ...offer, priceId: 'prc_dear0000' }] } });
    const extra = { id: newId('step'), kind: 'offer', name: 'One more thing', slug: 'more', sells: [] } as const;
    const longer: Shown = {
      graph: applyToGraph(graph, [
        { kind: 'addStep', step: { ...extra, sells: [] } },
        { kind: 'changeRoute', routeId: graph.routes[1]?.id as string, changes: { to: extra.id } },
        { kind: 'addRoute', route: { id: newId('route'), from: extra.id, outcome: 'accepted', priority: 0, to: thanks } },
      ]).graph,
      pages: { ...funnel.pages, [extra.id]: page },
    };
    for (const variant of [dearer, longer]) {
      const stored = JSON.parse(JSON.stringify(changesOf(funnel, variant)));
      expect(new Set(variantOf(funnel, stored).graph.steps)).toEqual(new Set(variant.graph.steps));
      expect(variantOf(funnel, stored).pages).toEqual(variant.pages);
      // Who comes to the checkout meets what differs there; the stop that only the arm has is reached from it.
      expect(stopsTouched(graph, stored)).toEqual([checkout]);
    }
    expect(armDifferences(funnel, dearer, names).map(({ stop, what }) => `${stop}: ${what}`)).toEqual(['Checkout: The offer “Course”: price “Once”']);
    expect(armDifferences(funnel, longer, names).map(({ stop, what }) => `${stop}: ${what}`)).toEqual([
      'One more thing: The stop is new',
      'Checkout: paid → “One more thing” instead of “Thank you”',
    ]);
  });
  it('says what is not there any more, and keeps addresses as they are', () => {
    const changes = changesOf(funnel, withPage(write('Shorter nights')));
    const without: Shown = { ...funnel, pages: { ...funnel.pages, [landing]: applyOperation(page, { kind: 'removeElement', elementId: headline }).page } };
    expect(() => variantOf(without, changes)).toThrow('What this arm changes on “Landing page” is not on the page any more.');
    const gone: Shown = { graph: { ...graph, entryId: checkout, steps: graph.steps.slice(1), routes: graph.routes.slice(1) }, pages: funnel.pages };
    expect(() => variantOf(gone, changes)).toThrow('not on the map any more');
    expect(() => changesOf(funnel, withGraph({ kind: 'changeStep', stepId: checkout, changes: { slug: 'other' } }))).toThrow(
      'address of “Checkout” is the same in all arms',
    );
    expect(() => changesOf(funnel, withGraph({ kind: 'setEntry', stepId: checkout }))).toThrow('Where visitors arrive is the same in all arms');
  });
  it('meets another test where both change the same thing, and only there', () => {
    const parts = (variant: Shown) => partsTouched(graph, changesOf(funnel, variant));
    const text = allElements(page).find(({ type }) => type === 'text')?.id as string;
    const [one, same, other] = [
      parts(withPage(write('One'))),
      parts(withPage(write('Two'))),
      parts(withPage({ kind: 'changeElement', elementId: text, changes: { words: words('Other') } })),
    ];
    expect(one).toEqual(same);
    expect(touchTheSame(one, same)).toBe(true);
    expect(touchTheSame(one, other)).toBe(false);
    // A page that is made anew meets what is changed on it, not what is changed on another stop's.
    expect(touchTheSame([`${landing} page`], one)).toBe(true);
    expect(touchTheSame(one, [`${landing} page`])).toBe(true);
    expect(touchTheSame([`${checkout} page`], one)).toBe(false);
    expect(parts(withGraph({ kind: 'changeRoute', routeId: graph.routes[0]?.id as string, changes: { to: thanks } }))).toEqual([`ways on from ${landing}`]);
  });
});

describe('a plan from the shop’s own figures', () => {
  const seen: Baseline = { days: 28, visitors: 5600, dailyEntrants: 200, rate: 0.1, mean: null, deviation: null };
  it('says how many visitors and weeks a difference needs', () => {
    expect(plannedFrom(seen, { goal: 'leads', change: 0.2, arms: 2 })).toMatchObject({ plan: { perArm: 6505, weeks: 10 }, problem: null });
    // 13.3019 × 2 × 4,000² ÷ 200² = 10,641.5 visitors per arm for 10 % of a mean of 20.00; 6,280 for a single look.
    expect(plannedFrom({ ...seen, rate: null, mean: 2000, deviation: 4000 }, { goal: 'revenue', change: 0.1, arms: 2 }).plan?.perArm).toBe(10_642);
  });
  it.each<[Partial<Baseline>, 'leads' | 'revenue', number, string]>([
    [{ visitors: 0, rate: null }, 'leads', 0.1, 'Nobody came here in the last 28 days'],
    [{ rate: 0 }, 'leads', 0.1, 'Nobody reached this goal'],
    [{ rate: 1 }, 'leads', 0.1, 'Everybody reaches this goal already'],
    [{ rate: 0.6 }, 'leads', 0.9, 'choose a smaller difference'],
    [{ mean: 0, deviation: 0 }, 'revenue', 0.1, 'bought anything'],
    [{ mean: 4000, deviation: 0 }, 'revenue', 0.1, 'Too few came here in the last 28 days'],
  ])('says in words why it cannot', (change, goal, hoped, expected) => {
    const planned = plannedFrom({ ...seen, ...change }, { goal, change: hoped, arms: 2 });
    expect(planned.plan).toBeNull();
    expect(planned.problem).toContain(expected);
  });
  it('warns of a last day that comes too early', () => {
    const { plan } = plannedFrom(seen, { goal: 'leads', change: 0.2, arms: 2 });
    expect(tooEarly(plan, 200, 7)).toContain('about 1,400 of the 13,010 visitors');
    expect(tooEarly(plan, 200, 66)).toBeNull();
    expect(tooEarly(null, 200, 7)).toBeNull();
  });
});

describe('settings of a test', () => {
  const arms = [
    { id: 'arm_original', name: 'Original', share: 50 },
    { id: 'arm_second00', name: 'B', share: 50 },
  ];
  const settings = { name: 'Headline', goal: 'leads', change: 0.1, arms };
  const problemsOf = (change: object) => ExperimentSettingsSchema.safeParse({ ...settings, ...change }).error?.issues.map(({ message }) => message) ?? [];
  it.each<[object, string[]]>([
    [{}, []],
    [{ arms: [{ ...arms[0], share: 60 }, arms[1]] }, ['The shares come to 110 %. Together they have to be 100 %.']],
    [
      {
        arms: [
          { ...arms[0], share: 99.5 },
          { ...arms[1], share: 0 },
        ],
      },
      ['Enter a whole number.', 'Give every arm at least 1 %.'],
    ],
    [{ arms: [arms[0], { ...arms[1], name: 'original' }] }, ['Another arm has this name.']],
    [{ arms: [arms[0]] }, ['A test has at least two arms.', 'The shares come to 50 %. Together they have to be 100 %.']],
    [{ change: 0 }, ['Hope for a difference of at least 1 %.']],
    [{ lastDay: 'soon' }, ['Choose a day.']],
  ])('are taken or refused in words', (change, messages) => {
    expect(problemsOf(change)).toEqual(messages);
  });
});
