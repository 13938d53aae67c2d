import { z } from 'zod';
import { eventRecord } from '../record';

export const pageViewed = eventRecord({ kind: 'page.viewed', payload: z.object({}), words: (_payload, { stop }) => `Saw “${stop ?? 'a page'}”` });
