import { createHash } from 'node:crypto';

/** The id of an event that happens once for what it is about, however often it is told: it is made of that. */
export const onceId = (...about: string[]): string => `evt_${createHash('sha256').update(about.join(' ')).digest('hex').slice(0, 28)}`;
