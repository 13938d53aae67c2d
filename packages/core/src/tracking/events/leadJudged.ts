import { z } from 'zod';
import { eventRecord } from '../record';

export const leadJudged = eventRecord({
  kind: 'lead.judged',
  payload: z.object({
    isGood: z.boolean(),
    leadEventId: z.string().nullable().describe('The event in which they became a lead, by which a platform knows them'),
    form: z.string().optional().describe('Id of the form they left their address on'),
  }),
  words: ({ isGood }) => `Marked as a ${isGood ? 'good' : 'poor'} lead`,
});
