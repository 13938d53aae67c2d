import { formatMoney } from '@ruta/core/money';
import { laterWords, needsCard } from '@ruta/core/pricing';
import { type OffersView, offerName, offerWords, type PageContext, type ShownOffer } from '@ruta/pages';
import type { LiveStep } from '../funnel/live';
import type { Standing, StandingOffer } from '../offers/standing';
import type { OrderRow } from '../orders/store';
import { cardFieldsFor, type Paying } from '../payments/accounts';
import { methodOnFile } from '../payments/methods';
import { loadShop } from '../shop/store';
import { endOf } from '../site/moment';

/** So long after the payment one click is enough; whoever comes later types the card again. */
const ONE_CLICK_MS = 24 * 60 * 60 * 1000;

/** What of an offer page differs from how it first shows. */
export interface OfferPageState {
  message?: string | null;
  /** The offer that waits for a second click. */
  asking?: string | null;
  /** The card on file was refused, so that another one is asked for. */
  refused?: boolean;
  values?: Record<string, string>;
  errors?: Record<string, string>;
}

/** The last digits of the card that one click charges; null where a card must be typed. */
export function cardOnFile({ db, clock }: Pick<Paying, 'db' | 'clock'>, order: OrderRow): string | null {
  if (order.paidAt === null || order.paidAt + ONE_CLICK_MS <= clock.now()) return null;
  const method = methodOnFile(db, order.id);
  return method ? (method.last4 ?? '····') : null;
}

/** A step's offers as their page shows them to the buyer of an order. */
export function offersView(services: Paying, { step }: LiveStep, order: OrderRow, { open }: Standing, state: OfferPageState = {}): OffersView {
  const cardEnding = state.refused ? null : cardOnFile(services, order);
  const needsTyping = cardEnding === null && open.some(({ quote }) => needsCard(quote));
  return {
    actionUrl: `/offer/${step.id}`,
    quoteUrl: `/offer/${step.id}/quote`,
    leftUrl: `/offer/${step.id}/left`,
    orderToken: order.token,
    offers: open.map((standing) => shownOffer(services, standing)),
    message: state.message ?? null,
    cardEnding,
    cardFields: needsTyping ? cardFieldsFor(services, order.mode, order.id) : null,
    asking: state.asking ?? null,
    values: state.values ?? {},
    errors: state.errors ?? {},
  };
}

export function shownOffer({ db, clock }: Pick<Paying, 'db' | 'clock'>, { offer, product, quantity, quote, endsAt, asksAddress }: StandingOffer): ShownOffer {
  const { words } = offer;
  return {
    id: offer.id,
    name: offerName(offer, product),
    headline: words.headline,
    text: words.text,
    label: words.label,
    ...offerWords(offer, product, loadShop(db).settings.currency, clock.now()),
    dueToday: quote.dueToday,
    dueWords: formatMoney(quote.dueToday, quote.currency),
    laterWords: laterWords(quote),
    codeWords:
      quote.code?.applied && quote.discount > 0 ? `Your code ${quote.code.code} takes ${formatMoney(quote.discount, quote.currency)} off this too.` : '',
    asksQuantity: offer.asksQuantity,
    quantity,
    asksAddress,
    endsAt,
  };
}

/** When the first of the offers ends, in the shop's own time; null where none does. */
export function firstEnd({ db, clock }: Pick<Paying, 'db' | 'clock'>, { open }: Standing): PageContext['endsAt'] {
  const ends = open.flatMap(({ endsAt }) => endsAt ?? []);
  if (ends.length === 0) return null;
  return endOf({ db, clock }, Math.min(...ends));
}
