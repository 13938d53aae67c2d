import { z } from 'zod';
import { factRecord, known } from './record';

export const orderTotal = factRecord(
  'orderTotal',
  { operator: z.enum(['at least', 'under']), amount: z.int().min(0).describe('Goods after discounts without tax and shipping, minor units') },
  {
    name: 'Order total',
    test: ({ operator, amount }, facts) => known(facts.orderTotal, (total) => (operator === 'at least' ? total >= amount : total < amount)),
    describe: ({ operator, amount }, { money }) => `order ${operator} ${money(amount)}`,
  },
);
