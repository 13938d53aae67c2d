import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const price = elementRecord('price', { note: WordsSchema })({
  name: 'Price',
  create: () => ({ note: words('You see the whole sum before you pay.') }),
  words: () => [['note']],
});
