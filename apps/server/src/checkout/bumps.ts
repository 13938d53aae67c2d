import type { Product } from '@ruta/core/catalog';
import { type OrderValues, tickName } from '@ruta/core/checkout';
import { isOfferedTo, type Offer, offerAt, offerLine, offerOption } from '@ruta/core/offers';
import type { Quote, QuoteLineInput } from '@ruta/core/pricing';
import type { Services } from '../base/services';
import { closedBecause, leftOf } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { gatherFacts, type Known } from '../facts/gather';

type Needs = Pick<Services, 'db' | 'clock'>;

/** A bump that stands on a checkout for one buyer. */
export interface OfferedBump {
  offer: Offer;
  product: Product;
  line: QuoteLineInput;
  ticked: boolean;
}

export interface Beside {
  /** The bumps of the checkout, in their order. */
  bumps: readonly Offer[];
  /** What the order is about. */
  main: QuoteLineInput;
  values: OrderValues;
  /** The form was sent, so that what is not ticked was unticked. */
  sent: boolean;
  known: Known;
  country: string;
  cartId: string | null;
  quote: (lines: QuoteLineInput[]) => Quote;
}

/**
 * The bumps that are offered to a buyer now. Conditions look at what the cart holds so far, the bumps above included, so
 * that one bump may depend on another. What is not on sale, or owned and bought only once, is left out.
 */
export function offeredBumps(services: Needs, beside: Beside): OfferedBump[] {
  const { db, clock } = services;
  const { main, values, sent, known, country, cartId } = beside;
  if (main.alone) return [];
  const find = (id: string) => findProduct(db, id);
  const lines = [main];
  const offered: OfferedBump[] = [];
  for (const named of beside.bumps) {
    const offer = offerAt(named, null, clock.now());
    const product = offer && find(offer.productId);
    if (!offer || !product || product.alone || closedBecause(services, product, cartId)) continue;
    if (leftOf(services, offerOption(product, offer).edition, cartId) === 0) continue;
    // Only what is asked for is put together: a checkout with plain bumps asks for nothing.
    if (offer.condition !== null || !product.buyAgain) {
      const facts = gatherFacts(services, { ...known, cart: { quote: beside.quote(lines), country } });
      if (!isOfferedTo(offer, product, facts)) continue;
    }
    const ticked = sent ? values[tickName(offer.id)] !== undefined : offer.bump.ticked || values[tickName(offer.id)] !== undefined;
    const line = offerLine(offer, product, 'bump', find);
    offered.push({ offer, product, line, ticked });
    if (ticked) lines.push(line);
  }
  return offered;
}
