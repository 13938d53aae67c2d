import { z } from 'zod';
import { idSchema } from '../ids';
import { elementRecord } from './record';
import { WordsSchema } from './words';

/** Whether an address is one of a video file, which a browser plays by itself; any other is shown in a frame. */
export const isVideoFile = (address: string): boolean => /\.(mp4|m4v|webm|ogv|mov)(\?|#|$)/i.test(address);

/** Where a video comes from: an uploaded file, or the address of a file or of a player's page. */
export const VideoSourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('file'), fileId: idSchema('file'), name: z.string().max(200) }),
  z.object({
    kind: z.literal('address'),
    url: z.url({ protocol: /^https$/, error: 'Give the address of a video or of its player: it begins with https://' }).max(1000),
  }),
]);
export type VideoSource = z.infer<typeof VideoSourceSchema>;

export const video = elementRecord('video', {
  source: VideoSourceSchema.nullable(),
  posterId: idSchema('file').nullable(),
  title: z.string().max(160).describe('What it is about, for people who cannot see it'),
  shape: z.enum(['wide', 'square', 'tall']),
  caption: WordsSchema,
})({
  name: 'Video',
  create: () => ({ source: null, posterId: null, title: '', shape: 'wide', caption: [] }),
  words: () => [['caption']],
});
