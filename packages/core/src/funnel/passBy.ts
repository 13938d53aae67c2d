import type { Facts } from '../facts';
import type { Graph, Route, Step } from './funnel';
import { type NextStep, nextStep } from './nextStep';

export interface Arrival {
  next: NextStep;
  /** The routes that lead there, in their order: several where offers were passed by. */
  routes: Route[];
}

/**
 * Where somebody really arrives: an offer that is not made to them is passed by, along its own route for that, else as
 * if they had said no. Every walk ends, since no stop is passed twice: who would go round in a circle stays at the end of it.
 * @param isOpen whether a step has anything to offer this buyer
 * @param afterwards an address outside the funnel that is meant once the funnel itself has nothing more to offer
 */
export function passBy(graph: Graph, arrived: NextStep, facts: Facts, isOpen: (step: Step) => boolean, afterwards?: string): Arrival {
  const passed = new Set<string>();
  const routes: Route[] = [];
  let next = arrived;
  const follow = () => {
    if (next.kind === 'step' && next.route) routes.push(next.route);
  };
  follow();
  while (next.kind === 'step' && next.step.kind === 'offer' && !passed.has(next.step.id) && !isOpen(next.step)) {
    passed.add(next.step.id);
    next = nextStep(graph, next.step.id, { outcome: 'closed', afterwards }, facts);
    follow();
  }
  if (next.kind !== 'step' || !passed.has(next.step.id)) return { next, routes };
  // In a circle of offers that are all closed the way out is the first thank-you page.
  const end = graph.steps.find((step) => step.kind === 'thank-you');
  if (afterwards !== undefined) return { next: { kind: 'address', url: afterwards }, routes };
  return { next: end ? { kind: 'step', step: end, route: null } : { kind: 'stay', step: next.step }, routes };
}
