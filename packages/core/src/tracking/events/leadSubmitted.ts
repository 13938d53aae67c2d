import { z } from 'zod';
import { atStop, eventRecord } from '../record';

export const leadSubmitted = eventRecord({
  kind: 'lead.submitted',
  payload: z.object({
    form: z.string().optional().describe('Id of the form element'),
    again: z.boolean().optional().describe('By a contact who had sent this form before: no further lead to platforms, webhooks and tags'),
  }),
  words: ({ again }, place) => `${again ? 'Sent the form again' : 'Left an address'}${atStop(place)}`,
});
