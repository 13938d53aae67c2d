import { readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { Database } from 'better-sqlite3';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { findShop } from '../shop/store';
import { backupFolder, listBackups, UNFINISHED } from './folder';
import { takeBackup } from './take';

const DAY_MS = 24 * 60 * 60 * 1000;
/** One that failed is tried again after this long: a full disk is not emptied within a second. */
const AGAIN_MS = 60 * 60 * 1000;
/** A server that was just started has other things to do first. */
const FIRST_MS = 60 * 1000;

/** How it stands with the backups of a shop. */
export interface BackupState {
  /** When the newest one was made; null without any. */
  newestAt: number | null;
  /** Why the last try failed; null if it did not. */
  problem: string | null;
}

const states = new WeakMap<Db, { triedAt: number; problem: string | null }>();

/** How it stands with the backups: the newest one, and whether the last try failed. */
export function backupState({ db, config }: Pick<Services, 'db' | 'config'>): BackupState {
  return { newestAt: listBackups(config)[0]?.at ?? null, problem: states.get(db)?.problem ?? null };
}

/** Makes a backup once a day by the clock. One that could not be made is told, and tried again. */
export async function backUpByClock({ db, config, clock, log }: Pick<Services, 'db' | 'config' | 'clock' | 'log'>): Promise<void> {
  const now = clock.now();
  let state = states.get(db);
  if (!state) {
    dropUnfinished(backupFolder(config));
    state = { triedAt: now - AGAIN_MS + FIRST_MS, problem: null };
    states.set(db, state);
  }
  if (!findShop(db) || (now >= state.triedAt && now - state.triedAt < AGAIN_MS)) return;
  const newest = listBackups(config)[0];
  if (newest && now >= newest.at && now - newest.at < DAY_MS) return;
  try {
    await takeBackup(config, (db as Db & { $client: Database }).$client, now);
    states.set(db, { triedAt: now, problem: null });
  } catch (error) {
    const problem = (error as Error).message;
    states.set(db, { triedAt: now, problem });
    log.error({ reason: problem }, 'no backup was made');
  }
}

/** What a server that was ended in the midst of one has left. */
function dropUnfinished(folder: string): void {
  try {
    for (const name of readdirSync(folder)) if (name.startsWith(UNFINISHED)) rmSync(path.join(folder, name), { recursive: true, force: true });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}
