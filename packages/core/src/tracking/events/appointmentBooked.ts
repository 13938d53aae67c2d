import { z } from 'zod';
import { atStop, eventRecord } from '../record';

export const appointmentBooked = eventRecord({
  kind: 'appointment.booked',
  payload: z.object({ bookingId: z.string(), at: z.int().describe('When it is, Unix time in milliseconds') }),
  words: (_payload, place) => `Booked an appointment${atStop(place)}`,
});
