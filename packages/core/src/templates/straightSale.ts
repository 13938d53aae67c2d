import { checkoutPage } from './checkoutPage';
import { salesPage } from './salesPage';
import { drawRoute, drawStep, type FunnelTemplate, shortName, shortSlug } from './template';
import { thankYouPage } from './thankYouPage';

export const straightSale: FunnelTemplate<'straight-sale'> = {
  template: 'straight-sale',
  name: 'Straight sale',
  purpose: 'A sales page makes the case, the checkout takes the payment.',
  stops: ['sales', 'checkout', 'thank-you'],
  needsGift: false,
  first: 'Read why, then buy',
  draw: ({ product }, newId) => {
    const sales = drawStep(newId, 'sales', shortName(product.name), shortSlug(product.name, 'offer'), product.id);
    const checkout = drawStep(newId, 'checkout', 'Checkout', 'checkout', product.id);
    const thankYou = drawStep(newId, 'thank-you', 'Thank you', 'thank-you', product.id);
    return {
      graph: {
        entryId: sales.id,
        steps: [sales, checkout, thankYou],
        routes: [drawRoute(newId, sales, 'next', checkout), drawRoute(newId, checkout, 'paid', thankYou)],
      },
      pages: { [sales.id]: salesPage(product, newId), [checkout.id]: checkoutPage(product, newId), [thankYou.id]: thankYouPage(product, newId) },
    };
  },
};
