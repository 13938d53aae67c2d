import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** A moment of the page's own, such as the beginning of an evening; Unix time in milliseconds. */
const UntilSchema = z.object({
  at: z.int(),
  afterwards: z.enum(['words', 'hide']).describe('What stands there once it has come: other words, or nothing'),
});

/**
 * Tells how long something still stands: the stop's offer, by the very deadline that the server keeps to, or until a moment
 * that is the same for everybody.
 */
export const countdown = elementRecord('countdown', { label: WordsSchema, ended: WordsSchema, until: UntilSchema.optional() })({
  name: 'Countdown',
  create: () => ({ label: words('This offer stands for'), ended: words('This offer has ended.') }),
  words: () => [['label'], ['ended']],
});
