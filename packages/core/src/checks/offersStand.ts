import { isFree, optionsOf } from '../catalog';
import { stepKindOf } from '../funnel';
import { isWhole, type Offer, offerPrice } from '../offers';
import type { Check, CheckedStep } from './check';

/** What a step offers beside what its page is about: bumps, and further offers. */
const beside = ({ step, funnel }: CheckedStep) =>
  step.sells.flatMap((offer) => {
    const product = funnel.products[offer.productId];
    return product ? [{ offer, product }] : [];
  });
const named = (offer: Offer, name: string) =>
  offer.place === 'bump' ? `The bump “${offer.words.headline || name}”` : `The offer “${offer.words.headline || name}”`;
const sellsHere = ({ step }: CheckedStep) => stepKindOf(step.kind).sells !== null;

/** Bumps and further offers of what is archived or gone: visitors never see them. */
export const goneOffers: Check = {
  check: 'gone-offers',
  severity: 'warning',
  find: (at) =>
    sellsHere(at)
      ? at.step.sells.slice(1).flatMap((offer) => {
          const product = at.funnel.products[offer.productId];
          if (!product) return ['Something is offered here whose product is gone, so that nobody sees it.'];
          return product.archivedAt === null ? [] : [`${named(offer, product.name)} is of an archived product, so that nobody sees it.`];
        })
      : [],
};

/** An edition or price that an offer named, and that the product has no more. */
export const brokenOffers: Check = {
  check: 'broken-offers',
  severity: 'warning',
  find: (at) =>
    beside(at).flatMap(({ offer, product }) =>
      isWhole(product, offer) ? [] : [`${named(offer, product.name)} names an edition or price that is gone; its first one is sold instead.`],
    ),
};

/** A discount off the regular price that comes out dearer than the sale price that is shown. The moment is the latest sale’s. */
export const dearerOffers: Check = {
  check: 'dearer-offers',
  severity: 'warning',
  find: (at) =>
    beside(at).flatMap(({ offer, product }) => {
      if (offer.discount?.base !== 'regular') return [];
      const sales = optionsOf(product).flatMap(({ option: { price } }) =>
        'sale' in price && price.sale ? [price.sale.from ?? (price.sale.until ?? 1) - 1] : [],
      );
      return sales.some((moment) => offerPrice(offer, product, moment).dearer)
        ? [`${named(offer, product.name)} is off the regular price and comes out dearer than the sale price; the sale price is charged instead.`]
        : [];
    }),
};

export const tickedBumps: Check = {
  check: 'ticked-bumps',
  severity: 'warning',
  find: (at) =>
    beside(at).flatMap(({ offer, product }) =>
      offer.place === 'bump' && offer.bump.ticked
        ? [`${named(offer, product.name)} is ticked beforehand, which is unlawful for consumers in many countries.`]
        : [],
    ),
};

/** A bump that costs more than what it stands beside. */
export const dearBumps: Check = {
  check: 'dear-bumps',
  severity: 'warning',
  find: (at) => {
    const { product: main } = at;
    if (!main || isFree(main) || stepKindOf(at.step.kind).sells !== 'order') return [];
    const least = Math.min(
      ...optionsOf(main).map(({ option }) => offerPrice({ editionId: null, priceId: option.id, ownPrice: null, discount: null }, main, 0).regular),
    );
    return beside(at).flatMap(({ offer, product }) =>
      offer.place === 'bump' && offerPrice(offer, product, 0).unit * offer.quantity > least
        ? [`${named(offer, product.name)} costs more than what it stands beside.`]
        : [],
    );
  },
};
