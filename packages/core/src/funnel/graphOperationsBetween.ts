import { equal } from '../json';
import type { Graph, Route, Step } from './funnel';
import type { GraphOperation } from './graphOperation';

/**
 * The operations that make one map of another, each saying only what is different: applied in their order to `before` they
 * give `after`, but for the order in which stops and routes are listed.
 */
export function graphOperationsBetween(before: Graph, after: Graph): GraphOperation[] {
  const [oldSteps, newSteps] = [byId(before.steps), byId(after.steps)];
  const [oldRoutes, newRoutes] = [byId(before.routes), byId(after.routes)];
  return [
    ...after.steps.filter(({ id }) => !oldSteps.has(id)).map((step): GraphOperation => ({ kind: 'addStep', step })),
    ...after.steps.flatMap((step): GraphOperation[] => {
      const was = oldSteps.get(step.id);
      const changes = was && changedStep(was, step);
      return changes && Object.keys(changes).length > 0 ? [{ kind: 'changeStep', stepId: step.id, changes }] : [];
    }),
    ...(before.entryId === after.entryId ? [] : [{ kind: 'setEntry', stepId: after.entryId } as const]),
    ...before.routes.filter(({ id }) => !newRoutes.has(id)).map(({ id }): GraphOperation => ({ kind: 'removeRoute', routeId: id })),
    ...after.routes.flatMap((route): GraphOperation[] => {
      const was = oldRoutes.get(route.id);
      if (!was) return [{ kind: 'addRoute', route }];
      const changes = changedRoute(was, route);
      return Object.keys(changes).length > 0 ? [{ kind: 'changeRoute', routeId: route.id, changes }] : [];
    }),
    ...before.steps.filter(({ id }) => !newSteps.has(id)).map(({ id }): GraphOperation => ({ kind: 'removeStep', stepId: id })),
  ];
}

const byId = <T extends { id: string }>(list: readonly T[]) => new Map(list.map((each) => [each.id, each]));

function changedStep(was: Step, is: Step) {
  const [before, after] = [was, is].map(({ name, slug, sells, sharedFrom = null }) => ({ name, slug, sells, sharedFrom }));
  return changed(before as NonNullable<typeof before>, after as NonNullable<typeof after>);
}

function changedRoute(was: Route, is: Route) {
  const [before, after] = [was, is].map(({ from, to, outcome, priority, condition = null }) => ({ from, to, outcome, priority, condition }));
  return changed(before as NonNullable<typeof before>, after as NonNullable<typeof after>);
}

function changed<T extends object>(before: T, after: T): Partial<T> {
  return Object.fromEntries(Object.entries(after).filter(([key, value]) => !equal(value, before[key as keyof T]))) as Partial<T>;
}
