import { elementRecord } from './record';
import { placeholder, WordsSchema, words } from './words';

export const guarantee = elementRecord('guarantee', { title: WordsSchema, words: WordsSchema })({
  name: 'Guarantee',
  create: () => ({ title: words('Not for you?'), words: placeholder('Say what you promise, and for how long.') }),
  words: () => [['words'], ['title']],
});
