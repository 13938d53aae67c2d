import { z } from 'zod';
import { idSchema } from '../ids';

/** What something that takes long is doing, in the order in which it does it. From *writing* on it cannot be stopped. */
export const TASK_PARTS = ['waiting', 'reading', 'checking', 'preparing', 'writing'] as const;
export type TaskPart = (typeof TASK_PARTS)[number];

export const TaskProgressSchema = z.object({
  part: z.enum(TASK_PARTS),
  done: z.int().min(0).describe('How much of this part is done'),
  of: z.int().min(0).describe('Of how much; 0 while that is not known'),
});
export type TaskProgress = z.infer<typeof TaskProgressSchema>;

export const TaskStoppedSchema = z.object({ stopped: z.boolean().describe('False where it was too late, and everything is written') });

/** The id that whoever begins a task may give it, to ask how far it is and to stop it. */
export const TaskIdSchema = idSchema('task').optional().describe('An id of your own, by which its progress can be asked and it can be stopped');
