import { checkoutPage } from './checkoutPage';
import { drawRoute, drawStep, type FunnelTemplate } from './template';
import { thankYouPage } from './thankYouPage';

export const directLink: FunnelTemplate<'direct-link'> = {
  template: 'direct-link',
  name: 'Direct link',
  purpose: 'One product, one checkout: a link to paste in a profile, an e-mail or another site.',
  stops: ['checkout', 'thank-you'],
  needsGift: false,
  first: 'Buy at once, by a link',
  draw: ({ product }, newId) => {
    const checkout = drawStep(newId, 'checkout', 'Checkout', 'checkout', product.id);
    const thankYou = drawStep(newId, 'thank-you', 'Thank you', 'thank-you', product.id);
    return {
      graph: { entryId: checkout.id, steps: [checkout, thankYou], routes: [drawRoute(newId, checkout, 'paid', thankYou)] },
      pages: { [checkout.id]: checkoutPage(product, newId), [thankYou.id]: thankYouPage(product, newId) },
    };
  },
};
