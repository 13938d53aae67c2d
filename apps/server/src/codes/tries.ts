import type { Limit } from '../base/limits';
import type { Services } from '../base/services';
import { findCode, type StoredCode } from './store';

const WINDOW_MS = 10 * 60_000;
/** So many codes that do not exist may be tried by one person; whoever guesses gets nowhere. */
const WRONG: Limit = { name: 'codes', most: 15, windowMs: WINDOW_MS };
/** A form sends what is typed again and again: one code counts once. */
const SAME: Limit = { name: 'code', most: 1, windowMs: WINDOW_MS };

export interface TriedCode {
  code?: StoredCode | undefined;
  error?: string;
}

/** Looks up a code that somebody typed or came with. */
export function tryCode({ db, limits }: Pick<Services, 'db' | 'limits'>, person: string, typed: string | undefined): TriedCode {
  if (!typed?.trim()) return {};
  if (limits.isReached(WRONG, person)) return { error: 'Too many codes were tried. Wait ten minutes, then try again.' };
  const code = findCode(db, typed);
  if (code) return { code };
  if (limits.take(SAME, `${person} ${typed.trim().toLowerCase()}`)) limits.count(WRONG, person);
  return { error: 'This code is not known. Look for a typing mistake.' };
}
