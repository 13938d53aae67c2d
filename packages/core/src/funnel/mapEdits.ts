import type { Condition } from '../conditions';
import type { NewId } from '../ids';
import type { Graph, Route, Step } from './funnel';
import type { GraphOperation } from './graphOperation';
import type { Outcome } from './stepKind';
import { stepKindOf } from './stepKinds';

/** What a person does on the map: the operations that do it, and what happens by it, in words to be read before. */
export interface MapEdit {
  operations: GraphOperation[];
  consequences: string[];
}

/** The routes of one outcome of a step, in the order in which they are tried. */
export function routesFor(graph: Pick<Graph, 'routes'>, stepId: string, outcome: Outcome): Route[] {
  return graph.routes.filter((route) => route.from === stepId && route.outcome === outcome).sort((a, b) => a.priority - b.priority);
}

/** The route that everybody else takes: the one of an outcome without a condition. */
export function otherwise(graph: Pick<Graph, 'routes'>, stepId: string, outcome: Outcome): Route | undefined {
  return routesFor(graph, stepId, outcome).find((route) => route.condition === undefined);
}

const nameOf = (graph: Graph, id: string | undefined) => `“${graph.steps.find((step) => step.id === id)?.name ?? 'a stop that is gone'}”`;

/** Where people go on from a step that is taken away: along its goal, else along any other way. */
function successor(graph: Graph, step: Step): string | undefined {
  const { outcomes, goal } = stepKindOf(step.kind);
  for (const outcome of [goal.outcome, ...outcomes]) {
    const routes = routesFor(graph, step.id, outcome);
    const route = routes.find((each) => each.condition === undefined) ?? routes[0];
    if (route) return route.to;
  }
  return undefined;
}

/** A further route of an outcome: before the one for everybody else if it has a condition, else last. */
function newRoute(graph: Graph, from: string, outcome: Outcome, to: string, newId: NewId, condition?: Condition): GraphOperation[] {
  const routes = routesFor(graph, from, outcome);
  const rest = routes.find((route) => route.condition === undefined);
  const priority = condition && rest ? rest.priority : (routes.at(-1)?.priority ?? -1) + 1;
  return [
    ...(condition && rest
      ? routes
          .filter((route) => route.priority >= priority)
          .map((route): GraphOperation => ({ kind: 'changeRoute', routeId: route.id, changes: { priority: route.priority + 1 } }))
      : []),
    { kind: 'addRoute', route: { id: newId('route'), from, outcome, priority, to, ...(condition ? { condition } : {}) } },
  ];
}

/** The ways on that a new step gets: everything it can end with leads to the same next stop, until somebody draws otherwise. */
function waysOn(step: Step, to: string, newId: NewId): GraphOperation[] {
  return stepKindOf(step.kind)
    .outcomes.filter((outcome) => outcome !== 'closed')
    .map((outcome) => ({ kind: 'addRoute', route: { id: newId('route'), from: step.id, outcome, priority: 0, to } }));
}

/** Puts a new step on a route. A step that leads nowhere, as a thank-you page does, becomes the end of it. */
export function insertOn(graph: Graph, routeId: string, step: Step, newId: NewId): MapEdit {
  const route = graph.routes.find((candidate) => candidate.id === routeId);
  if (!route) return { operations: [], consequences: [] };
  const leadsOn = stepKindOf(step.kind).outcomes.length > 0;
  return {
    operations: [{ kind: 'addStep', step }, { kind: 'changeRoute', routeId, changes: { to: step.id } }, ...(leadsOn ? waysOn(step, route.to, newId) : [])],
    consequences: leadsOn ? [] : [`“${step.name}” ends this route: it does not lead on to ${nameOf(graph, route.to)} any more.`],
  };
}

/** Puts a new step before the first: people arrive at it, and go on to where they arrived before. */
export function insertFirst(graph: Graph, step: Step, newId: NewId): MapEdit {
  const leadsOn = stepKindOf(step.kind).outcomes.length > 0;
  return {
    operations: [{ kind: 'addStep', step }, ...(leadsOn ? waysOn(step, graph.entryId, newId) : []), { kind: 'setEntry', stepId: step.id }],
    consequences: leadsOn ? [] : [`“${step.name}” has no next step: nobody goes on to ${nameOf(graph, graph.entryId)}.`],
  };
}

/** Puts a new step behind another, where no route leads on yet or a further one is wanted. */
export function insertAfter(graph: Graph, fromId: string, outcome: Outcome, step: Step, newId: NewId, condition?: Condition): MapEdit {
  const before = otherwise(graph, fromId, outcome);
  if (before && !condition) return insertOn(graph, before.id, step, newId);
  return {
    operations: [
      { kind: 'addStep', step },
      ...newRoute(graph, fromId, outcome, step.id, newId, condition),
      // A detour comes back to where everybody else goes.
      ...(before && stepKindOf(step.kind).outcomes.length > 0 ? waysOn(step, before.to, newId) : []),
    ],
    consequences: [],
  };
}

/** Leads an outcome of a step to another: everybody, or those for whom a condition holds. */
export function connect(graph: Graph, fromId: string, outcome: Outcome, toId: string, newId: NewId, condition?: Condition): MapEdit {
  const before = condition ? undefined : otherwise(graph, fromId, outcome);
  if (!before) return { operations: newRoute(graph, fromId, outcome, toId, newId, condition), consequences: [] };
  if (before.to === toId) return { operations: [], consequences: [] };
  return {
    operations: [{ kind: 'changeRoute', routeId: before.id, changes: { to: toId } }],
    consequences: [`People are led to ${nameOf(graph, toId)} instead of ${nameOf(graph, before.to)}.`],
  };
}

/** Takes a step off the map; whoever was led to it goes on to where it led. */
export function removeHealed(graph: Graph, stepId: string): MapEdit {
  const step = graph.steps.find((candidate) => candidate.id === stepId);
  if (!step || graph.steps.length === 1) return { operations: [], consequences: step ? ['The last stop of a funnel stays.'] : [] };
  const next = successor(graph, step);
  const into = graph.routes.filter((route) => route.to === stepId);
  const out = graph.routes.filter((route) => route.from === stepId);
  const healed = into.filter((route) => next !== undefined && route.from !== next);
  const dropped = into.filter((route) => !healed.includes(route));
  const rest = graph.steps.filter((candidate) => candidate.id !== stepId);
  const entry = graph.entryId === stepId ? (next ?? rest[0]?.id) : undefined;
  const lost = [...new Set(out.map((route) => route.to))].filter(
    (id) => id !== next && id !== entry && !graph.routes.some((route) => route.to === id && route.from !== stepId),
  );
  return {
    operations: [
      ...(entry ? [{ kind: 'setEntry', stepId: entry } as const] : []),
      ...healed.map((route): GraphOperation => ({ kind: 'changeRoute', routeId: route.id, changes: { to: next as string } })),
      ...[...dropped, ...out].map((route): GraphOperation => ({ kind: 'removeRoute', routeId: route.id })),
      { kind: 'removeStep', stepId },
    ],
    consequences: [
      ...(healed.length > 0 ? [`Who was led here goes on to ${nameOf(graph, next)}.`] : []),
      ...(dropped.length > 0 ? [`Nothing leads on from ${[...new Set(dropped.map((route) => nameOf(graph, route.from)))].join(', ')} any more.`] : []),
      ...(entry ? [`Visitors arrive at ${nameOf(graph, entry)} now.`] : []),
      ...(lost.length > 0 ? [`Nobody is led to ${lost.map((id) => nameOf(graph, id)).join(', ')} any more.`] : []),
    ],
  };
}

/** Moves a step to another line: the routes around its old place heal, and it stands between the two stops of the new one. */
export function moveTo(graph: Graph, stepId: string, routeId: string, newId: NewId): MapEdit {
  const step = graph.steps.find((candidate) => candidate.id === stepId);
  const route = graph.routes.find((candidate) => candidate.id === routeId);
  if (!step || !route || route.from === stepId || route.to === stepId) return { operations: [], consequences: [] };
  const { operations, consequences } = removeHealed(graph, stepId);
  const healing = operations.filter((operation) => operation.kind !== 'removeStep');
  return {
    operations: [...healing, { kind: 'changeRoute', routeId, changes: { to: stepId } }, ...waysOn(step, route.to, newId)],
    consequences: [...consequences, `“${step.name}” stands between ${nameOf(graph, route.from)} and ${nameOf(graph, route.to)}.`],
  };
}

/** Puts a copy of a step right behind it. */
export function duplicateAfter(graph: Graph, stepId: string, copy: Step, newId: NewId): MapEdit {
  const step = graph.steps.find((candidate) => candidate.id === stepId);
  if (!step) return { operations: [], consequences: [] };
  const { goal, outcomes } = stepKindOf(step.kind);
  if (outcomes.length === 0) return { operations: [{ kind: 'addStep', step: copy }], consequences: ['Nothing leads to the copy yet.'] };
  const after = otherwise(graph, stepId, goal.outcome);
  if (!after) return { operations: [{ kind: 'addStep', step: copy }, ...newRoute(graph, stepId, goal.outcome, copy.id, newId)], consequences: [] };
  return insertOn(graph, after.id, copy, newId);
}

/** Ends the funnel at a step: nothing leads on from it. */
export function makeEnd(graph: Graph, stepId: string): MapEdit {
  const out = graph.routes.filter((route) => route.from === stepId);
  const lost = [...new Set(out.map((route) => route.to))].filter(
    (id) => id !== graph.entryId && !graph.routes.some((route) => route.to === id && route.from !== stepId),
  );
  return {
    operations: out.map((route) => ({ kind: 'removeRoute', routeId: route.id })),
    consequences: lost.length > 0 ? [`Nobody is led to ${lost.map((id) => nameOf(graph, id)).join(', ')} any more.`] : [],
  };
}

/** Tries the routes of one outcome in another order; the one without a condition stays last, since it takes everybody. */
export function reorder(graph: Graph, routeIds: readonly string[]): MapEdit {
  const routes = routeIds.flatMap((id) => graph.routes.find((route) => route.id === id) ?? []);
  const inOrder = [...routes.filter((route) => route.condition !== undefined), ...routes.filter((route) => route.condition === undefined)];
  return {
    operations: inOrder.flatMap((route, priority): GraphOperation[] =>
      route.priority === priority ? [] : [{ kind: 'changeRoute', routeId: route.id, changes: { priority } }],
    ),
    consequences: [],
  };
}

/** An address for a new step that no other has: `offer`, `offer-2`. */
export function freeStepSlug(graph: Pick<Graph, 'steps'>, wish: string): string {
  const taken = new Set(graph.steps.map((step) => step.slug));
  if (!taken.has(wish)) return wish;
  for (let n = 2; ; n++) if (!taken.has(`${wish.slice(0, 55)}-${n}`)) return `${wish.slice(0, 55)}-${n}`;
}
