import type { CheckoutView } from '@ruta/pages';
import type { Services } from '../base/services';
import type { KeptPages } from '../site/keptPages';

/** Stands for the cart's id while a page is kept; every visitor has a cart of their own. */
const CART = 'crt_ofwhoeverasksforit';

/** Whether nothing of a person stands in an order form: nobody has typed into it, and nothing was found to be wrong. */
export const isUntouched = ({ values, errors, message, paidOrder }: CheckoutView): boolean =>
  message === null && paidOrder === null && Object.keys(errors).length === 0 && !values.email && !values.firstName && !values.lastName && !values.taxNumber;

/**
 * The page of a checkout that nobody has typed into: in a rush most people are shown the same, but for the id of their cart.
 * @param page which page it is, as its visitor is shown it
 * @param render makes it with an order form
 */
export function untouchedCheckout(
  { kept, clock }: Pick<Services, 'clock'> & { kept: KeptPages },
  checkout: CheckoutView,
  page: string,
  render: (checkout: CheckoutView) => string,
): string {
  // Countries and regions are the same for every form of a shop, and forgotten with it.
  const { countries: _countries, regions: _regions, cartId: _cartId, ...said } = checkout;
  const html = kept.piece(`checkout ${page} ${JSON.stringify(said)}`, clock.now(), () => render({ ...checkout, cartId: CART }));
  return html.replaceAll(CART, checkout.cartId);
}
