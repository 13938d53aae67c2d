import type { Product } from '../catalog';
import { evaluate } from '../conditions';
import type { Facts, Purchase } from '../facts';
import type { Offer } from './offer';

const has = (purchases: readonly Purchase[] | undefined, productId: string) => purchases?.some((purchase) => purchase.productId === productId) ?? false;

/**
 * Whether an offer is made to a buyer: its condition holds, and they do not have already what can be bought only once.
 * Whether the product is on sale at all is another question.
 */
export function isOfferedTo(offer: Pick<Offer, 'productId' | 'condition'>, product: Pick<Product, 'buyAgain'>, facts: Facts): boolean {
  if (!product.buyAgain && (has(facts.owned, offer.productId) || has(facts.bought, offer.productId))) return false;
  return offer.condition === null || evaluate(offer.condition, facts);
}
