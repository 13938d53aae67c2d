import { z } from 'zod';
import { eventRecord } from '../record';

export const fileFetched = eventRecord({
  kind: 'file.fetched',
  payload: z.object({ file: z.string().optional() }),
  words: ({ file }) => `Fetched “${file ?? 'a file'}”`,
});
