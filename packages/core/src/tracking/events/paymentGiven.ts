import { z } from 'zod';
import { eventRecord } from '../record';

export const paymentGiven = eventRecord({
  kind: 'payment.given',
  payload: z.object({ provider: z.string().optional(), value: z.int().optional().describe('Minor units') }),
  words: ({ value }, { money }) => `Gave a card to pay ${value === undefined ? '' : money(value)}`.trim(),
});
