import { describe } from '../conditions';
import type { FactNames } from '../facts';
import { type Graph, OUTCOME_WORDS, type Route, type Step } from '../funnel';
import { equal } from '../json';
import type { Offer } from '../offers';
import { differences } from '../page';
import type { Shown } from './variant';

/** One thing that is different in an arm, in words. */
export interface ArmDifference {
  stepId: string;
  stop: string;
  what: string;
}

/** Everything that visitors of an arm find otherwise than in the original: pages first, then what is sold, then the ways on. */
export function armDifferences(original: Shown, variant: Shown, names: FactNames): ArmDifference[] {
  const before = new Map(original.graph.steps.map((step) => [step.id, step]));
  const at = (step: Step, what: string): ArmDifference => ({ stepId: step.id, stop: step.name, what });
  const ofPages = variant.graph.steps.flatMap((step) => {
    const [was, is] = [original.pages[step.id], variant.pages[step.id]];
    // What stands on a stop that only this arm has is told by that it is new.
    if (!was || !is) return [];
    return differences(was, is).map(({ section, what }) => at(step, section ? `${section}: ${what}` : what));
  });
  const ofStops = variant.graph.steps.flatMap((step) => {
    const was = before.get(step.id);
    if (!was) return [at(step, 'The stop is new')];
    return [
      ...(was.name === step.name ? [] : [at(step, `The stop is called “${step.name}”`)]),
      ...soldOtherwise(was, step, names).map((what) => at(step, what)),
    ];
  });
  const stays = new Set(variant.graph.steps.map(({ id }) => id));
  const gone = original.graph.steps.filter(({ id }) => !stays.has(id)).map((step) => at(step, 'The stop is left out'));
  return [...ofPages, ...ofStops, ...gone, ...routedOtherwise(original.graph, variant.graph, names).map(({ step, what }) => at(step, what))];
}

const asRole = (offer: Offer) => (offer.place === 'bump' ? 'order bump' : 'offer');

function soldOtherwise(was: Step, is: Step, names: FactNames): string[] {
  if (equal(was.sells, is.sells)) return [];
  const before = new Map(was.sells.map((offer) => [offer.id, offer]));
  const after = new Set(is.sells.map(({ id }) => id));
  const found = [
    ...is.sells.flatMap((offer) => {
      const earlier = before.get(offer.id);
      return earlier ? offeredOtherwise(earlier, offer, names) : [`The ${asRole(offer)} “${names.product(offer.productId)}” is new`];
    }),
    ...was.sells.filter(({ id }) => !after.has(id)).map((offer) => `The ${asRole(offer)} “${names.product(offer.productId)}” is left out`),
  ];
  return found.length > 0 ? found : ['What is sold stands in another order'];
}

/** What of an offer can differ, each in its own words. */
const OFFER_FIELDS: Array<{ fields: Array<keyof Offer>; words: (was: Offer, is: Offer, names: FactNames) => string }> = [
  { fields: ['productId'], words: (was, is, names) => `“${names.product(is.productId)}” instead of “${names.product(was.productId)}”` },
  { fields: ['editionId'], words: (_was, is, names) => (is.editionId ? `edition “${names.edition(is.editionId)}”` : 'every edition to choose from') },
  { fields: ['priceId'], words: (_was, is, names) => (is.priceId ? `price “${names.price(is.priceId)}”` : 'every price to choose from') },
  { fields: ['ownPrice'], words: (_was, is, names) => (is.ownPrice === null ? 'the catalog’s price' : `sold at ${names.money(is.ownPrice)}`) },
  {
    fields: ['discount'],
    words: (_was, { discount }, names) =>
      discount ? `${discount.kind === 'percent' ? `${discount.percent} %` : names.money(discount.amount)} off` : 'nothing off',
  },
  { fields: ['quantity', 'asksQuantity'], words: () => 'another quantity' },
  { fields: ['condition'], words: (_was, is, names) => (is.condition ? `only for buyers who ${describe(is.condition, names)}` : 'for every buyer') },
  { fields: ['deadline'], words: (_was, is) => (is.deadline ? 'another deadline' : 'no deadline') },
  { fields: ['words'], words: () => 'other words' },
  { fields: ['bump'], words: () => 'another look' },
  { fields: ['place'], words: (_was, is) => (is.place === 'bump' ? 'as an order bump' : 'as what the page is about') },
  { fields: ['confirms'], words: (_was, is) => (is.confirms ? 'asks once more' : 'does not ask once more') },
];

function offeredOtherwise(was: Offer, is: Offer, names: FactNames): string[] {
  return OFFER_FIELDS.filter(({ fields }) => fields.some((field) => !equal(was[field], is[field]))).map(
    ({ words }) => `The ${asRole(is)} “${names.product(was.productId)}”: ${words(was, is, names)}`,
  );
}

function routedOtherwise(before: Graph, after: Graph, names: FactNames): Array<{ step: Step; what: string }> {
  const known = new Map(before.routes.map((route) => [route.id, route]));
  const nameOf = (id: string) => [...after.steps, ...before.steps].find((step) => step.id === id)?.name ?? 'a stop that is gone';
  const own = new Set(before.steps.map(({ id }) => id));
  const who = (route: Route) => (route.condition ? `who ${describe(route.condition, names)}` : OUTCOME_WORDS[route.outcome]);
  const led = (route: Route): string | null => {
    const was = known.get(route.id);
    if (!was) return `${who(route)} → “${nameOf(route.to)}”`;
    if (was.to !== route.to) return `${who(route)} → “${nameOf(route.to)}” instead of “${nameOf(was.to)}”`;
    if (equal(was.condition, route.condition) && was.outcome === route.outcome && was.from === route.from)
      return was.priority === route.priority ? null : 'Routes are tried in another order';
    return `The route to “${nameOf(route.to)}” is for ${who(route)}`;
  };
  const stays = new Set(after.routes.map(({ id }) => id));
  const changed = [
    ...after.routes.flatMap((route) => ({ route, what: led(route) })),
    ...before.routes.filter(({ id }) => !stays.has(id)).map((route) => ({ route, what: `The route to “${nameOf(route.to)}” is left out` })),
  ];
  const seen = new Set<string>();
  return changed.flatMap(({ route, what }) => {
    // Ways on from a stop that only this arm has are part of that stop.
    const step = own.has(route.from) ? after.steps.find(({ id }) => id === route.from) : undefined;
    if (what === null || !step || seen.has(`${step.id} ${what}`)) return [];
    seen.add(`${step.id} ${what}`);
    return [{ step, what }];
  });
}
