import { checkoutPage } from './checkoutPage';
import { confirmationPage, registrationPage, replayPage } from './plainPages';
import { drawRoute, drawStep, type FunnelTemplate, shortName, shortSlug } from './template';
import { thankYouPage } from './thankYouPage';

export const registrationFunnel: FunnelTemplate<'registration'> = {
  template: 'registration',
  name: 'Registration with replay',
  purpose: 'Visitors sign up for something live, see it again afterwards, and buy from there.',
  stops: ['registration', 'confirmation', 'replay', 'checkout', 'thank-you'],
  needsGift: false,
  first: 'Sign up for something live',
  draw: ({ product }, newId) => {
    const registration = drawStep(newId, 'registration', shortName(product.name), shortSlug(product.name, 'sign-up'), product.id);
    const confirmation = drawStep(newId, 'confirmation', 'Confirmation', 'confirmed', product.id);
    const replay = drawStep(newId, 'replay', 'Replay', 'replay', product.id);
    const checkout = drawStep(newId, 'checkout', 'Checkout', 'checkout', product.id);
    const thankYou = drawStep(newId, 'thank-you', 'Thank you', 'thank-you', product.id);
    return {
      graph: {
        entryId: registration.id,
        steps: [registration, confirmation, replay, checkout, thankYou],
        routes: [
          drawRoute(newId, registration, 'submitted', confirmation),
          drawRoute(newId, confirmation, 'next', replay),
          drawRoute(newId, replay, 'next', checkout),
          drawRoute(newId, checkout, 'paid', thankYou),
        ],
      },
      pages: {
        [registration.id]: registrationPage(product, newId),
        [confirmation.id]: confirmationPage(product, newId),
        [replay.id]: replayPage(product, newId),
        [checkout.id]: checkoutPage(product, newId),
        [thankYou.id]: thankYouPage(product, newId),
      },
    };
  },
};
