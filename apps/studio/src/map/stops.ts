import { freeStepSlug, type Graph, type Step, type StepKind, slugify, stepKindOf } from '@ruta/core/funnel';
import { newOffer } from '@ruta/core/offers';
import { newId } from '../base/newId';

/** A new stop of a kind: about the product that the funnel sells, unless it is an offer, which sells something else. */
export function newStop(graph: Graph, kind: StepKind): Step {
  const { name } = stepKindOf(kind);
  const alike = graph.steps.filter((step) => step.kind === kind).length;
  const label = alike === 0 ? name : `${name} ${alike + 1}`;
  const checkout = graph.steps.find((step) => step.kind === 'checkout');
  const about = (checkout ?? graph.steps[0])?.sells.find((offer) => offer.place === 'main')?.productId;
  return {
    id: newId('step'),
    kind,
    name: label,
    slug: freeStepSlug(graph, slugify(label) || 'stop'),
    sells: kind === 'offer' || !about ? [] : [newOffer(newId('offer'), about)],
  };
}

/** A copy of a stop, with ids and an address of its own. */
export function copyOf(graph: Graph, step: Step): Step {
  const name = `${step.name.slice(0, 72)} (copy)`;
  const { sharedFrom: _shared, ...own } = step;
  return {
    ...own,
    id: newId('step'),
    name,
    slug: freeStepSlug(graph, step.slug),
    sells: step.sells.map((offer) => ({ ...offer, id: newId('offer') })),
  };
}
