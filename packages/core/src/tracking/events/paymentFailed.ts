import { z } from 'zod';
import { eventRecord } from '../record';

const REASONS: Record<string, string> = {
  'no-funds': 'not enough money on the card',
  'expired-card': 'the card has expired',
  'stolen-card': 'the card was reported stolen',
  'not-confirmed': 'the buyer did not confirm',
  unavailable: 'the processor was not available',
  'never-arrived': 'it did not reach the processor',
};

export const paymentFailed = eventRecord({
  kind: 'payment.failed',
  payload: z.object({ reason: z.string().optional() }),
  words: ({ reason }) => `The payment failed: ${REASONS[reason ?? ''] ?? 'the bank refused it'}`,
});
