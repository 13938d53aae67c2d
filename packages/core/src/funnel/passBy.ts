import type { Facts } from '../facts';
import type { Graph, Step } from './funnel';
import { type NextStep, nextStep } from './nextStep';

/**
 * Where somebody really arrives: an offer that is not made to them is passed by, along its own route for that, else as
 * if they had said no. Every walk ends, since no stop is passed twice: who would go round in a circle stays at the end of it.
 * @param isOpen whether a step has anything to offer this buyer
 * @param afterwards an address outside the funnel that is meant once the funnel itself has nothing more to offer
 */
export function passBy(graph: Graph, arrived: NextStep, facts: Facts, isOpen: (step: Step) => boolean, afterwards?: string): NextStep {
  const passed = new Set<string>();
  let next = arrived;
  while (next.kind === 'step' && next.step.kind === 'offer' && !passed.has(next.step.id) && !isOpen(next.step)) {
    passed.add(next.step.id);
    const { step } = next;
    next = nextStep(graph, step.id, { outcome: 'closed', afterwards }, facts);
  }
  if (next.kind !== 'step' || !passed.has(next.step.id)) return next;
  // In a circle of offers that are all closed the way out is the first thank-you page.
  const end = graph.steps.find((step) => step.kind === 'thank-you');
  if (afterwards !== undefined) return { kind: 'address', url: afterwards };
  return end ? { kind: 'step', step: end, route: null } : { kind: 'stay', step: next.step };
}
