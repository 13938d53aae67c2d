import { z } from 'zod';
import { anyOf, factRecord, known } from './record';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

export const weekday = factRecord(
  'weekday',
  { days: z.array(z.int().min(1).max(7)).min(1) },
  {
    name: 'Day of the week',
    test: ({ days }, facts) => known(facts.now, (now) => days.includes(now.weekday)),
    describe: ({ days }) => `on ${anyOf(days.map((day) => WEEKDAYS[day - 1] ?? ''))}`,
  },
);
