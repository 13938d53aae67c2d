import { existsSync, statSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';

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
  if (statSync(file).size === 0) {
    throw new Error(`The database ${file} is empty. ${WHAT_TO_DO} To begin a new shop in this folder, move secret.key and shop.sqlite away.`);
  }
  const damage = damageOf(file);
  if (damage) throw new Error(`The database ${file} is damaged (${damage}). ${WHAT_TO_DO}`);
}
