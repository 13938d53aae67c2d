import type { Facts } from '../conditions';
import { evaluate } from '../conditions';
import type { Graph, Outcome, Route, Step } from './funnel';

export interface NextStep {
  step: Step;
  route: Route;
}

/**
 * Where a person goes from a step on an outcome: the first route by priority whose condition holds. This is the only
 * place that decides it; the public site, the map and every check ask here.
 * @returns undefined if no route fits, so that the person stays where they are
 */
export function nextStep(graph: Graph, fromId: string, outcome: Outcome, facts: Facts): NextStep | undefined {
  const routes = graph.routes.filter((route) => route.from === fromId && route.outcome === outcome).sort((a, b) => a.priority - b.priority);
  for (const route of routes) {
    if (route.condition && !evaluate(route.condition, facts)) continue;
    const step = graph.steps.find((candidate) => candidate.id === route.to);
    if (step) return { step, route };
  }
  return undefined;
}

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

/** The bands of the map, in order, and the kinds of step that stand in each. */
export const BANDS = [
  { name: 'Arrive', kinds: ['opt-in'] },
  { name: 'Decide', kinds: ['sales'] },
  { name: 'Pay', kinds: ['checkout'] },
  { name: 'Add', kinds: ['offer'] },
  { name: 'Receive', kinds: ['thank-you'] },
] as const;

/** Which band a step stands in: where people arrive is always the first. */
export function bandOf(graph: Graph, step: Step): number {
  if (step.id === graph.entryId) return 0;
  return BANDS.findIndex((band) => (band.kinds as readonly string[]).includes(step.kind));
}
