import type { StoredQuote } from '@ruta/core/pricing';

/** An order as mails tell it. */
export interface MailedOrder {
  /** Bought in test mode. */
  test: boolean;
  /** Null for a gift. */
  number: number | null;
  quote: StoredQuote;
  /** Tells only what was added to an order later. */
  added?: boolean;
  buyer: { firstName: string; email: string };
  orderUrl: string;
  downloads: Array<{ name: string; url: string }>;
  links: Array<{ words: string; url: string; from: string }>;
  keys: Array<{ value: string; from: string }>;
  contacts: Array<{ name: string; email: string }>;
  confirmations: Array<{ text: string; buttonWords: string; buttonUrl: string }>;
}
