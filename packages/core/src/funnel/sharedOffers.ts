import type { NewId } from '../ids';
import type { Graph, Route, Step } from './funnel';
import { applyToGraph, type GraphOperation } from './graphOperation';
import { freeStepSlug, type MapEdit, removeHealed } from './mapEdits';

/** The funnel whose offers are shared, as it stands. */
export interface OfferSource {
  funnelId: string;
  graph: Graph;
}

/** Offers that something other than an offer leads to: where a chain of them begins. */
export function chainStarts({ steps, routes }: Graph): Step[] {
  const kindOf = new Map(steps.map((step) => [step.id, step.kind]));
  return steps.filter((step) => step.kind === 'offer' && routes.some((route) => route.to === step.id && kindOf.get(route.from) !== 'offer'));
}

/** A chain of offers: the one it begins with, and every offer that a yes or no to one of them leads to. */
export function chainFrom({ steps, routes }: Graph, startIds: readonly string[]): Step[] {
  const offers = new Map(steps.filter((step) => step.kind === 'offer').map((step) => [step.id, step]));
  const reached = new Set(startIds.filter((id) => offers.has(id)));
  for (const id of reached) for (const route of routes) if (route.from === id && offers.has(route.to)) reached.add(route.to);
  return [...reached].flatMap((id) => offers.get(id) ?? []);
}

/** Puts another funnel's chain of offers on a route: whoever comes to its end goes on to where the route led. */
export function shareOn(graph: Graph, routeId: string, source: OfferSource, startId: string, newId: NewId): MapEdit {
  const route = graph.routes.find((candidate) => candidate.id === routeId);
  const [start] = chainFrom(source.graph, [startId]);
  if (!route || !start) return { operations: [], consequences: [] };
  const work = working(graph);
  const first = sharedStep(work.graph, source, start, newId('step'));
  work.apply({ kind: 'addStep', step: first });
  work.apply({ kind: 'changeRoute', routeId, changes: { to: first.id } });
  work.apply({ kind: 'addRoute', route: { id: newId('route'), from: first.id, outcome: 'accepted', priority: 0, to: route.to } });
  for (const operation of followSource(work.graph, source, newId)) work.apply(operation);
  return { operations: work.operations, consequences: [] };
}

/**
 * Brings the stops that a funnel shares with another up to what that one has now: stops that came, went or changed, and
 * the ways between them. Where the chain ends, people go on to where they went before.
 * @param known another state of the same funnel, whose ids are used for what stands there already
 */
export function followSource(graph: Graph, source: OfferSource, newId: NewId, known?: Graph): GraphOperation[] {
  const work = working(graph);
  const sourceIds = new Set(source.graph.steps.map((step) => step.id));
  const isShared = (step: Step) => step.sharedFrom?.funnelId === source.funnelId;
  for (const step of graph.steps.filter((each) => isShared(each) && !sourceIds.has(each.sharedFrom?.stepId ?? ''))) {
    for (const operation of removeHealed(work.graph, step.id).operations) work.apply(operation);
  }
  const shared = work.graph.steps.filter(isShared);
  if (shared.length === 0) return work.operations;

  const ids = new Set(shared.map((step) => step.id));
  const starts = shared.filter(({ id }) => id === work.graph.entryId || work.graph.routes.some((route) => route.to === id && !ids.has(route.from)));
  const chain = chainFrom(
    source.graph,
    (starts.length > 0 ? starts : shared).flatMap((step) => step.sharedFrom?.stepId ?? []),
  );
  const chainIds = new Set(chain.map((step) => step.id));
  const exit = usualExit(work.graph, ids);
  for (const step of shared.filter((each) => !chainIds.has(each.sharedFrom?.stepId ?? ''))) {
    for (const operation of removeHealed(work.graph, step.id).operations) work.apply(operation);
  }
  for (const original of chain) {
    const own = work.graph.steps.find((step) => isShared(step) && step.sharedFrom?.stepId === original.id);
    if (!own) {
      const id = known?.steps.find((step) => isShared(step) && step.sharedFrom?.stepId === original.id)?.id;
      work.apply({ kind: 'addStep', step: sharedStep(work.graph, source, original, id ?? newId('step')) });
    } else if (own.name !== original.name || JSON.stringify(own.sells) !== JSON.stringify(original.sells)) {
      work.apply({ kind: 'changeStep', stepId: own.id, changes: { name: original.name, sells: original.sells } });
    }
  }
  followRoutes(work, source, chain, exit, newId, known);
  return work.operations;
}

/** Leads on from the stops of a chain as its source does. What leaves the chain stays as it leads here. */
function followRoutes(work: Working, source: OfferSource, chain: readonly Step[], exit: string | undefined, newId: NewId, known: Graph | undefined): void {
  const ownIds = new Map(work.graph.steps.flatMap((step) => (step.sharedFrom?.funnelId === source.funnelId ? [[step.sharedFrom.stepId, step.id]] : [])));
  const shared = new Set(ownIds.values());
  for (const original of chain) {
    const from = ownIds.get(original.id) ?? '';
    const before = work.graph.routes.filter((route) => route.from === from);
    const kept = new Set<string>();
    for (const { outcome, condition, priority, to } of waysOf(source.graph, original)) {
      const inside = ownIds.get(to);
      const same = before.find(
        (route) =>
          !kept.has(route.id) && route.outcome === outcome && isSameCondition(route, condition) && (inside ? route.to === inside : !shared.has(route.to)),
      );
      const target = inside ?? exit;
      if (same) {
        kept.add(same.id);
        if (same.priority !== priority) work.apply({ kind: 'changeRoute', routeId: same.id, changes: { priority } });
      } else if (target !== undefined && target !== from) {
        const id = known?.routes.find(
          (route) => route.from === from && route.outcome === outcome && route.to === target && isSameCondition(route, condition),
        )?.id;
        const route: Route = { id: id ?? newId('route'), from, outcome, priority, to: target, ...(condition ? { condition } : {}) };
        kept.add(route.id);
        work.apply({ kind: 'addRoute', route });
      }
    }
    for (const route of before) if (!kept.has(route.id)) work.apply({ kind: 'removeRoute', routeId: route.id });
  }
}

/** The ways on from an offer; a yes or no that leads nowhere leaves the chain too. */
function waysOf({ routes }: Graph, { id }: Step): Array<Omit<Route, 'id' | 'from'>> {
  const own = routes.filter((route) => route.from === id);
  const ends = (['accepted', 'declined'] as const).filter((outcome) => !own.some((route) => route.outcome === outcome && !route.condition));
  return [...own, ...ends.map((outcome) => ({ outcome, priority: own.length, to: '' }))];
}

const isSameCondition = (route: Route, condition: Route['condition']) => JSON.stringify(route.condition ?? null) === JSON.stringify(condition ?? null);

/** Where most ways out of some stops lead. */
function usualExit({ routes }: Graph, ids: ReadonlySet<string>): string | undefined {
  const counts = new Map<string, number>();
  for (const route of routes) if (ids.has(route.from) && !ids.has(route.to)) counts.set(route.to, (counts.get(route.to) ?? 0) + 1);
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0];
}

const sharedStep = (graph: Graph, { funnelId }: OfferSource, { id: stepId, kind, name, slug, sells }: Step, id: string): Step => ({
  id,
  kind,
  name,
  slug: freeStepSlug(graph, slug),
  sells,
  sharedFrom: { funnelId, stepId },
});

interface Working {
  graph: Graph;
  operations: GraphOperation[];
  apply: (operation: GraphOperation) => void;
}

/** A graph that operations are done to one by one, with what was done. */
function working(graph: Graph): Working {
  const work: Working = {
    graph,
    operations: [],
    apply(operation) {
      work.graph = applyToGraph(work.graph, [operation]).graph;
      work.operations.push(operation);
    },
  };
  return work;
}

/** Takes everything that is shared from a funnel off the map; whoever was led to it goes on to where it ended. */
export function removeShared(graph: Graph, funnelId: string): MapEdit {
  const work = working(graph);
  const shared = graph.steps.filter((step) => step.sharedFrom?.funnelId === funnelId);
  for (const step of shared) for (const operation of removeHealed(work.graph, step.id).operations) work.apply(operation);
  const exit = usualExit(graph, new Set(shared.map((step) => step.id)));
  const name = graph.steps.find((step) => step.id === exit)?.name;
  return { operations: work.operations, consequences: name ? [`Who was led to ${shared.length === 1 ? 'it' : 'them'} goes on to “${name}”.`] : [] };
}

/** Makes everything that is shared from a funnel its user's own: from then on it is changed here, and only here. */
export const makeOwn = (graph: Graph, funnelId: string): MapEdit => ({
  operations: graph.steps
    .filter((step) => step.sharedFrom?.funnelId === funnelId)
    .map((step) => ({ kind: 'changeStep', stepId: step.id, changes: { sharedFrom: null } })),
  consequences: [],
});

/** Whether a way leads from one stop to another that are both shared from the same funnel, so that it follows that one. */
export function isSharedWay(graph: Pick<Graph, 'steps'>, { from, to }: Pick<Route, 'from' | 'to'>): boolean {
  const sourceOf = (id: string) => graph.steps.find((step) => step.id === id)?.sharedFrom?.funnelId;
  return sourceOf(from) !== undefined && sourceOf(from) === sourceOf(to);
}
