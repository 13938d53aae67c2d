import { z } from 'zod';
import { factRecord, known } from './record';

export const returning = factRecord(
  'returning',
  { returning: z.boolean() },
  {
    name: 'New or returning',
    test: ({ returning: asked }, facts) => known(facts.returning, (is) => is === asked),
    describe: ({ returning: asked }) => (asked ? 'has been here before' : 'is here for the first time'),
  },
);
