import { z } from 'zod';
import { factRecord, known } from './record';

/** An unanswered question is known to be unanswered once anything is known of the contact. */
export const answer = factRecord(
  'answer',
  { question: z.string().min(1), answer: z.string() },
  {
    name: 'Answer to a form',
    test: ({ question, answer: asked }, facts) => known(facts.answers, (answers) => answers[question] === asked),
    describe: ({ question, answer: asked }) => `answered “${asked}” to “${question}”`,
  },
);
