import { accessSync, constants, existsSync, statSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { whyUnwritten } from './writes';

const WHAT_TO_DO = 'Put a backup back with “npm run backup -- restore”; “npm run backup -- list” names them.';

/** Whether a SQLite file is whole; what is wrong with it in a few words if it is not. */
export function damageOf(file: string): string | null {
  try {
    const raw = new Database(file, { readonly: true, fileMustExist: true });
    try {
      const [found] = raw.pragma('quick_check(1)') as Array<{ quick_check: string }>;
      return found?.quick_check === 'ok' ? null : (found?.quick_check ?? 'it cannot be checked').split('\n')[0] || 'it cannot be checked';
    } finally {
      raw.close();
    }
  } catch (error) {
    return (error as Error).message;
  }
}

/**
 * Why the database could not be opened, in one line for whoever starts the server.
 * @param error what the driver threw
 */
export function openingProblem(file: string, error: unknown): Error {
  const why = whyUnwritten(error);
  const words: Record<string, string> = {
    'the disk is full': 'the disk is full. Free some space, then start again',
    'the data folder cannot be written': 'it, or its folder, cannot be written. Give yourself the right to, then start again',
    'the database is busy with something long': 'another program holds it. End that program, then start again',
    'the disk does not answer': 'the disk does not answer, or its folder is not there any more. Look at the disk, then start again',
    'the database is damaged': `it is damaged. ${WHAT_TO_DO.replace(/\.$/, '')}`,
  };
  return why && words[why] ? new Error(`The database ${file} cannot be opened: ${words[why]}.`, { cause: error }) : (error as Error);
}

/**
 * Looks at the database of a data folder before anything is served from it. Beside a key that is there, an empty or a missing
 * one was lost: a new shop in its place could be taken by whoever comes first.
 * @param hadKey whether the key file was there already
 * @throws Error with a one-line message that names the file and what to do
 */
export function refuseDamaged(dataDir: string, hadKey: boolean): void {
  const file = path.join(dataDir, 'shop.sqlite');
  if (!existsSync(file)) {
    if (hadKey) throw new Error(`The database ${file} is missing beside its key file. ${WHAT_TO_DO} To begin a new shop in this folder, move secret.key away.`);
    return;
  }
  const found = statSync(file);
  if (!found.isFile()) throw new Error(`${file} is no file. ${WHAT_TO_DO}`);
  try {
    accessSync(file, constants.R_OK | constants.W_OK);
  } catch {
    throw new Error(`The database ${file} cannot be read and written by whoever starts the server. Give yourself the right to, or start it as its owner.`);
  }
  if (found.size === 0) {
    throw new Error(`The database ${file} is empty. ${WHAT_TO_DO} To begin a new shop in this folder, move secret.key and shop.sqlite away.`);
  }
  const damage = damageOf(file);
  if (damage) throw new Error(`The database ${file} is damaged (${damage}). ${WHAT_TO_DO}`);
}
