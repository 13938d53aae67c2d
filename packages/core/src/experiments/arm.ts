import { z } from 'zod';

/** What came of one arm. */
export const ArmSchema = z
  .object({
    name: z.string().min(1),
    share: z.number().gt(0, 'A share must be above 0.').describe('Planned, in whatever unit; shares are taken relative to each other'),
    visitors: z.int().min(0),
    converted: z.int().min(0),
    revenues: z.array(z.number()).optional().describe('Net revenue of each visitor who brought any, minor units; all others brought 0'),
  })
  .refine(({ visitors, converted }) => converted <= visitors, { message: 'More reached the goal than came.', path: ['converted'] })
  .refine(({ visitors, revenues }) => (revenues?.length ?? 0) <= visitors, { message: 'More brought revenue than came.', path: ['revenues'] });
export type Arm = z.infer<typeof ArmSchema>;
