import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Facts } from '../src/facts';
import {
  additionRole,
  applyToGraph,
  connect,
  duplicateAfter,
  type Graph,
  GraphOperationSchema,
  graphOperationsBetween,
  insertOn,
  leadsToOffers,
  makeEnd,
  moveTo,
  nextStep,
  OutcomeSchema,
  passBy,
  removeHealed,
  reorder,
  STEP_KINDS,
  type Step,
} from '../src/funnel';

const step = (name: string, kind: Step['kind'] = 'sales'): Step => ({ id: `stp_${name.padEnd(6, '0')}`, kind, name, slug: name, sells: [] });
const route = (from: Step, outcome: Graph['routes'][number]['outcome'], to: Step, changes: Partial<Graph['routes'][number]> = {}) => ({
  id: `rte_${from.name}${outcome}${to.name}`.toLowerCase(),
  from: from.id,
  outcome,
  priority: 0,
  to: to.id,
  ...changes,
});
let made = 0;
const newId = (kind: string) => `${kind === 'route' ? 'rte' : kind}_new${String(++made).padStart(6, '0')}`;

const sales = step('sales');
const order = step('order', 'checkout');
const upsell = step('upsell', 'offer');
const gentler = step('gentler', 'offer');
const thanks = step('thanks', 'thank-you');
const ladder: Graph = {
  entryId: sales.id,
  steps: [sales, order, upsell, gentler, thanks],
  routes: [
    route(sales, 'next', order),
    route(order, 'paid', upsell),
    route(upsell, 'accepted', thanks),
    route(upsell, 'declined', gentler),
    route(gentler, 'accepted', thanks),
    route(gentler, 'declined', thanks),
  ],
};
const lines = ({ routes, steps }: Graph) => {
  const name = (id: string) => steps.find((each) => each.id === id)?.name;
  return routes.map(({ from, outcome, to }) => `${name(from)} ${outcome} ${name(to)}`).sort();
};
const after = (graph: Graph, operations: Parameters<typeof applyToGraph>[1]) => applyToGraph(graph, operations).graph;

describe('what makes one map of another', () => {
  it('leads there by as little as was changed', () => {
    const changed = after(ladder, [
      { kind: 'addStep', step: step('extra', 'offer') },
      { kind: 'changeRoute', routeId: ladder.routes[1]?.id as string, changes: { to: gentler.id } },
      { kind: 'removeRoute', routeId: ladder.routes[3]?.id as string },
      { kind: 'addRoute', route: route(upsell, 'declined', step('extra', 'offer')) },
      { kind: 'changeStep', stepId: order.id, changes: { name: 'Pay here' } },
    ]);
    const operations = graphOperationsBetween(ladder, changed);
    expect(operations).toHaveLength(5);
    expect(JSON.parse(JSON.stringify(operations))).toEqual(operations);
    const again = after(ladder, operations);
    expect(lines(again)).toEqual(lines(changed));
    expect(new Set(again.steps)).toEqual(new Set(changed.steps));
    expect(graphOperationsBetween(changed, again)).toEqual([]);
  });
  it('leads back from any edit of a person', () => {
    const edits = [removeHealed(ladder, upsell.id), makeEnd(ladder, order.id), moveTo(ladder, gentler.id, ladder.routes[0]?.id as string, newId as never)];
    for (const { operations } of edits) {
      const changed = after(ladder, operations);
      const back = after(changed, graphOperationsBetween(changed, ladder));
      expect(lines(back)).toEqual(lines(ladder));
      expect(back.entryId).toBe(ladder.entryId);
    }
  });
});

describe('on the map', () => {
  it('a stop put on a line leads on to where the line led, whatever is answered there', () => {
    const audio = step('audio', 'offer');
    const { operations, consequences } = insertOn(ladder, 'rte_orderpaidupsell', audio, newId);
    expect(lines(after(ladder, operations))).toEqual(
      ['audio accepted upsell', 'audio declined upsell', 'order paid audio', ...lines(ladder).filter((line) => line !== 'order paid upsell')].sort(),
    );
    expect(consequences).toEqual([]);
  });

  it('a thank-you page put on a line ends it, and says what is not reached by it any more', () => {
    const bye = step('bye', 'thank-you');
    const edit = insertOn(ladder, 'rte_salesnextorder', bye, newId);
    expect(edit.consequences).toEqual(['“bye” ends this route: it does not lead on to “order” any more.']);
    expect(lines(after(ladder, edit.operations))).toContain('sales next bye');
  });

  it('a stop taken off heals: who was led to it goes along its yes', () => {
    const edit = removeHealed(ladder, upsell.id);
    expect(lines(after(ladder, edit.operations))).toEqual(['gentler accepted thanks', 'gentler declined thanks', 'order paid thanks', 'sales next order']);
    expect(edit.consequences).toEqual(['Who was led here goes on to “thanks”.', 'Nobody is led to “gentler” any more.']);
  });

  it('the first stop taken off hands the arrival on; the last one of all stays', () => {
    const edit = removeHealed(ladder, sales.id);
    expect(after(ladder, edit.operations).entryId).toBe(order.id);
    expect(edit.consequences).toContain('Visitors arrive at “order” now.');
    const alone: Graph = { entryId: sales.id, steps: [sales], routes: [] };
    expect(removeHealed(alone, sales.id).operations).toEqual([]);
  });

  it('a line that is drawn anew takes everybody; one with a condition comes before it', () => {
    const owns = { fact: 'returning', returning: true } as const;
    const redrawn = after(ladder, connect(ladder, order.id, 'paid', thanks.id, newId).operations);
    expect(redrawn.routes.filter(({ from }) => from === order.id)).toMatchObject([{ to: thanks.id }]);
    const told = after(ladder, connect(ladder, order.id, 'paid', thanks.id, newId, owns).operations);
    const returning: Facts = { returning: true };
    expect(nextStep(told, order.id, { outcome: 'paid' }, returning)).toMatchObject({ step: { name: 'thanks' } });
    expect(nextStep(told, order.id, { outcome: 'paid' }, {})).toMatchObject({ step: { name: 'upsell' } });
    // However it is dragged, the one for everybody else stays last.
    const ids = told.routes.filter(({ from }) => from === order.id).map(({ id }) => id);
    for (const wished of [ids, ids.toReversed()]) {
      const sorted = after(told, reorder(told, wished).operations);
      expect(nextStep(sorted, order.id, { outcome: 'paid' }, returning)).toMatchObject({ step: { name: 'thanks' } });
    }
  });

  it('a stop moved to another line stands between its two stops, and its old place is closed', () => {
    const moved = after(ladder, moveTo(ladder, gentler.id, 'rte_orderpaidupsell', newId).operations);
    expect(lines(moved)).toEqual(
      [
        'gentler accepted upsell',
        'gentler declined upsell',
        'order paid gentler',
        'sales next order',
        'upsell accepted thanks',
        'upsell declined thanks',
      ].sort(),
    );
  });

  it('a copy stands right behind its model, and an end has nothing behind it', () => {
    const copy = step('copy', 'offer');
    expect(lines(after(ladder, duplicateAfter(ladder, upsell.id, copy, newId).operations))).toEqual(
      expect.arrayContaining(['upsell accepted copy', 'copy accepted thanks', 'copy declined thanks', 'upsell declined gentler']),
    );
    expect(lines(after(ladder, makeEnd(ladder, order.id).operations)).some((line) => line.startsWith('order'))).toBe(false);
  });

  it.each([
    [[{ kind: 'addRoute', route: route(sales, 'closed', step('gone')) }], 'This stop is not on the map any more.'],
    [[{ kind: 'addRoute', route: route(sales, 'closed', sales) }], '“sales” cannot lead to itself.'],
    [[{ kind: 'removeStep', stepId: order.id }], 'Routes still hold “order”.'],
    [[{ kind: 'removeRoute', routeId: 'rte_gone000' }], 'This route is not on the map any more.'],
    [[{ kind: 'addStep', step: order }], 'This stop is on the map already.'],
  ] as const)('what does not fit is refused in words', (operations, words) => {
    expect(() => applyToGraph(ladder, operations)).toThrow(words);
  });

  it.each([
    { kind: 'changeStep', stepId: order.id, changes: { name: 'Order' } },
    { kind: 'changeRoute', routeId: 'rte_orderpaidupsell', changes: { to: thanks.id } },
  ] as const)('a change that arrives speaks of what it changes and of nothing else: $kind', (operation) => {
    expect(GraphOperationSchema.parse(operation)).toEqual(operation);
  });

  it('whatever is done can be taken back, and every walk ends', () => {
    const edits = fc.array(
      fc.record({ what: fc.integer({ min: 0, max: 5 }), a: fc.nat(), b: fc.nat(), kind: fc.constantFrom(...STEP_KINDS.map(({ kind }) => kind)) }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(edits, fc.array(fc.boolean(), { maxLength: 60 }), (wishes, open) => {
        let graph = ladder;
        const inverses: ReturnType<typeof applyToGraph>['inverse'][] = [];
        for (const { what, a, b, kind } of wishes) {
          const at = graph.steps[a % graph.steps.length] as Step;
          const other = graph.steps[b % graph.steps.length] as Step;
          const line = graph.routes[b % Math.max(1, graph.routes.length)];
          const fresh = step(`x${++made}`, kind);
          const [outcome] = STEP_KINDS.find((record) => record.kind === at.kind)?.outcomes ?? [];
          const edit =
            what === 0 && line
              ? insertOn(graph, line.id, fresh, newId)
              : what === 1
                ? removeHealed(graph, at.id)
                : what === 2 && line
                  ? moveTo(graph, at.id, line.id, newId)
                  : what === 3
                    ? duplicateAfter(graph, at.id, fresh, newId)
                    : what === 4
                      ? makeEnd(graph, at.id)
                      : outcome && at !== other
                        ? connect(graph, at.id, outcome, other.id, newId)
                        : { operations: [] };
          const applied = applyToGraph(graph, edit.operations);
          inverses.push(applied.inverse);
          graph = applied.graph;
          // Nothing leads nowhere, and where people arrive is there.
          const ids = new Set(graph.steps.map((each) => each.id));
          expect(graph.routes.every(({ from, to }) => ids.has(from) && ids.has(to) && from !== to)).toBe(true);
          expect(ids.has(graph.entryId)).toBe(true);
        }
        for (const from of graph.steps) {
          for (const outcome of OutcomeSchema.options) {
            const { next } = passBy(graph, nextStep(graph, from.id, { outcome }, {}), {}, (each) => open[graph.steps.indexOf(each)] ?? false);
            // A buyer is led to one stop, and never to an offer that is not made to them.
            if (next.kind === 'step' && next.step.kind === 'offer') expect(open[graph.steps.indexOf(next.step)]).toBe(true);
          }
        }
        for (const inverse of inverses.toReversed()) graph = applyToGraph(graph, inverse).graph;
        expect(new Set(lines(graph))).toEqual(new Set(lines(ladder)));
        expect(graph.steps.map(({ id }) => id).sort()).toEqual(ladder.steps.map(({ id }) => id).sort());
        expect(graph.entryId).toBe(ladder.entryId);
      }),
      { numRuns: 150 },
    );
  });
});

describe('an offer that is not made to a buyer', () => {
  const nobody = () => false;
  const paid = nextStep(ladder, order.id, { outcome: 'paid' }, {});
  it('is passed as if it were declined, and so is the next', () => {
    expect(passBy(ladder, paid, {}, nobody).next).toMatchObject({ step: { name: 'thanks' } });
    expect(passBy(ladder, paid, {}, ({ name }) => name === 'gentler').next).toMatchObject({ step: { name: 'gentler' } });
  });
  it('is passed along its own route where one is drawn', () => {
    const own = after(ladder, connect(ladder, upsell.id, 'closed', thanks.id, newId).operations);
    expect(passBy(own, paid, {}, ({ name }) => name === 'gentler').next).toMatchObject({ step: { name: 'thanks' } });
  });
  it('in a circle of such offers leads to the thank-you page, or to the address that is meant afterwards', () => {
    const circle: Graph = { ...ladder, routes: [route(order, 'paid', upsell), route(upsell, 'declined', gentler), route(gentler, 'declined', upsell)] };
    const arrived = nextStep(circle, order.id, { outcome: 'paid' }, {});
    expect(passBy(circle, arrived, {}, nobody).next).toMatchObject({ kind: 'step', step: { name: 'thanks' } });
    expect(passBy(circle, arrived, {}, nobody, 'https://elsewhere.test').next).toEqual({ kind: 'address', url: 'https://elsewhere.test' });
  });
  it('is a downsell only where nobody comes to it but by a no', () => {
    expect([additionRole(ladder, upsell.id), additionRole(ladder, gentler.id)]).toEqual(['upsell', 'downsell']);
    const both = { ...ladder, routes: [...ladder.routes, route(order, 'closed', gentler)] };
    expect(additionRole(both, gentler.id)).toBe('upsell');
    expect([leadsToOffers(ladder, order.id), leadsToOffers(ladder, gentler.id)]).toEqual([true, false]);
  });
});
