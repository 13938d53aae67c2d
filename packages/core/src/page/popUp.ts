import { z } from 'zod';
import { idSchema } from '../ids';

/** What opens a pop-up. */
export const PopUpTriggerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('seconds'), seconds: z.int().min(1, 'At least one second.').max(600, 'At most ten minutes.') }),
  z.object({ kind: z.literal('scroll'), percent: z.int().min(1).max(100) }),
  z.object({ kind: z.literal('leaving') }),
  z.object({ kind: z.literal('click') }),
]);
export type PopUpTrigger = z.infer<typeof PopUpTriggerSchema>;

/** How often it opens by itself for one visitor. Somebody who closed it is never shown it twice on one page. */
export const POP_UP_OFTEN = { visit: 'Once a visit', day: 'Once a day', week: 'Once a week', once: 'Only once', always: 'On every page view' } as const;
export type PopUpOften = keyof typeof POP_UP_OFTEN;

/** A pop-up of a page. What it shows are the sections of the page that carry its id. */
export const PopUpSchema = z.object({
  id: idSchema('popUp'),
  name: z.string().trim().min(1, 'Give the pop-up a name.').max(60),
  trigger: PopUpTriggerSchema,
  often: z.enum(Object.keys(POP_UP_OFTEN) as [PopUpOften, ...PopUpOften[]]),
  width: z.enum(['narrow', 'normal', 'wide']),
});
export type PopUp = z.infer<typeof PopUpSchema>;
