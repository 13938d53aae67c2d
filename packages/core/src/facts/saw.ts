import { z } from 'zod';
import { factRecord, known } from './record';

/** Whether somebody has seen the page of a step, on any visit. */
export const saw = factRecord(
  'saw',
  { stepId: z.string() },
  {
    name: 'Saw a page',
    test: ({ stepId }, facts) => known(facts.seen, (steps) => steps.includes(stepId)),
    describe: ({ stepId }, names) => `saw “${names.step(stepId)}”`,
  },
);
