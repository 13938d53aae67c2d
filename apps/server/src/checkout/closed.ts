import type { Product } from '@ruta/core/catalog';
import type { Facts } from '@ruta/core/facts';
import { nextStep } from '@ruta/core/funnel';
import { type Offer, offerAt } from '@ruta/core/offers';
import { type Closed, closedBecause } from '../catalog/availability';
import { type LiveServices, type LiveStep, stepPath } from '../funnel/live';

/** Why what a checkout is about cannot be bought there now: its offer has ended, or its product is not on sale; undefined if it can. */
export function closedHere(services: Pick<LiveServices, 'db' | 'clock'>, product: Product, offer: Offer, cartId: string | null): Closed | undefined {
  if (offerAt(offer, null, services.clock.now()) === null) return { reason: 'closed', message: `${product.name} has closed.` };
  return closedBecause(services, product, cartId);
}

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
