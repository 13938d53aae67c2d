import type { Graph, GraphOperation } from '@ruta/core/funnel';
import { equal } from '@ruta/core/json';

/** What an operation changes, as it stands in a graph; undefined for what is new. */
function subject(operation: GraphOperation, graph: Graph): unknown {
  switch (operation.kind) {
    case 'changeStep':
    case 'removeStep':
      return graph.steps.find((step) => step.id === operation.stepId);
    case 'changeRoute':
    case 'removeRoute':
      return graph.routes.find((route) => route.id === operation.routeId);
    case 'setEntry':
      return graph.entryId;
    case 'addStep':
    case 'addRoute':
      return undefined;
    default:
      return operation satisfies never;
  }
}

/** Whether something that operations change was changed by somebody else between two states of the map. */
export function touchesTheSame(operations: readonly GraphOperation[], before: Graph, now: Graph): boolean {
  return operations.some((operation) => !equal(subject(operation, before), subject(operation, now)));
}
