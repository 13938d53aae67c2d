/** States of an order that lists and its own page name. */
export const STATE_WORDS = { 'part-refunded': 'Given back in part', refunded: 'Given back' } as const;
