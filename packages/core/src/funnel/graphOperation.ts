import { z } from 'zod';
import { ConditionSchema } from '../conditions';
import { idSchema } from '../ids';
import { type Graph, type Route, RouteSchema, SellsSchema, SharedFromSchema, type Step, StepSchema } from './funnel';
import { OutcomeSchema } from './stepKind';

/** One small change of a funnel's graph. Every operation has an inverse that is an operation too. */
export const GraphOperationSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('addStep'), step: StepSchema }),
  z.object({ kind: z.literal('removeStep'), stepId: idSchema('step') }).describe('Nothing may lead to it or from it any more'),
  z.object({
    kind: z.literal('changeStep'),
    stepId: idSchema('step'),
    changes: z
      .object({
        name: StepSchema.shape.name,
        slug: StepSchema.shape.slug,
        sells: SellsSchema,
        sharedFrom: SharedFromSchema.nullable().describe('Null makes it the funnel’s own'),
      })
      .partial(),
  }),
  z.object({ kind: z.literal('addRoute'), route: RouteSchema }),
  z.object({ kind: z.literal('removeRoute'), routeId: idSchema('route') }),
  z.object({
    kind: z.literal('changeRoute'),
    routeId: idSchema('route'),
    changes: z
      .object({
        from: idSchema('step'),
        to: idSchema('step'),
        outcome: OutcomeSchema,
        priority: z.int(),
        condition: ConditionSchema.nullable().describe('Null takes it off'),
      })
      .partial(),
  }),
  z.object({ kind: z.literal('setEntry'), stepId: idSchema('step') }),
]);
export type GraphOperation = z.infer<typeof GraphOperationSchema>;

export interface AppliedToGraph {
  graph: Graph;
  /** Applied in their order to `graph`, they give back the graph before. */
  inverse: GraphOperation[];
}

/**
 * Applies operations in their order. Pure: the graph given is untouched.
 * @throws RangeError in words for people if one names what is not there, leads a step to itself or to nowhere, or takes
 *   away a step that routes still hold
 */
export function applyToGraph(graph: Graph, operations: readonly GraphOperation[]): AppliedToGraph {
  let current = graph;
  const inverse: GraphOperation[] = [];
  for (const operation of operations) {
    const applied = applyOne(current, operation);
    current = applied.graph;
    inverse.unshift(applied.inverse);
  }
  for (const route of current.routes) checkRoute(current, route);
  stepOf(current, current.entryId);
  return { graph: current, inverse };
}

function applyOne(graph: Graph, operation: GraphOperation): { graph: Graph; inverse: GraphOperation } {
  switch (operation.kind) {
    case 'addStep': {
      const { step } = operation;
      if (graph.steps.some(({ id }) => id === step.id)) throw new RangeError('This stop is on the map already.');
      return { graph: { ...graph, steps: [...graph.steps, step] }, inverse: { kind: 'removeStep', stepId: step.id } };
    }
    case 'removeStep': {
      const step = stepOf(graph, operation.stepId);
      if (graph.routes.some(({ from, to }) => from === step.id || to === step.id)) throw new RangeError(`Routes still hold “${step.name}”.`);
      return { graph: { ...graph, steps: graph.steps.filter(({ id }) => id !== step.id) }, inverse: { kind: 'addStep', step } };
    }
    case 'changeStep': {
      const step = stepOf(graph, operation.stepId);
      const { sharedFrom = step.sharedFrom ?? null, ...rest } = operation.changes;
      const { sharedFrom: _before, ...bare } = { ...step, ...rest };
      const changed: Step = sharedFrom === null ? bare : { ...bare, sharedFrom };
      const before = { ...previous(step, rest), ...('sharedFrom' in operation.changes ? { sharedFrom: step.sharedFrom ?? null } : {}) };
      return {
        graph: { ...graph, steps: graph.steps.map((each) => (each.id === step.id ? changed : each)) },
        inverse: { kind: 'changeStep', stepId: step.id, changes: before },
      };
    }
    case 'addRoute': {
      const { route } = operation;
      if (graph.routes.some(({ id }) => id === route.id)) throw new RangeError('This route is on the map already.');
      return { graph: { ...graph, routes: [...graph.routes, route] }, inverse: { kind: 'removeRoute', routeId: route.id } };
    }
    case 'removeRoute': {
      const route = routeOf(graph, operation.routeId);
      return { graph: { ...graph, routes: graph.routes.filter(({ id }) => id !== route.id) }, inverse: { kind: 'addRoute', route } };
    }
    case 'changeRoute': {
      const route = routeOf(graph, operation.routeId);
      const { condition = route.condition ?? null, ...rest } = operation.changes;
      const { condition: _before, ...bare } = { ...route, ...rest };
      const changed: Route = condition === null ? bare : { ...bare, condition };
      const before = { ...previous(route, rest), ...('condition' in operation.changes ? { condition: route.condition ?? null } : {}) };
      return {
        graph: { ...graph, routes: graph.routes.map((each) => (each.id === route.id ? changed : each)) },
        inverse: { kind: 'changeRoute', routeId: route.id, changes: before },
      };
    }
    case 'setEntry': {
      const step = stepOf(graph, operation.stepId);
      return { graph: { ...graph, entryId: step.id }, inverse: { kind: 'setEntry', stepId: graph.entryId } };
    }
    default:
      return operation satisfies never;
  }
}

/** The values that `changes` is about to replace. */
function previous<T extends object, C extends Partial<T>>(before: T, changes: C): { [K in keyof C & keyof T]: T[K] } {
  return Object.fromEntries(Object.keys(changes).map((key) => [key, before[key as keyof T]])) as { [K in keyof C & keyof T]: T[K] };
}

function stepOf(graph: Graph, id: string): Step {
  const step = graph.steps.find((candidate) => candidate.id === id);
  if (!step) throw new RangeError('This stop is not on the map any more.');
  return step;
}

function routeOf(graph: Graph, id: string): Route {
  const route = graph.routes.find((candidate) => candidate.id === id);
  if (!route) throw new RangeError('This route is not on the map any more.');
  return route;
}

function checkRoute(graph: Graph, { from, to }: Route): void {
  const [begin, end] = [stepOf(graph, from), stepOf(graph, to)];
  if (begin.id === end.id) throw new RangeError(`“${begin.name}” cannot lead to itself.`);
}
