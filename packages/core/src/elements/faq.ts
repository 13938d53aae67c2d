import { z } from 'zod';
import { elementRecord } from './record';
import { placeholder, WordsSchema } from './words';

/** What a question says before anybody has written one. */
export const UNWRITTEN_QUESTION = 'A question people ask';

/** A question with its answer, both still to be written. */
export const newQuestion = () => ({ question: UNWRITTEN_QUESTION, answer: placeholder('A short, honest answer.') });

export const faq = elementRecord('faq', {
  items: z
    .array(z.object({ question: z.string().min(1).max(200), answer: WordsSchema }))
    .min(1)
    .max(30),
})({
  name: 'Questions',
  create: () => ({ items: [newQuestion()] }),
  words: ({ items }) => items.map((_, index) => ['items', index, 'answer']),
});
