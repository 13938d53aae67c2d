import { z } from 'zod';

/** One thing that happened to an order or a contact, in words. */
export const StoryEntrySchema = z.object({ at: z.int(), kind: z.string(), words: z.string() });
export type StoryEntry = z.infer<typeof StoryEntrySchema>;
