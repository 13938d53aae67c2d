import { applyToGraph, connect, freeStepSlug, insertAfter, type Step } from '../funnel';
import type { NewId } from '../ids';
import { newOffer } from '../offers';
import { offerPage } from './offerPage';
import { type DrawnExtras, type DrawnFunnel, type DrawnProduct, shortName, shortSlug } from './template';

/**
 * A drawn funnel with a bump on its checkout, and offers after the payment: an upsell, a gentler one for who says no to
 * it, and a second upsell after both.
 */
export function withExtras(drawn: DrawnFunnel, { bump, upsell, downsell, second }: DrawnExtras, newId: NewId): DrawnFunnel {
  const checkout = drawn.graph.steps.find((step) => step.kind === 'checkout');
  if (!checkout) return drawn;
  let { graph } = drawn;
  const pages = { ...drawn.pages };
  const apply = (operations: Parameters<typeof applyToGraph>[1]) => {
    graph = applyToGraph(graph, operations).graph;
  };
  const stop = (product: DrawnProduct): Step => {
    const step: Step = {
      id: newId('step'),
      kind: 'offer',
      name: shortName(product.name),
      slug: freeStepSlug(graph, shortSlug(product.name, 'offer')),
      sells: [newOffer(newId('offer'), product.id)],
    };
    pages[step.id] = offerPage(product, newId);
    return step;
  };
  if (bump) apply([{ kind: 'changeStep', stepId: checkout.id, changes: { sells: [...checkout.sells, newOffer(newId('offer'), bump.id, 'bump')] } }]);
  const first = upsell && stop(upsell);
  if (first) apply(insertAfter(graph, checkout.id, 'paid', first, newId).operations);
  const later = second && stop(second);
  if (later) {
    apply(insertAfter(graph, first?.id ?? checkout.id, first ? 'accepted' : 'paid', later, newId).operations);
    if (first) apply(connect(graph, first.id, 'declined', later.id, newId).operations);
  }
  if (first && downsell) apply(insertAfter(graph, first.id, 'declined', stop(downsell), newId).operations);
  return { graph, pages };
}
