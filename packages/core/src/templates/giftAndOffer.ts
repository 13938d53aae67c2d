import { newOffer } from '../offers';
import { checkoutPage } from './checkoutPage';
import { drawRoute, drawStep, type FunnelTemplate, shortName, shortSlug } from './template';
import { thankYouPage } from './thankYouPage';

export const giftAndOffer: FunnelTemplate<'gift-and-offer'> = {
  template: 'gift-and-offer',
  name: 'Gift and offer on one page',
  purpose: 'A free order with what you sell as a tick beside it. The payment appears only when it is ticked.',
  stops: ['checkout', 'thank-you'],
  needsGift: true,
  first: 'Take a gift, and tick what they want with it',
  draw: ({ product, gift }, newId) => {
    if (!gift) throw new RangeError('Choose the free gift that visitors receive.');
    const order = drawStep(newId, 'checkout', shortName(gift.name), shortSlug(gift.name, 'gift'), gift.id);
    const checkout = { ...order, sells: [...order.sells, newOffer(newId('offer'), product.id, 'bump')] };
    const thankYou = drawStep(newId, 'thank-you', 'Thank you', 'thank-you', gift.id);
    return {
      graph: { entryId: checkout.id, steps: [checkout, thankYou], routes: [drawRoute(newId, checkout, 'paid', thankYou)] },
      pages: { [checkout.id]: checkoutPage(gift, newId), [thankYou.id]: thankYouPage(gift, newId) },
    };
  },
};
