import { describe, expect, it } from 'vitest';
import {
  applyToGraph,
  chainFrom,
  chainStarts,
  followSource,
  type Graph,
  type GraphOperation,
  insertOn,
  isSharedWay,
  makeOwn,
  removeHealed,
  removeShared,
  type Step,
  shareOn,
} from '../src/funnel';

const step = (name: string, kind: Step['kind'] = 'sales'): Step => ({ id: `stp_${name.padEnd(6, '0')}`, kind, name, slug: name, sells: [] });
const route = (from: Step, outcome: Graph['routes'][number]['outcome'], to: Step) => ({
  id: `rte_${from.name}${outcome}${to.name}`.toLowerCase(),
  from: from.id,
  outcome,
  priority: 0,
  to: to.id,
});
let made = 0;
const newId = (kind: string) => `${kind}_new${String(++made).padStart(6, '0')}`;

const [order, upsell, gentler, thanks] = [step('order', 'checkout'), step('upsell', 'offer'), step('gentler', 'offer'), step('thanks', 'thank-you')];
/** order → upsell; its yes → thanks; its no → gentler → thanks */
const ladder: Graph = {
  entryId: order.id,
  steps: [order, upsell, gentler, thanks],
  routes: [
    route(order, 'paid', upsell),
    route(upsell, 'accepted', thanks),
    route(upsell, 'declined', gentler),
    route(gentler, 'accepted', thanks),
    route(gentler, 'declined', thanks),
  ],
};
const [pay, done] = [step('pay', 'checkout'), step('done', 'thank-you')];
const plain: Graph = { entryId: pay.id, steps: [pay, done], routes: [route(pay, 'paid', done)] };

const after = (graph: Graph, operations: readonly GraphOperation[]) => applyToGraph(graph, operations).graph;
const share = (graph = plain) => after(graph, shareOn(graph, 'rte_paypaiddone', { funnelId: 'fnl_ladder', graph: ladder }, upsell.id, newId).operations);
const follow = (graph: Graph, now: Graph, known?: Graph) => after(graph, followSource(graph, { funnelId: 'fnl_ladder', graph: now }, newId, known));
/** The lines of a graph in words, by the names of their stops. */
const lines = ({ steps, routes }: Graph) => {
  const name = (id: string) => steps.find((each) => each.id === id)?.name;
  return routes.map(({ from, outcome, to }) => `${name(from)} ${outcome} ${name(to)}`).sort();
};

describe('offers that several funnels share', () => {
  it('begin where something else leads to them, and are all that their answers lead to', () => {
    expect(chainStarts(ladder)).toEqual([upsell]);
    expect(chainFrom(ladder, [upsell.id])).toEqual([upsell, gentler]);
  });

  it('stand on a route with every way out leading on to where it led', () => {
    expect(lines(share())).toEqual(['gentler accepted done', 'gentler declined done', 'pay paid upsell', 'upsell accepted done', 'upsell declined gentler']);
  });

  it('follow what is changed at their source, and stay as they are when nothing is', () => {
    const shared = share();
    expect(followSource(shared, { funnelId: 'fnl_ladder', graph: ladder }, newId)).toEqual([]);
    const second = step('second', 'offer');
    const grown = after(ladder, insertOn(ladder, 'rte_upsellacceptedthanks', second, newId).operations);
    const named = after(grown, [{ kind: 'changeStep', stepId: gentler.id, changes: { name: 'softer' } }]);
    const now = follow(shared, named);
    expect(lines(now)).toEqual([
      'pay paid upsell',
      'second accepted done',
      'second declined done',
      'softer accepted done',
      'softer declined done',
      'upsell accepted second',
      'upsell declined softer',
    ]);
    const back = follow(now, ladder);
    expect(lines(back)).toEqual(lines(shared));
    expect(followSource(back, { funnelId: 'fnl_ladder', graph: ladder }, newId)).toEqual([]);
  });

  it('leave what is drawn behind them in place, and use the ids that another state of the funnel has', () => {
    const shared = share();
    const story = step('story');
    const exit = shared.routes.find(({ from, to }) => shared.steps.find(({ id }) => id === from)?.name === 'gentler' && to === done.id);
    const own = after(shared, insertOn(shared, exit?.id ?? '', story, newId).operations);
    const second = step('second', 'offer');
    const grown = after(ladder, insertOn(ladder, 'rte_upsellacceptedthanks', second, newId).operations);
    const draft = follow(own, grown);
    expect(lines(draft)).toContain('gentler accepted story');
    const live = follow(shared, grown, draft);
    const idsOf = ({ steps, routes }: Graph) => [...steps, ...routes].map(({ id }) => id);
    expect(idsOf(live).filter((id) => !idsOf(draft).includes(id) && !idsOf(shared).includes(id))).toEqual([]);
  });

  it('go where they are taken away at their source, and people are led past them', () => {
    const shared = share();
    const without = after(ladder, removeHealed(ladder, gentler.id).operations);
    expect(lines(follow(shared, without))).toEqual(['pay paid upsell', 'upsell accepted done', 'upsell declined done']);
    const none = after(without, removeHealed(without, upsell.id).operations);
    expect(lines(follow(shared, none))).toEqual(['pay paid done']);
  });

  it('are taken off together, or become the funnel’s own and follow nothing any more', () => {
    const shared = share();
    const removal = removeShared(shared, 'fnl_ladder');
    expect(lines(after(shared, removal.operations))).toEqual(['pay paid done']);
    expect(removal.consequences).toEqual(['Who was led to them goes on to “done”.']);
    const own = after(shared, makeOwn(shared, 'fnl_ladder').operations);
    expect(own.steps.filter((each) => each.sharedFrom)).toEqual([]);
    expect(followSource(own, { funnelId: 'fnl_ladder', graph: plain }, newId)).toEqual([]);
    // Taken back, they are shared again.
    const { graph, inverse } = applyToGraph(shared, makeOwn(shared, 'fnl_ladder').operations);
    expect(after(graph, inverse)).toEqual(shared);
    const ways = shared.routes.filter((each) => isSharedWay(shared, each));
    expect(lines({ ...shared, routes: ways })).toEqual(['upsell declined gentler']);
  });
});
