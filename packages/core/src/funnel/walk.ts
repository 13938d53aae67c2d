import { z } from 'zod';
import { FactsSchema } from '../facts';
import { type Graph, GraphSchema, type Route, type Step, StepSchema } from './funnel';
import { nextStep } from './nextStep';
import { type Outcome, OutcomeSchema } from './stepKind';
import { stepKindOf } from './stepKinds';

/** A funnel, what is known of a buyer, and what they answer at each stop (by step id; a stop's last answer repeats). */
export const WalkInputSchema = z.object({
  graph: GraphSchema,
  facts: FactsSchema.prefault({}),
  answers: z.record(z.string(), OutcomeSchema),
});
export type WalkInput = z.infer<typeof WalkInputSchema>;

export const WalkSchema = z.object({
  stops: z.array(z.object({ step: StepSchema, outcome: OutcomeSchema.nullable(), routeId: z.string().nullable() })),
  ended: z.enum(['no answer', 'no route', 'loop']),
});
export type Walk = z.infer<typeof WalkSchema>;

/**
 * Walks a funnel from its entry as one buyer would: at each stop the given answer, then `nextStep`. Ends where no
 * answer is given, no route fits, or a stop comes round again.
 * @throws RangeError if the entry is not among the steps
 */
export function walkFunnel({ graph, facts, answers }: WalkInput): Walk {
  const stops: Walk['stops'] = [];
  const seen = new Set<string>();
  const entry = graph.steps.find((candidate) => candidate.id === graph.entryId);
  if (!entry) throw new RangeError('The entry is not among the funnel’s steps.');
  let step: Step = entry;
  for (;;) {
    if (seen.has(step.id)) return { stops, ended: 'loop' };
    seen.add(step.id);
    const outcome: Outcome | null = answers[step.id] ?? null;
    const next = outcome ? nextStep(graph, step.id, { outcome }, facts) : null;
    const led = next?.kind === 'step' ? next : null;
    stops.push({ step, outcome, routeId: led?.route?.id ?? null });
    if (!led) return { stops, ended: outcome ? 'no route' : 'no answer' };
    step = led.step;
  }
}

/**
 * Whether everybody who reaches a step's goal leaves along a route: then, and only then, the step's rate is the route's
 * own. A "no" has none, nor has one of several ways that a condition tells apart.
 */
export function carriesGoal(graph: Pick<Graph, 'steps' | 'routes'>, route: Pick<Route, 'id' | 'from' | 'outcome'>): boolean {
  const step = graph.steps.find((candidate) => candidate.id === route.from);
  if (!step || stepKindOf(step.kind).goal.outcome !== route.outcome) return false;
  return graph.routes.every((other) => other.id === route.id || other.from !== route.from || other.outcome !== route.outcome);
}
