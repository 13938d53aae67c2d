import { z } from 'zod';
import { elementRecord } from './record';

export const spacer = elementRecord('spacer', { size: z.enum(['small', 'medium', 'large']) })({
  name: 'Spacer',
  create: () => ({ size: 'medium' }),
  words: () => [],
});
