import { z } from 'zod';
import { factRecord, known } from './record';

export const code = factRecord(
  'code',
  { code: z.string().optional().describe('Any code if it is missing') },
  {
    name: 'Discount code',
    test: ({ code: asked }, facts) => known(facts.code, (used) => (asked === undefined ? used !== null : used === asked)),
    describe: ({ code: asked }) => (asked === undefined ? 'used a discount code' : `used the code ${asked}`),
  },
);
