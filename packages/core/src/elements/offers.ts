import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** Yes and no to what a stop offers after the payment; an offer's own words on its yes come before these. */
export const offers = elementRecord('offers', {
  yes: WordsSchema,
  no: WordsSchema,
  noLook: z.enum(['button', 'link']),
})({
  name: 'Yes and no',
  create: () => ({ yes: words('Yes, add it to my order'), no: words('No thanks, go on'), noLook: 'link' }),
  words: () => [['yes'], ['no']],
  personal: true,
});
