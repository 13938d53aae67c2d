import type { Product } from '@ruta/core/catalog';
import type { Facts } from '@ruta/core/facts';
import { nextStep } from '@ruta/core/funnel';
import type { Closed } from '../catalog/availability';
import { type LiveServices, type LiveStep, stepPath } from '../funnel/live';

/**
 * Where somebody goes who comes for a product that cannot be bought: along the stop's own route for it, if one is drawn;
 * else where the seller chose on the product. Without an address they are told in words.
 */
export function closedAnswer(
  services: Pick<LiveServices, 'live'>,
  live: LiveStep,
  product: Product,
  closed: Closed,
  facts: Facts,
): { url: string | null; message: string } {
  const { leadTo } = product;
  const afterwards = leadTo.kind === 'address' ? leadTo.url : leadTo.kind === 'funnel' ? funnelPath(services, live, leadTo.funnelId) : undefined;
  const next = nextStep(live.publication.snapshot.graph, live.step.id, { outcome: 'closed', afterwards }, facts);
  const message = leadTo.kind === 'message' && leadTo.text ? leadTo.text : closed.message;
  if (next.kind === 'step') return { url: stepPath({ ...live, step: next.step }), message: closed.message };
  return next.kind === 'address' ? { url: next.url, message: closed.message } : { url: null, message };
}

/** Where a funnel begins. One that is not live, or is this one, would lead in a circle or nowhere. */
function funnelPath({ live: funnels }: Pick<LiveServices, 'live'>, live: LiveStep, funnelId: string): string | undefined {
  const publication = funnels.all().find((candidate) => candidate.funnelId === funnelId);
  return publication && publication.funnelId !== live.publication.funnelId ? `/${publication.snapshot.slug}` : undefined;
}
