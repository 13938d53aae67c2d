import { z } from 'zod';
import { eventRecord } from '../record';

export const pageViewed = eventRecord({
  kind: 'page.viewed',
  payload: z.object({ outside: z.string().optional().describe('Address of a page on another site') }),
  words: ({ outside }, { stop }) => `Saw “${outside ?? stop ?? 'a page'}”`,
});
