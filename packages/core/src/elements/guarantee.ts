import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const guarantee = elementRecord('guarantee', { title: WordsSchema, words: WordsSchema })({
  name: 'Guarantee',
  create: () => ({ title: words('Not for you?'), words: words('Write to ', { bound: 'shop.email' }, ' within 14 days and the money is back.') }),
  words: () => [['words'], ['title']],
});
