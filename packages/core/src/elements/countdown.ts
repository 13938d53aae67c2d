import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** Tells how long the stop's offer still stands: the very deadline that the server keeps to, never one of its own. */
export const countdown = elementRecord('countdown', { label: WordsSchema, ended: WordsSchema })({
  name: 'Countdown',
  create: () => ({ label: words('This offer stands for'), ended: words('This offer has ended.') }),
  words: () => [['label'], ['ended']],
});
