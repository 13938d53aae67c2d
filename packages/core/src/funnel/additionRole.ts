import type { Graph, Step } from './funnel';

/**
 * In what role something is added at an offer: as a downsell where one only comes after a no to another offer, else as
 * an upsell.
 */
export function additionRole({ steps, routes }: Pick<Graph, 'steps' | 'routes'>, stepId: string): 'upsell' | 'downsell' {
  const into = routes.filter((route) => route.to === stepId);
  const isAfterNo = (route: (typeof into)[number]) => route.outcome === 'declined' && steps.find((step) => step.id === route.from)?.kind === 'offer';
  return into.length > 0 && into.every(isAfterNo) ? 'downsell' : 'upsell';
}

/** In what role a stop sells something: beside the payment, after it, or as what the funnel is about. */
export function offerRole(graph: Pick<Graph, 'steps' | 'routes'>, step: Pick<Step, 'id' | 'kind'>, { place }: Pick<Step['sells'][number], 'place'>) {
  if (place === 'bump') return 'bump' as const;
  return step.kind === 'offer' ? additionRole(graph, step.id) : ('main' as const);
}

/** Whether offers can follow a step, so that the method that pays there is worth keeping. */
export function leadsToOffers({ steps, routes }: Pick<Graph, 'steps' | 'routes'>, fromId: string): boolean {
  const reached = new Set<string>([fromId]);
  for (const id of reached) for (const route of routes) if (route.from === id) reached.add(route.to);
  return steps.some((step) => step.kind === 'offer' && step.id !== fromId && reached.has(step.id));
}
