import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { loop, manyOffers } from '../src/checks/mapHolds';
import { type Graph, longestWay, MOST_STEPS, mapPaths, type Route } from '../src/funnel';
import { isTooDeep } from '../src/json';

const KINDS = ['offer', 'checkout', 'page', 'thank-you'] as const;
type Line = [from: number, to: number, isNo: boolean];
const graphOf = (kinds: ReadonlyArray<(typeof KINDS)[number]>, lines: readonly Line[]): Graph => ({
  entryId: 'stp_0',
  steps: kinds.map((kind, index) => ({ id: `stp_${index}`, kind, name: String(index), slug: String(index), sells: [] })) as unknown as Graph['steps'],
  routes: lines.map(([from, to, isNo], index) => ({
    ...{ id: `rte_${index}`, from: `stp_${from}`, to: `stp_${to}`, priority: index },
    outcome: isNo ? ('declined' as const) : ('accepted' as const),
  })),
});
const SIZE = 7;
const maps = (isForward: boolean) =>
  fc
    .tuple(
      fc.array(fc.constantFrom(...KINDS), { minLength: SIZE, maxLength: SIZE }),
      fc.array(fc.tuple(fc.nat(SIZE - 1), fc.nat(SIZE - 1), fc.boolean()), { maxLength: 14 }),
    )
    .map(([kinds, lines]) => graphOf(kinds, isForward ? lines.filter(([from, to]) => from < to) : lines));

/** The slow way: every way through the map, one by one. */
function everyWay(graph: Graph, id: string, worth: (route: Route) => number, seen: readonly string[] = []): number {
  if (seen.includes(id)) return 0;
  const ways = graph.routes.filter(({ from }) => from === id).map((route) => worth(route) + everyWay(graph, route.to, worth, [...seen, id]));
  return Math.max(0, ...ways);
}
function comesBack(graph: Graph, id: string): boolean {
  const among = new Set(graph.steps.filter(({ kind }) => kind === 'offer' || kind === 'checkout').map((step) => step.id));
  if (!among.has(id)) return false;
  const reached = new Set<string>();
  const waiting = [id];
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    for (const { to } of graph.routes.filter(({ from }) => from === at)) {
      if (to === id) return true;
      if (among.has(to) && !reached.has(to)) waiting.push(to);
      reached.add(to);
    }
  }
  return false;
}

describe('the ways through a map', () => {
  it('are as long as the longest of all, one by one', () => {
    fc.assert(
      fc.property(maps(true), (graph) => {
        const worth = ({ to, outcome }: Route) => Number(outcome === 'accepted') + Number(to === 'stp_3') * 2;
        for (const { id } of graph.steps) expect(longestWay(graph, id, worth)).toBe(everyWay(graph, id, worth));
      }),
      { numRuns: 500 },
    );
  });
  it('end also where they lead in a circle, and are no longer than the longest that passes nothing twice', () => {
    fc.assert(
      fc.property(maps(false), (graph) => {
        const one = () => 1;
        const most = longestWay(graph, 'stp_0', one);
        expect(most).toBeLessThanOrEqual(graph.routes.length);
        if (graph.routes.some(({ from }) => from === 'stp_0')) expect(most).toBeGreaterThan(0);
      }),
    );
  });
  it('lead in a circle exactly where somebody could come back', () => {
    fc.assert(
      fc.property(maps(false), (graph) => {
        for (const { id } of graph.steps) expect([id, mapPaths(graph).inCircle.has(id)]).toEqual([id, comesBack(graph, id)]);
      }),
      { numRuns: 1000 },
    );
  });
  it('are found in the largest map as well, where each offer leads on by yes and by no', () => {
    const kinds = ['checkout' as const, ...Array.from({ length: MOST_STEPS - 1 }, () => 'offer' as const)];
    const lines = kinds.flatMap((_kind, index): Line[] =>
      [1, 2, 3].flatMap((far): Line[] => (index + far < kinds.length ? [[index, index + far, far === 2]] : [])),
    );
    const graph = graphOf(kinds, lines);
    let looked = 0;
    const most = longestWay(graph, 'stp_0', () => {
      looked++;
      return 1;
    });
    // Each route once; the slow way would look at some 10 ^ 79 ways.
    expect([most, looked]).toEqual([MOST_STEPS - 1, lines.length]);
    const [step] = graph.steps;
    const at = { step, page: {}, product: undefined, funnel: { graph, pages: {} } } as unknown as Parameters<typeof manyOffers.find>[0];
    expect(manyOffers.find(at)).toEqual([expect.stringContaining(`${MOST_STEPS - 1} offers`)]);
    expect(loop.find(at)).toEqual([]);
  });
});

describe('how deep something nests', () => {
  const nested = (depth: number) => JSON.parse(`${'{"not":'.repeat(depth)}1${'}'.repeat(depth)}`);
  it('is found for any depth', () => {
    expect([isTooDeep(nested(90)), isTooDeep(nested(110)), isTooDeep(nested(100_000))]).toEqual([false, true, true]);
    expect([isTooDeep(null), isTooDeep('x'), isTooDeep([[[]]], 2), isTooDeep([[[]]], 1)]).toEqual([false, false, false, true]);
  });
});
