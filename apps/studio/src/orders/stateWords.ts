/** States of an order that lists and its own page name. */
export const STATE_WORDS = { 'part-refunded': 'Partly refunded', refunded: 'Refunded' } as const;
