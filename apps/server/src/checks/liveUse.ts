import { type LiveUse, productLabel } from '@ruta/core/catalog';
import { findProducts } from '../catalog/store';
import type { LiveServices } from '../funnel/live';

/** Live funnels that sell or give some products: what archiving them would close at once. */
export function liveUse({ db, live }: Pick<LiveServices, 'db' | 'live'>, productIds: readonly string[]): LiveUse[] {
  const names = new Map(findProducts(db, productIds).map((product) => [product.id, productLabel(product)]));
  return live.all().flatMap(({ snapshot }) => {
    const sold = new Set([
      ...snapshot.graph.steps.flatMap((step) => step.sells.map((offer) => offer.productId)),
      ...(snapshot.giftId ? [snapshot.giftId] : []),
    ]);
    return [...names].filter(([id]) => sold.has(id)).map(([productId, productName]) => ({ productId, productName, funnelName: snapshot.name }));
  });
}
