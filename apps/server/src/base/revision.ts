import { createHash } from 'node:crypto';
import type { Request } from 'express';
import { Refusal } from './problem';

const LETTERS = 16;

/** Stands for one state of something, so that a window can say which one it began with. */
export const revisionOf = (value: unknown): string => createHash('sha256').update(JSON.stringify(value)).digest('base64url').slice(0, LETTERS);

/**
 * Refuses a change that was begun from an older state, by the standard's `If-Match`. Other programs may leave it out.
 * @param what begins the sentence: `This product was`
 * @throws Refusal 409 if what is changed is not what the request began with
 */
export function refuseOlder(request: Request, what: string, current: string | number): void {
  const begun = request.get('if-match')?.replaceAll('"', '');
  if (begun === undefined || begun === String(current)) return;
  throw new Refusal(
    409,
    `${what} changed in another window meanwhile, so nothing was saved here. Reload to see that version; what you typed stays here until then.`,
  );
}
