/** In the address of the page after a gift was asked for: it says that the gift is on its way. */
export const GIFT_SENT = 'gift=sent';

/** What the page after a gift says above itself; null on every other. */
export const giftNotice = (query: Record<string, unknown>): string | null =>
  query.gift === 'sent' ? 'Your gift is on its way. Look into your mailbox in a minute; also where mail lands that nobody asked for.' : null;
