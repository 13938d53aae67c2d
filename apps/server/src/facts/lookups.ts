import type { SummedQuote } from '@ruta/core/pricing';
import type { Mode } from '@ruta/core/shop';
import type { Db } from '../base/db';
import { answersByField, tagsOf } from '../contacts/answers';
import { type ContactRow, findContact } from '../contacts/store';
import { countedQuotes, hasBoughtHere, linesOf, purchasesOf } from '../orders/store';
import { declinedIn } from '../tracking/offerShowings';
import { seenBy } from '../tracking/seen';

/** A line as conditions ask for it. */
export interface Bought {
  productId: string | null;
  editionId?: string | null | undefined;
  priceId?: string | null | undefined;
  role: string;
  quantity: number;
}

/** What conditions ask of a quote. */
export interface KnownQuote extends Pick<SummedQuote, 'orderTotal' | 'taxCountry'> {
  code: { code: string; applied: boolean } | null;
  shipping: { zone: string } | null;
}

/** What is looked up of a buyer only when a condition asks for it. */
export interface Lookups {
  contact: (contactId: string) => ContactRow | undefined;
  /** Of the first payment that counts, then of everything added to it. */
  quotes: (orderId: string) => KnownQuote[];
  lines: (orderId: string) => Bought[];
  /** What a contact holds from orders of a mode. */
  purchases: (contactId: string, mode: Mode) => Bought[];
  hasBoughtHere: (contactId: string, browserId: string) => boolean;
  tags: (contactId: string) => string[];
  /** The newest answer of each field. */
  answers: (contactId: string) => Record<string, string>;
  /** Steps of which something was declined in an order. */
  declined: (orderId: string) => string[];
  /** What a visitor, as they are counted, has seen. */
  seen: (visitorId: string) => Seen;
}

/** The steps that somebody has seen, and whether a checkout was among them. */
export interface Seen {
  steps: string[];
  checkout: boolean;
}

/** Each looked up by itself, as for one who browses. */
export const lookups = (db: Db): Lookups => ({
  contact: (contactId) => findContact(db, contactId),
  quotes: (orderId) => countedQuotes(db, orderId),
  lines: (orderId) => linesOf(db, orderId),
  purchases: (contactId, mode) => purchasesOf(db, contactId, mode),
  hasBoughtHere: (contactId, browserId) => hasBoughtHere(db, contactId, browserId),
  tags: (contactId) => tagsOf(db, contactId),
  answers: (contactId) => answersByField(db, contactId),
  declined: (orderId) => declinedIn(db, orderId),
  seen: (visitorId) => seenBy(db, visitorId),
});
