import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const receipt = elementRecord('receipt', { title: WordsSchema })({
  name: 'Receipt',
  create: () => ({ title: words('What you bought') }),
  words: () => [['title']],
  personal: true,
});
