import type { PageDocument } from '../page';
import { checkoutPage } from './checkoutPage';
import { type NamedProduct, pageTitle } from './pageOf';
import { drawRoute, drawStep, type FunnelTemplate } from './template';
import { thankYouPage } from './thankYouPage';

/** A checkout that people arrive at is what search engines list and what is shared: under the name of what it sells. */
const asFirstPage = (page: PageDocument, { name }: NamedProduct): PageDocument => ({ ...page, title: pageTitle(name), indexed: true });

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
      pages: { [checkout.id]: asFirstPage(checkoutPage(product, newId), product), [thankYou.id]: thankYouPage(product, newId) },
    };
  },
};
