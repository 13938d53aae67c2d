import { applyToGraph, type Graph } from '@ruta/core/funnel';
import { equal } from '@ruta/core/json';
import { touchesTheSame } from './touches';
import type { UnsavedMap } from './unsavedMap';

/** A map whose parts are found by their ids: the order in which they are listed says nothing. */
const byId = ({ entryId, steps, routes }: Graph) => ({
  entryId,
  steps: Object.fromEntries(steps.map((step) => [step.id, step])),
  routes: Object.fromEntries(routes.map((route) => [route.id, route])),
});

/**
 * How what waits stands to the map that the server has by now: it arrived although no answer came, it can follow what
 * somebody else did, or both changed the same thing and a person decides.
 */
export function standingOfMap({ graph, waiting }: Pick<UnsavedMap, 'graph' | 'waiting'>, theirs: Graph): 'arrived' | 'follows' | 'conflicts' {
  const operations = waiting.flatMap((change) => change.operations);
  try {
    if (equal(byId(applyToGraph(graph, operations).graph), byId(theirs))) return 'arrived';
    applyToGraph(theirs, operations);
  } catch {
    return 'conflicts';
  }
  return touchesTheSame(operations, graph, theirs) ? 'conflicts' : 'follows';
}
