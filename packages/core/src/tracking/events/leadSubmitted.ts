import { z } from 'zod';
import { atStop, eventRecord } from '../record';

export const leadSubmitted = eventRecord({
  kind: 'lead.submitted',
  payload: z.object({ form: z.string().optional().describe('Id of the form element') }),
  words: (_payload, place) => `Left an address${atStop(place)}`,
});
