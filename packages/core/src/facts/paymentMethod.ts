import { z } from 'zod';
import { factRecord, known } from './record';

export const paymentMethod = factRecord(
  'paymentMethod',
  { method: z.string().min(1) },
  {
    name: 'Payment method',
    test: ({ method }, facts) => known(facts.paymentMethod, (used) => used === method),
    describe: ({ method }) => `paid by ${method}`,
  },
);
