import { checkoutPage } from './checkoutPage';
import { optInPage } from './optInPage';
import { drawRoute, drawStep, type FunnelTemplate, shortName, shortSlug } from './template';
import { thankYouPage } from './thankYouPage';

export const giftFirst: FunnelTemplate<'gift-first'> = {
  template: 'gift-first',
  name: 'Free gift first',
  purpose: 'Visitors leave an address for a free gift, then see what you sell.',
  stops: ['opt-in', 'checkout', 'thank-you'],
  needsGift: true,
  first: 'Leave an address for a gift, then buy',
  draw: ({ product, gift }, newId) => {
    if (!gift) throw new RangeError('Choose the free gift that visitors receive.');
    const optIn = drawStep(newId, 'opt-in', shortName(gift.name), shortSlug(gift.name, 'gift'), gift.id);
    const checkout = drawStep(newId, 'checkout', 'Checkout', 'checkout', product.id);
    const thankYou = drawStep(newId, 'thank-you', 'Thank you', 'thank-you', product.id);
    return {
      graph: {
        entryId: optIn.id,
        steps: [optIn, checkout, thankYou],
        routes: [drawRoute(newId, optIn, 'submitted', checkout), drawRoute(newId, checkout, 'paid', thankYou)],
      },
      pages: { [optIn.id]: optInPage(gift, newId), [checkout.id]: checkoutPage(product, newId), [thankYou.id]: thankYouPage(product, newId) },
    };
  },
};
