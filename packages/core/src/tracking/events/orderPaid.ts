import { z } from 'zod';
import { eventRecord } from '../record';

export const orderPaid = eventRecord({
  kind: 'order.paid',
  payload: z.object({ value: z.int().optional().describe('Paid that day, tax and shipping included, minor units'), currency: z.string().optional() }),
  words: ({ value }, { money }) => (value ? `Paid ${money(value)}` : 'Bought, nothing due that day'),
});
