import { z } from 'zod';
import { eventRecord } from '../record';

export const appointmentCancelled = eventRecord({
  kind: 'appointment.cancelled',
  payload: z.object({ bookingId: z.string(), at: z.int().describe('When it would have been, Unix time in milliseconds') }),
  words: () => 'The appointment was cancelled by the shop',
});
