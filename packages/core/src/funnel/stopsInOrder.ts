import type { Graph, Step } from './funnel';
import { BANDS } from './stepKind';
import { stepKindOf } from './stepKinds';

/**
 * The stops of a funnel in the order people pass them: a walk along the routes from the entry, breadth first,
 * a step's goal route before the others; steps that no route reaches come last.
 */
export function stopsInOrder(graph: Graph): Step[] {
  const byId = new Map(graph.steps.map((step) => [step.id, step]));
  const order: Step[] = [];
  const seen = new Set<string>();
  const waiting = [graph.entryId];
  while (waiting.length > 0) {
    const id = waiting.shift() as string;
    const step = byId.get(id);
    if (!step || seen.has(id)) continue;
    seen.add(id);
    order.push(step);
    const onward = graph.routes.filter((route) => route.from === id);
    onward.sort((a, b) => Number(a.outcome === 'declined') - Number(b.outcome === 'declined') || a.priority - b.priority);
    waiting.push(...onward.map((route) => route.to));
  }
  return [...order.filter((step) => step.kind !== 'thank-you'), ...order.filter((step) => step.kind === 'thank-you')].concat(
    graph.steps.filter((step) => !seen.has(step.id)),
  );
}

/** Which band of the map a step stands in: where people arrive is always the first. */
export function bandOf(graph: Graph, step: Step): number {
  return step.id === graph.entryId ? 0 : BANDS.indexOf(stepKindOf(step.kind).band);
}
