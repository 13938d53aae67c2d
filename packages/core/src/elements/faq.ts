import { z } from 'zod';
import { elementRecord } from './record';
import { placeholder, WordsSchema } from './words';

export const faq = elementRecord('faq', {
  items: z
    .array(z.object({ question: z.string().min(1).max(200), answer: WordsSchema }))
    .min(1)
    .max(30),
})({
  name: 'Questions',
  create: () => ({ items: [{ question: 'A question people ask', answer: placeholder('A short, honest answer.') }] }),
  words: ({ items }) => items.map((_, index) => ['items', index, 'answer']),
});
