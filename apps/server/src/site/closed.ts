import { nextStep, type Product } from '@ruta/core';
import type { Closed } from '../catalog/availability';
import type { Services } from '../services';
import { stepPath } from './context';
import type { LiveStep } from './publicPages';

/**
 * Where somebody goes who comes for a product that cannot be bought: along the stop's own route for it, if one is drawn;
 * else where the seller chose on the product. Without an address they are told in words.
 */
export function closedAnswer(services: Services, live: LiveStep, product: Product, closed: Closed): { url: string | null; message: string } {
  const routed = nextStep(live.publication.snapshot.graph, live.step.id, 'closed', { ownsProducts: [], boughtProducts: [], tags: [] });
  if (routed) return { url: stepPath({ ...live, step: routed.step }), message: closed.message };
  const { leadTo } = product;
  switch (leadTo.kind) {
    case 'address':
      return { url: leadTo.url, message: closed.message };
    case 'funnel': {
      const publication = services.publicPages.all().find((candidate) => candidate.funnelId === leadTo.funnelId);
      // A funnel that is not live, or is this one, would lead in a circle or nowhere.
      const elsewhere = publication && publication.funnelId !== live.publication.funnelId;
      return { url: elsewhere ? `/${publication.snapshot.slug}` : null, message: closed.message };
    }
    case 'message':
      return { url: null, message: leadTo.text || closed.message };
  }
}
