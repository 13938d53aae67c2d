import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const orderSummary = elementRecord('order-summary', { title: WordsSchema })({
  name: 'Order summary',
  create: () => ({ title: words('In your order') }),
  words: () => [['title']],
  personal: true,
});
