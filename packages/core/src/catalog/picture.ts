import { z } from 'zod';

/** A stored picture: its own size in pixels and the widths it is kept at, smallest first. */
export const PictureInfoSchema = z.object({ id: z.string(), width: z.int(), height: z.int(), widths: z.array(z.int()) });
export type PictureInfo = z.infer<typeof PictureInfoSchema>;
