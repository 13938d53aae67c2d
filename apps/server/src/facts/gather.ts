import type { Facts, Purchase } from '@ruta/core/facts';
import type { SummedQuote } from '@ruta/core/pricing';
import { localMoment, type Mode } from '@ruta/core/shop';
import type { Services } from '../base/services';
import { findProducts } from '../catalog/store';
import { answersByField, tagsOf } from '../contacts/answers';
import { type ContactRow, findContact } from '../contacts/store';
import { countedQuotes, hasBoughtHere, linesOf, type OrderRow, purchasesOf, wasPaid } from '../orders/store';
import { loadShop } from '../shop/store';
import type { VisitorRow } from '../tracking/recorder';

/** Whom something is to be known of; what is missing stays unknown. */
export interface Known {
  visitor?: VisitorRow | null;
  contact?: ContactRow | null;
  order?: OrderRow | null;
  /** What a cart that is not paid yet was quoted at. */
  cart?: { quote: SummedQuote; country: string } | null;
  /** As the browser states it: `pt-PT,pt;q=0.9`. */
  acceptLanguage?: string | undefined;
  mode?: Mode;
  /** The moment it is asked for, Unix time in milliseconds; now if it is missing. */
  at?: number;
}

/**
 * Everything that is known of a buyer: the one place where it is put together, for routes, pages, codes and whatever else
 * asks conditions. Purchases are those of the mode, so that trying things out gives nobody anything.
 */
export function gatherFacts(services: Pick<Services, 'db' | 'clock'>, known: Known): Facts {
  const { db, clock } = services;
  const { visitor, order, cart } = known;
  const shop = loadShop(db).settings;
  const contactId = known.contact?.id ?? order?.contactId ?? visitor?.contactId ?? null;
  const contact = known.contact ?? (contactId ? findContact(db, contactId) : undefined);
  // Anybody can type anybody's address: in a browser nobody has bought from, it is that of a new person.
  const isProved = !visitor || order != null || (contact !== undefined && hasBoughtHere(db, contact.id, visitor.id));
  const ofOrder = order ? linesOf(db, order.id).filter((line) => line.productId !== null) : undefined;
  const quotes = order ? countedQuotes(db, order.id) : cart ? [cart.quote] : [];
  const [quote] = quotes;
  const country = order?.buyer.country ?? cart?.country ?? (isProved ? contact?.country : visitor?.typed?.country) ?? undefined;
  const language = /^([a-z]{2,3})\b/i.exec(known.acceptLanguage ?? '')?.[1]?.toLowerCase();
  return {
    owned: contact ? purchases(services, isProved ? purchasesOf(db, contact.id, known.mode ?? order?.mode ?? shop.mode) : []) : undefined,
    bought: ofOrder
      ? purchases(services, ofOrder)
      : cart
        ? purchases(
            services,
            cart.quote.lines.filter(({ part }) => part !== 'set-up fee'),
          )
        : undefined,
    // Goods of the first payment and of everything added to it since.
    orderTotal: quote && quotes.reduce((sum, each) => sum + each.orderTotal, 0),
    code: quote && (quote.code?.applied ? quote.code.code : null),
    // Cards are the only method so far; an order that is not paid, or was nothing to pay, has none.
    paymentMethod: order && wasPaid(order.state) ? (order.total > 0 ? 'card' : null) : undefined,
    shippingMethod: quote && (quote.shipping?.zone ?? null),
    country,
    shippingCountry: quote && (quote.shipping ? quote.taxCountry : null),
    // Asked for only by some conditions, and so looked up only then.
    get tags() {
      return contact ? tagsOf(db, contact.id) : undefined;
    },
    // By the label as it stood, as conditions ask for it, and by the field whatever it is called.
    get answers() {
      return contact && { ...contact.answers, ...answersByField(db, contact.id) };
    },
    firstCampaign: visitor ? visitor.firstCampaign : contact?.campaign,
    lastCampaign: visitor ? visitor.lastCampaign : order?.campaign,
    device: visitor?.device,
    language,
    returning: visitor ? visitor.visits > 1 : undefined,
    // Reckoned when it is asked for: most conditions ask nothing of the clock, and time zones are dear.
    get now() {
      return localMoment(known.at ?? clock.now(), shop.timeZone);
    },
  };
}

interface Bought {
  productId: string | null;
  editionId?: string | null | undefined;
  priceId?: string | null | undefined;
  role: string;
  quantity: number;
}

/** Lines as conditions ask for them, with the families their products belong to. */
function purchases({ db }: Pick<Services, 'db'>, lines: readonly Bought[]): Purchase[] {
  const products = new Map(findProducts(db, [...new Set(lines.flatMap((line) => line.productId ?? []))]).map((product) => [product.id, product]));
  return lines.flatMap(({ productId, editionId, priceId, role, quantity }) => {
    const product = productId === null ? undefined : products.get(productId);
    return product
      ? [{ productId: product.id, editionId: editionId ?? null, priceId: priceId ?? null, role, quantity, categories: product.categories, tags: product.tags }]
      : [];
  });
}
