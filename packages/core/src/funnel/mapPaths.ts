import type { Graph, Route, Step } from './funnel';

/** What is known of the ways through a map, found once for each map in time that grows with its steps and routes. */
export interface MapPaths {
  byId: ReadonlyMap<string, Step>;
  /** Routes by the step they lead on from. */
  from: ReadonlyMap<string, readonly Route[]>;
  /** Steps that routes lead to. */
  reached: ReadonlySet<string>;
  /** Offers and checkouts from which offers and checkouts lead back to themselves. */
  inCircle: ReadonlySet<string>;
}

const known = new WeakMap<Graph, MapPaths>();

export function mapPaths(graph: Graph): MapPaths {
  let found = known.get(graph);
  if (!found) {
    const byId = new Map(graph.steps.map((step) => [step.id, step]));
    const from = new Map<string, Route[]>();
    for (const route of graph.routes) {
      const routes = from.get(route.from);
      if (routes) routes.push(route);
      else from.set(route.from, [route]);
    }
    found = { byId, from, reached: new Set(graph.routes.map(({ to }) => to)), inCircle: inCircles(graph.steps.filter(takesMoney), from) };
    known.set(graph, found);
  }
  return found;
}

const takesMoney = ({ kind }: Pick<Step, 'kind'>) => kind === 'offer' || kind === 'checkout';

/** One step on the way of a walk in depth, with the routes that are still to be followed from it. */
interface Visit {
  id: string;
  routes: readonly Route[];
  next: number;
  /** The most that was found from here so far. */
  most?: number;
}

/**
 * Steps that lie in a circle of such steps: those of strongly connected components with more than one step, or with a
 * route back to itself (R. Tarjan, Depth-first search and linear graph algorithms, 1972). Without recursion, so that no map is too long.
 */
function inCircles(steps: readonly Step[], from: ReadonlyMap<string, readonly Route[]>): Set<string> {
  const among = new Set(steps.map(({ id }) => id));
  const index = new Map<string, number>();
  const low = new Map<string, number>();
  const stack: string[] = [];
  const onStack = new Set<string>();
  const found = new Set<string>();
  const routesOf = (id: string) => (from.get(id) ?? []).filter(({ to }) => among.has(to));
  const lower = (id: string, to: number) => low.set(id, Math.min(low.get(id) ?? to, to));
  for (const { id: root } of steps) {
    if (index.has(root)) continue;
    const way: Visit[] = [];
    const enter = (id: string) => {
      index.set(id, index.size);
      low.set(id, index.size - 1);
      stack.push(id);
      onStack.add(id);
      way.push({ id, routes: routesOf(id), next: 0 });
    };
    enter(root);
    for (let visit = way.at(-1); visit; visit = way.at(-1)) {
      const route = visit.routes[visit.next++];
      if (route) {
        if (route.to === visit.id) found.add(visit.id);
        if (!index.has(route.to)) enter(route.to);
        else if (onStack.has(route.to)) lower(visit.id, index.get(route.to) ?? 0);
        continue;
      }
      way.pop();
      const before = way.at(-1);
      if (before) lower(before.id, low.get(visit.id) ?? 0);
      if (low.get(visit.id) !== index.get(visit.id)) continue;
      const component = stack.splice(stack.lastIndexOf(visit.id));
      for (const id of component) {
        onStack.delete(id);
        if (component.length > 1) found.add(id);
      }
    }
  }
  return found;
}

/**
 * The most that one way from a step can come to, each step counted by the route that leads to it. Each step is looked at
 * once; where routes lead in a circle, the way ends where it would begin again.
 * @param worth what a route adds, 0 or more
 */
export function longestWay(graph: Graph, startId: string, worth: (route: Route, here: Step | undefined, there: Step | undefined) => number): number {
  const { byId, from } = mapPaths(graph);
  const most = new Map<string, number>();
  const open = new Set<string>();
  const way: Visit[] = [];
  const enter = (id: string) => {
    open.add(id);
    way.push({ id, routes: from.get(id) ?? [], next: 0 });
  };
  enter(startId);
  for (let visit = way.at(-1); visit; visit = way.at(-1)) {
    const route = visit.routes[visit.next];
    if (route && !most.has(route.to) && !open.has(route.to)) {
      enter(route.to);
      continue;
    }
    if (route) {
      visit.next++;
      const value = worth(route, byId.get(visit.id), byId.get(route.to)) + (most.get(route.to) ?? 0);
      visit.most = Math.max(visit.most ?? 0, value);
      continue;
    }
    most.set(visit.id, visit.most ?? 0);
    open.delete(visit.id);
    way.pop();
  }
  return most.get(startId) ?? 0;
}
