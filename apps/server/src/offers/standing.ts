import type { Product } from '@ruta/core/catalog';
import type { Facts } from '@ruta/core/facts';
import { additionRole, type Step } from '@ruta/core/funnel';
import { endsAt, isOfferedTo, mainOffers, type Offer, offerAt, offerLine, offerOption } from '@ruta/core/offers';
import { boughtBy, parcelOf, type Quote, quoteCart } from '@ruta/core/pricing';
import type { Services } from '../base/services';
import { closedBecause, leftOf } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { codeTerms } from '../codes/store';
import type { LiveStep } from '../funnel/live';
import { countedQuotes, type OrderRow } from '../orders/store';
import { loadShop } from '../shop/store';
import { type ShowingRow, showingsOf } from '../tracking/offerShowings';

type Needs = Pick<Services, 'db' | 'clock'>;

/** Something that one buyer can add to their order now. */
export interface StandingOffer {
  /** As it stands now: after its deadline without its own discount. */
  offer: Offer;
  product: Product;
  quantity: number;
  quote: Quote;
  /** Unix time in milliseconds; null where it does not end. */
  endsAt: number | null;
  /** It is sent, and nobody has said yet where to. */
  asksAddress: boolean;
}

/** What a step has for the buyer of an order. */
export interface Standing {
  open: StandingOffer[];
  /** What was shown in this order, by the offer. */
  showings: Map<string, ShowingRow>;
}

/**
 * What a step offers to the buyer of an order now: what they have not taken yet, whose condition holds, that they do not
 * own already, that has not ended, and that can be bought and sent.
 * @param quantities what the buyer typed, by the offer
 */
export function standingOffers(
  services: Needs,
  { publication, step }: Pick<LiveStep, 'publication' | 'step'>,
  order: OrderRow,
  facts: Facts,
  quantities: Record<string, number> = {},
): Standing {
  const { db, clock } = services;
  const now = clock.now();
  const showings = showingsOf(db, order.id);
  const role = additionRole(publication.snapshot.graph, step.id);
  const find = (id: string) => findProduct(db, id);
  // Known once something is to be quoted: most who come have nothing left to take.
  let quoteOf: ReturnType<typeof additionQuotes> | undefined;
  const open = mainOffers(step).flatMap((named): StandingOffer[] => {
    const showing = showings.get(named.id);
    if (showing?.takenAt) return [];
    const seenAt = showing?.shownAt ?? null;
    const offer = offerAt(named, seenAt, now);
    const product = offer && find(offer.productId);
    if (!offer || !product || product.alone || closedBecause(services, product, order.cartId) || !isOfferedTo(offer, product, facts)) return [];
    const quantity = offer.asksQuantity ? (quantities[offer.id] ?? offer.quantity) : offer.quantity;
    const left = leftOf(services, offerOption(product, offer).edition, order.cartId);
    if (left !== null && left < quantity) return [];
    const line = offerLine(offer, product, role, find, { quantity });
    quoteOf ??= additionQuotes(services, order);
    const quote = quoteOf(line);
    if (quote.problems.length > 0) return [];
    const end = endsAt(named, seenAt ?? now);
    return [{ offer, product, quantity, quote, endsAt: end !== null && end > now ? end : null, asksAddress: parcelOf(line) !== null && !order.buyer.address }];
  });
  return { open, showings };
}

/** Quotes lines as additions to an order: with what is known of its buyer, and what was paid for shipping before. */
function additionQuotes({ db, clock }: Needs, order: OrderRow): (line: ReturnType<typeof offerLine>) => Quote {
  const { country, region, taxNumber } = order.buyer;
  const shop = loadShop(db);
  const code = order.codeId ? codeTerms(db, order.codeId) : undefined;
  const quotes = countedQuotes(db, order.id);
  const [first] = quotes;
  const bought = boughtBy(quotes);
  const buyer = {
    country: country || shop.settings.country,
    ...(region ? { region } : {}),
    ...(taxNumber ? { taxNumber, ...(first?.taxNumber?.unconfirmed ? { register: 'silent' as const } : {}) } : {}),
  };
  return (line) => quoteCart(shop, { lines: [line], buyer, bought, code }, clock.now());
}

/** Whether a step of an order's funnel still has something to offer its buyer. */
export function hasOffers(services: Needs, live: Pick<LiveStep, 'publication'>, order: OrderRow, facts: Facts): (step: Step) => boolean {
  return (step) => standingOffers(services, { publication: live.publication, step }, order, facts).open.length > 0;
}
