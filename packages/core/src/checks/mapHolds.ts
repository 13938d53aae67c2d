import { isSubject, productsAsked } from '../conditions';
import { type Graph, routesFor, stepKindOf } from '../funnel';
import { mainOffers } from '../offers';
import { conditionsOn } from '../page';
import type { Check } from './check';

const leadsOn = ({ routes }: Graph, stepId: string) => routes.filter((route) => route.from === stepId);

/** A stop that no route leads to: nobody comes there but by a link. */
export const unreachable: Check = {
  check: 'unreachable',
  severity: 'warning',
  find: ({ step, page, funnel: { graph, pages } }) => {
    if (step.id === graph.entryId || graph.routes.some((route) => route.to === step.id)) return [];
    const isLinked = Object.values(pages).some((other) => other !== page && JSON.stringify(other).includes(step.id));
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
    if (step.kind !== 'offer' && step.kind !== 'checkout') return [];
    const seen = new Set<string>();
    const waiting = leadsOn(graph, step.id).map((route) => route.to);
    for (let id = waiting.pop(); id !== undefined; id = waiting.pop()) {
      if (id === step.id) return ['Routes lead in a circle back to here. Lead one of them on to something else.'];
      if (seen.has(id)) continue;
      seen.add(id);
      const there = graph.steps.find((candidate) => candidate.id === id);
      if (there?.kind === 'offer' || there?.kind === 'checkout') waiting.push(...leadsOn(graph, id).map((route) => route.to));
    }
    return [];
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
    return conditions.some((condition) => condition && productsAsked(condition).some((asked) => !isSubject(asked, funnel.products)))
      ? ['A condition here asks for a product, edition or price that is gone, so that it holds for nobody.']
      : [];
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
    const longest = (id: string, seen: ReadonlySet<string>): number => {
      if (seen.has(id)) return 0;
      const here = graph.steps.find((candidate) => candidate.id === id);
      const next = new Set([...seen, id]);
      return Math.max(
        0,
        ...leadsOn(graph, id).map((route) => {
          const there = graph.steps.find((candidate) => candidate.id === route.to);
          const isDownsell = here?.kind === 'offer' && route.outcome === 'declined';
          return (there?.kind === 'offer' && !isDownsell ? 1 : 0) + longest(route.to, next);
        }),
      );
    };
    const most = longest(step.id, new Set());
    return most > 2 ? [`A buyer can be shown ${most} offers after the payment. More than two annoys more than it earns.`] : [];
  },
};
