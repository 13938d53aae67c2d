import { checkFunnel, type Problem } from '@ruta/core/checks';
import { productsAsked } from '@ruta/core/conditions';
import { offeredProducts } from '@ruta/core/offers';
import { conditionsOn } from '@ruta/core/page';
import { followPublication } from '../arms/rounds';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { findProducts, productsWith } from '../catalog/store';
import { waitingHosts } from '../domains/store';
import { publishFunnel } from '../funnel/service';
import { type FunnelState, latestPublications, loadFunnel } from '../funnel/store';
import { publishSections } from '../page/ownSections';
import { takesCards } from '../payments/accounts';
import { loadShop } from '../shop/store';

/** Every product that a funnel names: what its stops sell and give, what its conditions ask for, and the parts of bundles; by id. */
export function productsOf({ db }: Pick<Services, 'db'>, { graph, funnel, steps }: Pick<FunnelState, 'graph' | 'funnel' | 'steps'>) {
  const conditions = [
    ...graph.steps.flatMap((step) => step.sells.map((offer) => offer.condition)),
    ...graph.routes.map((route) => route.condition),
    ...steps.flatMap((step) => conditionsOn(step.draft)),
  ];
  const asked = conditions.flatMap((condition) => (condition ? productsAsked(condition) : []));
  const ids = new Set([
    ...graph.steps.flatMap(offeredProducts),
    ...(funnel.giftId ? [funnel.giftId] : []),
    ...asked.flatMap((what) => (what.by === 'product' ? [what.productId] : [])),
    ...productsWith(
      db,
      asked.flatMap((what) => (what.by === 'edition' ? [what.editionId] : what.by === 'price' ? [what.priceId] : [])),
    ),
  ]);
  const named = findProducts(db, [...ids]);
  const parts = findProducts(
    db,
    named.flatMap((product) => product.bundle.map((part) => part.productId)),
  );
  return Object.fromEntries([...named, ...parts].map((product) => [product.id, product]));
}

/** What keeps a funnel from going live, and what is worth knowing before it does. */
export function problemsOf(services: Pick<Services, 'db'>, state: FunnelState, products = productsOf(services, state)): Problem[] {
  const shop = loadShop(services.db);
  return checkFunnel({
    graph: state.graph,
    pages: Object.fromEntries(state.steps.map((step) => [step.id, step.draft])),
    products,
    shop,
    waitingDomains: waitingHosts(services.db, state.funnel.id),
    takesCards: takesCards(services, shop.settings.mode),
  });
}

/** Puts the funnel live as it stands. @throws Refusal 409 naming each problem that stands in the way */
export function publish(services: Pick<Services, 'db' | 'clock' | 'changes'>, funnelId: string, userId: string | null): number {
  const state = loadFunnel(services.db, funnelId);
  const blocking = problemsOf(services, state).filter((problem) => problem.severity === 'blocking');
  if (blocking.length > 0) {
    throw new Refusal(
      409,
      'This funnel cannot go live yet.',
      blocking.map((problem) => ({ path: problem.stepId ?? '', message: problem.message })),
    );
  }
  return publishFunnel(services, state, userId, (tx, snapshot) => {
    publishSections(tx, services, state.funnel.id, snapshot, userId);
    for (const publication of latestPublications(tx)) followPublication(services, tx, publication);
  });
}
