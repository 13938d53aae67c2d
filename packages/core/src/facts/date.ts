import { z } from 'zod';
import { factRecord, known } from './record';

/** Days of the calendar in the shop's zone, both included; a missing bound is open. */
export const date = factRecord(
  'date',
  { from: z.iso.date().optional(), until: z.iso.date().optional() },
  {
    name: 'Date',
    test: ({ from, until }, facts) => known(facts.now, (now) => (from === undefined || now.date >= from) && (until === undefined || now.date <= until)),
    describe: ({ from, until }) => [from ? `from ${from}` : '', until ? `until ${until}` : ''].filter(Boolean).join(' ') || 'on any day',
  },
);
