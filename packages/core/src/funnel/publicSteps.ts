import type { Graph, Step } from './funnel';
import { stepKindOf } from './stepKinds';

/** Steps whose address can be passed on: what others may come to from outside. */
export const publicSteps = ({ steps }: Pick<Graph, 'steps'>): Step[] => steps.filter(({ kind }) => stepKindOf(kind).isPublic);

/**
 * The step whose address a share box passes on: the one that was chosen, as long as it is public, else the first page of
 * the funnel. A page of thanks belongs to whoever has ordered.
 */
export function sharedStep(graph: Pick<Graph, 'steps' | 'entryId'>, chosenId: string | null): Step | undefined {
  return publicSteps(graph).find(({ id }) => id === chosenId) ?? graph.steps.find(({ id }) => id === graph.entryId);
}

/**
 * Whether a step shows thanks for an order, so that it has nothing to say to somebody without one. Who has left an address on
 * a form may be thanked for that.
 * @param isLead whether the visitor is known from a form
 */
export function thanksForOrder(graph: Pick<Graph, 'steps' | 'entryId'>, step: Pick<Step, 'id' | 'kind'>, isLead: boolean): boolean {
  if (step.kind !== 'thank-you' || step.id === graph.entryId) return false;
  const records = graph.steps.map(({ kind }) => stepKindOf(kind));
  if (!records.some(({ sells }) => sells === 'order')) return false;
  return !(isLead && records.some(({ goal }) => goal.event === 'lead.submitted'));
}
