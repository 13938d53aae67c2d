import { words } from '../elements';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { checkoutPage } from './checkoutPage';
import { optInPage } from './optInPage';
import { pageOf, promiseOf } from './pageOf';
import { drawRoute, drawStep, type FunnelTemplate, shortName, shortSlug } from './template';
import { thankYouPage } from './thankYouPage';

export const giftThenOffer: FunnelTemplate<'gift-then-offer'> = {
  template: 'gift-then-offer',
  name: 'Gift, then a one-time offer',
  purpose: 'Who has asked for the gift is made one offer. Yes leads to the checkout with their details filled in, no to the gift.',
  stops: ['opt-in', 'sales', 'checkout', 'thank-you'],
  needsGift: true,
  first: 'Leave an address for a gift, and see one offer',
  draw: ({ product, gift }, newId) => {
    if (!gift) throw new RangeError('Choose the free gift that visitors receive.');
    const optIn = drawStep(newId, 'opt-in', shortName(gift.name), shortSlug(gift.name, 'gift'), gift.id);
    const offer = drawStep(newId, 'sales', 'One-time offer', 'offer', product.id);
    const checkout = drawStep(newId, 'checkout', 'Checkout', 'checkout', product.id);
    const thankYou = drawStep(newId, 'thank-you', 'Thank you', 'thank-you', product.id);
    const opening: SectionPlan = {
      name: 'Offer',
      ground: 'dark',
      space: 'wide',
      columns: [
        {
          span: 7,
          parts: [
            textPart('eyebrow', words({ bound: 'gift.name' }, ' is on its way to your mailbox')),
            headlinePart(1, 'large', words({ bound: 'product.name' })),
            textPart('lead', words({ bound: 'product.description' })),
            part('button', { words: words('Yes, I want it for ', { bound: 'product.price' }) }),
            part('button', { words: words('No thanks, just the gift'), style: 'link', action: { kind: 'step', stepId: thankYou.id } }),
          ],
        },
        { span: 5, parts: [part('picture', { source: product.pictureIds.length > 0 ? { kind: 'product' } : null, alt: product.name })] },
      ],
    };
    const price: SectionPlan = { name: 'Price', ground: 'tint', align: 'center', width: 'narrow', columns: one(part('price'), ...promiseOf(product)) };
    return {
      graph: {
        entryId: optIn.id,
        steps: [optIn, offer, checkout, thankYou],
        routes: [drawRoute(newId, optIn, 'submitted', offer), drawRoute(newId, offer, 'next', checkout), drawRoute(newId, checkout, 'paid', thankYou)],
      },
      pages: {
        [optIn.id]: optInPage(gift, newId),
        [offer.id]: pageOf(`Once: ${product.name}`, '', false, [opening, price], newId),
        [checkout.id]: checkoutPage(product, newId),
        [thankYou.id]: thankYouPage(product, newId),
      },
    };
  },
};
