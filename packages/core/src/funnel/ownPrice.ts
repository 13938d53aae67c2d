import type { Offer } from '../offers';
import type { Graph, Step } from './funnel';
import type { GraphOperation } from './graphOperation';
import { stepKindOf } from './stepKinds';

/** Whether a step shows or takes the order of a product, rather than adding it to an order that is paid. */
const isBeforePayment = (step: Step) => stepKindOf(step.kind).sells !== 'addition' && !step.sharedFrom;

/** The other steps of a funnel whose pages are about what an offer sells and are to show its price. */
export function stepsShowing({ steps }: Pick<Graph, 'steps'>, step: Step, offer: Pick<Offer, 'place' | 'productId'>): Step[] {
  if (offer.place !== 'main' || !isBeforePayment(step)) return [];
  return steps.filter((each) => each.id !== step.id && isBeforePayment(each) && each.sells.some((sold) => isAbout(sold, offer)));
}
const isAbout = (sold: Offer, offer: Pick<Offer, 'productId'>) => sold.place === 'main' && sold.productId === offer.productId;

/** Gives an offer another price of its own, and the same to every page that shows it: what is advertised is what is charged. */
export function setOwnPrice(graph: Pick<Graph, 'steps'>, step: Step, offer: Offer): GraphOperation[] {
  const { editionId, priceId, ownPrice } = offer;
  return [
    { kind: 'changeStep', stepId: step.id, changes: { sells: step.sells.map((each) => (each.id === offer.id ? offer : each)) } },
    ...stepsShowing(graph, step, offer).map(
      (other): GraphOperation => ({
        kind: 'changeStep',
        stepId: other.id,
        changes: { sells: other.sells.map((sold) => (isAbout(sold, offer) ? { ...sold, editionId, priceId, ownPrice } : sold)) },
      }),
    ),
  ];
}
