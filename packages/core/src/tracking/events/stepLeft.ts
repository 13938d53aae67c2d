import { z } from 'zod';
import { eventRecord } from '../record';

export const stepLeft = eventRecord({ kind: 'step.left', payload: z.object({}), words: (_payload, { stop }) => `Went on from “${stop ?? 'a page'}”` });
