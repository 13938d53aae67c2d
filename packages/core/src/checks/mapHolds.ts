import { type Condition, isSubject, productsAsked, stepsAsked } from '../conditions';
import { type Graph, longestWay, mapPaths, routesFor, stepKindOf } from '../funnel';
import { mainOffers } from '../offers';
import { conditionsOn, type PageDocument } from '../page';
import type { Check, CheckedFunnel } from './check';

const leadsOn = (graph: Graph, stepId: string) => mapPaths(graph).from.get(stepId) ?? [];

/** How many pages of a funnel name each stop, and which stops each page names. */
interface Named {
  count: Map<string, number>;
  of: Map<PageDocument, Set<string>>;
}
const named = new WeakMap<CheckedFunnel['pages'], Named>();

/** The stops that pages name, in their buttons and links; each page is looked through once. */
function stopsNamed(pages: CheckedFunnel['pages']): Named {
  let found = named.get(pages);
  if (!found) {
    found = { count: new Map(), of: new Map() };
    for (const page of Object.values(pages)) {
      const ids = new Set(JSON.stringify(page).match(/stp_[0-9a-z]+/g) ?? []);
      found.of.set(page, ids);
      for (const id of ids) found.count.set(id, (found.count.get(id) ?? 0) + 1);
    }
    named.set(pages, found);
  }
  return found;
}

/** A stop that no route leads to: nobody comes there but by a link. */
export const unreachable: Check = {
  check: 'unreachable',
  severity: 'warning',
  find: ({ step, page, funnel: { graph, pages } }) => {
    if (step.id === graph.entryId || mapPaths(graph).reached.has(step.id)) return [];
    const { count, of } = stopsNamed(pages);
    const isLinked = (count.get(step.id) ?? 0) > Number(of.get(page)?.has(step.id) ?? false);
    return isLinked ? [] : ['No route leads here, so that nobody is led to this stop.'];
  },
};

/** A stop from which nothing leads on, though people are meant to go on. */
export const noWayOn: Check = {
  check: 'no-way-on',
  severity: 'warning',
  find: ({ step, funnel: { graph } }) => {
    const { goal, outcomes } = stepKindOf(step.kind);
    if (outcomes.length === 0 || routesFor(graph, step.id, goal.outcome).length > 0) return [];
    const hasEnd = graph.steps.some((candidate) => candidate.kind === 'thank-you');
    if (hasEnd && (goal.outcome === 'paid' || goal.outcome === 'accepted')) return [];
    return ['Nothing leads on from here. Draw where people go next.'];
  },
};

/** Routes by which a buyer would come back to an offer they have answered. */
export const loop: Check = {
  check: 'loop',
  severity: 'blocking',
  find: ({ step, funnel: { graph } }) => {
    return mapPaths(graph).inCircle.has(step.id) ? ['Routes lead in a circle back to here. Lead one of them on to something else.'] : [];
  },
};

/** A condition on a product, an edition or a price that is gone holds for nobody any more. */
export const conditionOnNothing: Check = {
  check: 'condition-on-nothing',
  severity: 'warning',
  find: ({ step, page, funnel }) => {
    const conditions = [
      ...conditionsOn(page),
      ...step.sells.map((offer) => offer.condition),
      ...leadsOn(funnel.graph, step.id).map((route) => route.condition),
    ];
    const asks = (isGone: (condition: Condition) => boolean) => conditions.some((condition) => condition && isGone(condition));
    return [
      ...(asks((condition) => productsAsked(condition).some((asked) => !isSubject(asked, funnel.products)))
        ? ['A condition here asks for a product, edition or price that is gone, so that it holds for nobody.']
        : []),
      ...(asks((condition) =>
        stepsAsked(condition).some((stepId) => !funnel.graph.steps.some(({ id }) => id === stepId) && !funnel.otherSteps.includes(stepId)),
      )
        ? ['A condition here asks for a step that is gone, so that it is true for nobody.']
        : []),
    ];
  },
};

/** Something offered after the payment to those who have just bought it. */
export const justBought: Check = {
  check: 'just-bought',
  severity: 'warning',
  find: ({ step, funnel: { graph, products } }) => {
    if (step.kind !== 'offer') return [];
    const sold = graph.steps.filter((candidate) => candidate.kind === 'checkout').flatMap((candidate) => mainOffers(candidate).map((offer) => offer.productId));
    return mainOffers(step).flatMap((offer) =>
      sold.includes(offer.productId) && products[offer.productId]?.buyAgain === false
        ? [`“${products[offer.productId]?.name}” was just bought at the checkout and can be bought once only, so that everybody passes this offer.`]
        : [],
    );
  },
};

/** More than two offers on one path after the payment; a downsell after its upsell counts as one with it. */
export const manyOffers: Check = {
  check: 'many-offers',
  severity: 'warning',
  find: ({ step, funnel: { graph } }) => {
    if (step.kind !== 'checkout') return [];
    const most = longestWay(graph, step.id, ({ outcome }, here, there) => {
      const isDownsell = here?.kind === 'offer' && outcome === 'declined';
      return there?.kind === 'offer' && !isDownsell ? 1 : 0;
    });
    return most > 2 ? [`A buyer can be shown ${most} offers after the payment. More than two annoys more than it earns.`] : [];
  },
};
