import { evaluate } from '../conditions';
import type { Facts } from '../facts';
import type { Graph, Route, Step } from './funnel';
import type { Outcome } from './stepKind';

/** What moves somebody on from a step. */
export interface Move {
  outcome: Outcome;
  /** Where the button itself leads, whatever the routes say. */
  to?: { stepId: string } | { address: string } | undefined;
  /** An address outside the funnel that is meant once the funnel itself has nothing more to offer. */
  afterwards?: string | undefined;
}

/** Where somebody goes. */
export type NextStep =
  | { kind: 'step'; step: Step; route: Route | null }
  /** Out of the funnel. */
  | { kind: 'address'; url: string }
  /** Nothing leads on: they stay, and are told so. */
  | { kind: 'stay'; step: Step };

/**
 * Where a person goes from a step: the one place that decides it, asked by buttons, forms, payments, closed products,
 * the return from a bank, the map and every check. In this order:
 * 1. where a button itself leads: an address, or a step that the funnel still has;
 * 2. the first route of the outcome, by priority, whose condition holds; who is led to the end by it goes to the
 *    outside address instead, if one is meant;
 * 3. no to an offer where no route is drawn: along its yes, so that nobody is stuck; an offer that has closed, or is not
 *    made to this buyer: along its no, then its yes;
 * 4. the outside address;
 * 5. after paying, the first thank-you page;
 * 6. where they are.
 * @throws RangeError if the funnel has no step of this id
 */
export function nextStep(graph: Graph, fromId: string, move: Move, facts: Facts): NextStep {
  const from = graph.steps.find((step) => step.id === fromId);
  if (!from) throw new RangeError(`This funnel has no step ${fromId}.`);
  const { to, outcome, afterwards } = move;
  if (to && 'address' in to) return { kind: 'address', url: to.address };
  const named = to && graph.steps.find((step) => step.id === to.stepId);
  if (named) return { kind: 'step', step: named, route: null };

  const isPassed = outcome === 'closed' && from.kind === 'offer';
  const ways: readonly Outcome[] = isPassed ? ['closed', 'declined', 'accepted'] : outcome === 'declined' ? ['declined', 'accepted'] : [outcome];
  let routed: ReturnType<typeof along>;
  for (const way of ways) routed ??= along(graph, fromId, way, facts);
  if (routed && !(afterwards !== undefined && routed.step.kind === 'thank-you')) return { kind: 'step', ...routed };
  if (afterwards !== undefined) return { kind: 'address', url: afterwards };

  const isDone = outcome === 'paid' || outcome === 'accepted' || outcome === 'declined' || isPassed;
  const end = isDone ? graph.steps.find((step) => step.kind === 'thank-you' && step.id !== fromId) : undefined;
  return end ? { kind: 'step', step: end, route: null } : { kind: 'stay', step: from };
}

/** The first route of an outcome that holds and leads somewhere. */
function along(graph: Graph, fromId: string, outcome: Outcome, facts: Facts): { step: Step; route: Route } | undefined {
  const routes = graph.routes.filter((route) => route.from === fromId && route.outcome === outcome).sort((a, b) => a.priority - b.priority);
  for (const route of routes) {
    if (route.condition && !evaluate(route.condition, facts)) continue;
    const step = graph.steps.find((candidate) => candidate.id === route.to);
    if (step) return { step, route };
  }
  return undefined;
}
