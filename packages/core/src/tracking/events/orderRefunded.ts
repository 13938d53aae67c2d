import { z } from 'zod';
import { eventRecord } from '../record';

export const orderRefunded = eventRecord({
  kind: 'order.refunded',
  payload: z.object({
    value: z.int().describe('Given back, tax and shipping included, minor units'),
    currency: z.string(),
    reason: z.string().default(''),
    isWhole: z.boolean().describe('Whether nothing of the order is left'),
  }),
  words: ({ value, reason, isWhole }, { money }) => `Gave back ${money(value)}${isWhole ? ', with it all of the order' : ''}${reason ? `: ${reason}` : ''}`,
});
