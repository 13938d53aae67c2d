import { stepKindOf } from '../funnel';
import { mainOffer, repriceable } from '../offers';
import type { Check } from './check';

/** A price of its own that holds for nothing: the buyer chooses among several, or names the amount. */
export const ownPriceOfMany: Check = {
  check: 'own-price-of-many',
  severity: 'blocking',
  find: ({ step, funnel }) =>
    step.sells.flatMap((offer) => {
      const product = funnel.products[offer.productId];
      return product && offer.ownPrice !== null && !repriceable(product, offer)
        ? [`“${product.name}” has a price of its own here but isn’t sold at one edition and price. Choose which, or take the own price away.`]
        : [];
    }),
};

/** A page that shows another price than the checkout it leads to charges. */
export const ownPricesDiffer: Check = {
  check: 'own-prices-differ',
  severity: 'blocking',
  find: ({ step, funnel: { graph }, product }) => {
    const offer = mainOffer(step);
    if (!offer || !product || step.sharedFrom || stepKindOf(step.kind).sells !== null) return [];
    const checkouts = graph.steps.filter((each) => stepKindOf(each.kind).sells === 'order' && mainOffer(each)?.productId === offer.productId);
    const others = checkouts.filter((checkout) => mainOffer(checkout)?.ownPrice !== offer.ownPrice);
    // Where several checkouts sell it at different prices, a page may show any of them.
    return checkouts.length > 0 && others.length === checkouts.length
      ? [`This page shows another price of “${product.name}” than the checkout “${others[0]?.name}” charges. Set the same price at both.`]
      : [];
  },
};
