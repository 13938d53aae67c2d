import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const downloads = elementRecord('downloads', { title: WordsSchema })({
  name: 'Downloads',
  create: () => ({ title: words('Your downloads') }),
  words: () => [['title']],
  personal: true,
});
