import { z } from 'zod';

/** Of very many who brought something: those that are not listed, added up. Each of them weighs less than any that is. */
const OthersSchema = z
  .object({ count: z.int().min(0), sum: z.number(), squares: z.number().min(0) })
  .describe('Of very many who brought something, those not listed in `revenues`, added up: how many, what they brought, and the squares of it');
export type OtherRevenues = z.infer<typeof OthersSchema>;

/** How many brought something. */
export const countOf = ({ revenues, others }: { revenues?: readonly number[] | undefined; others?: OtherRevenues | undefined }): number =>
  (revenues?.length ?? 0) + (others?.count ?? 0);

/** What came of one arm. */
export const ArmSchema = z
  .object({
    name: z.string().min(1),
    share: z.number().gt(0, 'A share must be above 0.').describe('Planned, in whatever unit; shares are taken relative to each other'),
    visitors: z.int().min(0),
    converted: z.int().min(0),
    others: OthersSchema.optional(),
    revenues: z.array(z.number()).optional().describe('Net revenue of each visitor who brought any, minor units; all others brought 0'),
  })
  .refine(({ visitors, converted }) => converted <= visitors, { message: 'More reached the goal than came.', path: ['converted'] })
  .refine(({ visitors, revenues, others }) => countOf({ revenues, others }) <= visitors, { message: 'More brought revenue than came.', path: ['revenues'] });
export type Arm = z.infer<typeof ArmSchema>;
