import { checkFunnel, type Problem } from '@ruta/core/checks';
import { type Condition, productsAsked, stepsAsked } from '@ruta/core/conditions';
import { offeredProducts } from '@ruta/core/offers';
import { conditionsOn } from '@ruta/core/page';
import { notInArray } from 'drizzle-orm';
import type { Services } from '../base/services';
import { findProducts, productsWith } from '../catalog/store';
import { products } from '../catalog/tables';
import { waitingHosts } from '../domains/store';
import { type FunnelState, stepsNamed } from '../funnel/store';
import { takesCards } from '../payments/accounts';
import { loadShop } from '../shop/store';

/** Every condition of a funnel: of its offers, its routes and its pages. */
const conditionsOf = ({ graph, steps }: Pick<FunnelState, 'graph' | 'steps'>): Condition[] =>
  [
    ...graph.steps.flatMap((step) => step.sells.map((offer) => offer.condition)),
    ...graph.routes.map((route) => route.condition),
    ...steps.flatMap((step) => conditionsOn(step.draft)),
  ].filter((condition) => condition != null);

/** Every product that a funnel names: what its stops sell and give, what its conditions ask for, and the parts of bundles; by id. */
export function productsOf({ db }: Pick<Services, 'db'>, { graph, funnel, steps }: Pick<FunnelState, 'graph' | 'funnel' | 'steps'>) {
  const asked = conditionsOf({ graph, steps }).flatMap(productsAsked);
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

/** The names of all products but some, each once. */
const otherNames = (db: Services['db'], ids: readonly string[]): string[] =>
  db
    .selectDistinct({ name: products.name })
    .from(products)
    .where(notInArray(products.id, [...ids]))
    .all()
    .map(({ name }) => name);

/** What keeps a funnel from going live, and what is worth knowing before it does. */
export function problemsOf(services: Pick<Services, 'db'>, state: FunnelState, named = productsOf(services, state)): Problem[] {
  const shop = loadShop(services.db);
  return checkFunnel({
    graph: state.graph,
    pages: Object.fromEntries(state.steps.map((step) => [step.id, step.draft])),
    products: named,
    shop,
    otherNames: otherNames(services.db, Object.keys(named)),
    otherSteps: stepsNamed(services.db, conditionsOf(state).flatMap(stepsAsked)).map(({ id }) => id),
    waitingDomains: waitingHosts(services.db, state.funnel.id),
    takesCards: takesCards(services, shop.settings.mode),
  });
}
