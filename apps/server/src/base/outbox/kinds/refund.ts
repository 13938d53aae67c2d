import { z } from 'zod';
import { outboxKind } from '../outbox';

/** Money that the processor is to give back. */
export const refund = outboxKind({
  kind: 'refund',
  // Nobody gives up what is owed to a buyer.
  tireless: true,
  payload: z.object({ refundId: z.string(), words: z.string().describe('The amount as people read it') }),
  words: ({ words }) => ({ to: 'the card processor', subject: `Give back ${words}` }),
});
