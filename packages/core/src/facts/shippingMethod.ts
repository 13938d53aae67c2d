import { z } from 'zod';
import { factRecord, known } from './record';

export const shippingMethod = factRecord(
  'shippingMethod',
  { zone: z.string().optional().describe('Any shipping if it is missing') },
  {
    name: 'Shipping',
    test: ({ zone }, facts) => known(facts.shippingMethod, (used) => (zone === undefined ? used !== null : used === zone)),
    describe: ({ zone }) => (zone === undefined ? 'has something sent' : `has something sent by “${zone}”`),
  },
);
