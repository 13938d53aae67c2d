import type { Facts, Purchase } from '@ruta/core/facts';
import type { SummedQuote } from '@ruta/core/pricing';
import { localMoment, type Mode } from '@ruta/core/shop';
import type { Services } from '../base/services';
import { findProducts } from '../catalog/store';
import type { ContactRow } from '../contacts/store';
import { type OrderRow, wasPaid } from '../orders/store';
import { loadShop } from '../shop/store';
import type { VisitorRow } from '../tracking/recorder';
import { type Bought, type KnownQuote, type Lookups, lookups } from './lookups';

/** What is asked of an order and of a visitor. */
export type KnownOrder = Pick<OrderRow, 'id' | 'contactId' | 'mode' | 'state' | 'total' | 'campaign'> & { buyer: Pick<OrderRow['buyer'], 'country'> };
export type KnownVisitor = Pick<VisitorRow, 'id' | 'countsAs' | 'contactId' | 'typed' | 'firstCampaign' | 'lastCampaign' | 'device' | 'visits'>;

/** Whom something is to be known of; what is missing stays unknown. */
export interface Known {
  visitor?: KnownVisitor | null;
  contact?: ContactRow | null;
  /** The contact's id alone, where the rest is looked up only if it is asked. */
  contactId?: string;
  order?: KnownOrder | null;
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
 * @param look what is looked up only when it is asked: one by one, or for many orders at once
 */
export function gatherFacts(services: Pick<Services, 'db' | 'clock'>, known: Known, look: Lookups = lookups(services.db)): Facts {
  const { db, clock } = services;
  const { visitor, order, cart } = known;
  const shop = loadShop(db).settings;
  const contactId = known.contact?.id ?? known.contactId ?? order?.contactId ?? visitor?.contactId ?? null;
  // What only some conditions ask for, and what is dear to know, is looked up once, and only when it is asked.
  const contactOf = once(() => known.contact ?? (contactId ? look.contact(contactId) : undefined));
  // Anybody can type anybody's address: in a browser nobody has bought from, it is that of a new person.
  const isProved = once(() => !visitor || order != null || (contactId !== null && look.hasBoughtHere(contactId, visitor.id)));
  const quotes = once((): KnownQuote[] => (order ? look.quotes(order.id) : cart ? [cart.quote] : []));
  const owned = once(() =>
    contactId === null ? undefined : purchases(services, isProved() ? look.purchases(contactId, known.mode ?? order?.mode ?? shop.mode) : []),
  );
  const bought = once(() => {
    if (order) {
      return purchases(
        services,
        look.lines(order.id).filter((line) => line.productId !== null),
      );
    }
    return cart
      ? purchases(
          services,
          cart.quote.lines.filter(({ part }) => part !== 'set-up fee'),
        )
      : undefined;
  });
  const seen = once(() => (visitor ? look.seen(visitor.countsAs ?? visitor.id) : undefined));
  const language = /^([a-z]{2,3})\b/i.exec(known.acceptLanguage ?? '')?.[1]?.toLowerCase();
  return {
    get owned() {
      return owned();
    },
    get bought() {
      return bought();
    },
    // Goods of the first payment and of everything added to it since.
    get orderTotal() {
      return quotes().length === 0 ? undefined : quotes().reduce((sum, each) => sum + each.orderTotal, 0);
    },
    get code() {
      const [quote] = quotes();
      return quote && (quote.code?.applied ? quote.code.code : null);
    },
    // Cards are the only method so far; an order that is not paid, or was nothing to pay, has none.
    paymentMethod: order && wasPaid(order.state) ? (order.total > 0 ? 'card' : null) : undefined,
    get shippingMethod() {
      const [quote] = quotes();
      return quote && (quote.shipping?.zone ?? null);
    },
    get country() {
      return order?.buyer.country ?? cart?.country ?? (isProved() ? contactOf()?.country : visitor?.typed?.country) ?? undefined;
    },
    get shippingCountry() {
      const [quote] = quotes();
      return quote && (quote.shipping ? quote.taxCountry : null);
    },
    get tags() {
      return contactId === null ? undefined : look.tags(contactId);
    },
    // By the label as it stood, as conditions ask for it, and by the field whatever it is called.
    get answers() {
      const contact = contactOf();
      return contact && { ...contact.answers, ...look.answers(contact.id) };
    },
    get firstCampaign() {
      return visitor ? visitor.firstCampaign : contactOf()?.campaign;
    },
    get lastCampaign() {
      // Of a contact alone just one is known, with which they came.
      return visitor ? visitor.lastCampaign : order ? order.campaign : contactOf()?.campaign;
    },
    device: visitor?.device,
    language,
    returning: visitor ? visitor.visits > 1 : undefined,
    get declined() {
      return order ? look.declined(order.id) : undefined;
    },
    get seen() {
      return seen()?.steps;
    },
    get openedCheckout() {
      return seen()?.checkout;
    },
    get now() {
      return localMoment(known.at ?? clock.now(), shop.timeZone);
    },
  };
}

/** Looks something up when it is first asked for, and never again. */
function once<Value>(look: () => Value): () => Value {
  let seen: { value: Value } | undefined;
  return () => {
    seen ??= { value: look() };
    return seen.value;
  };
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
