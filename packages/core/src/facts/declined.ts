import { z } from 'zod';
import { factRecord, known } from './record';

/** A no after the payment, in the present order: to what one step offers, or to anything. */
export const declined = factRecord(
  'declined',
  { stepId: z.string().optional().describe('The step with the offer; any of them where it is missing') },
  {
    name: 'Declined an earlier offer',
    test: ({ stepId }, facts) => known(facts.declined, (steps) => (stepId === undefined ? steps.length > 0 : steps.includes(stepId))),
    describe: ({ stepId }, names) => (stepId === undefined ? 'declined an offer' : `declined the offer on “${names.step(stepId)}”`),
  },
);
