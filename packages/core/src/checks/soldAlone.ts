import type { Check } from './check';

export const soldAlone: Check = {
  check: 'sold-alone',
  severity: 'blocking',
  find: ({ step, funnel }) => {
    if (step.sells.length < 2) return [];
    return step.sells.flatMap(({ productId }) => {
      const product = funnel.products[productId];
      return product?.alone ? [`“${product.name}” must be bought alone, but more is sold at this stop.`] : [];
    });
  },
};
