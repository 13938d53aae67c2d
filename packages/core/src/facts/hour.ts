import { z } from 'zod';
import { factRecord, known } from './record';

/** A stretch of the day in the shop's zone; it may go over midnight. Start included, end excluded. */
export const hour = factRecord(
  'hour',
  { from: z.int().min(0).max(23), until: z.int().min(0).max(24) },
  {
    name: 'Hour',
    test: ({ from, until }, facts) => known(facts.now, ({ hour: now }) => (from < until ? now >= from && now < until : now >= from || now < until)),
    describe: ({ from, until }) => `between ${from}:00 and ${until}:00`,
  },
);
