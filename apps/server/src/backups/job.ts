import { readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { Backups } from '@ruta/core/backups';
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

type Needs = Pick<Services, 'db' | 'config' | 'clock' | 'log'>;

/** How it stands with the backups of a shop. */
export interface BackupState {
  /** When the newest one was made; null without any. */
  newestAt: number | null;
  /** Why the last try failed; null if it did not. */
  problem: string | null;
}

const states = new WeakMap<Db, { triedAt: number; problem: string | null; making: Promise<void> | null }>();

/** How it stands with the backups: the newest one, and whether the last try failed. */
export function backupState({ db, config }: Pick<Services, 'db' | 'config'>): BackupState {
  return { newestAt: listBackups(config)[0]?.at ?? null, problem: states.get(db)?.problem ?? null };
}

/** Makes a backup once a day by the clock. One that could not be made is told, and tried again. */
export async function backUpByClock({ db, config, clock, log }: Needs): Promise<void> {
  const now = clock.now();
  let state = states.get(db);
  if (!state) {
    dropUnfinished(backupFolder(config));
    state = { triedAt: now - AGAIN_MS + FIRST_MS, problem: null, making: null };
    states.set(db, state);
  }
  if (!findShop(db) || (now >= state.triedAt && now - state.triedAt < AGAIN_MS)) return;
  const newest = listBackups(config)[0];
  if (newest && now >= newest.at && now - newest.at < DAY_MS) return;
  await backUpNow({ db, config, clock, log });
}

/** Makes a backup now, or waits for the one that is being made. Whatever keeps it from being made is told by `backupState`. */
export function backUpNow({ db, config, clock, log }: Needs): Promise<void> {
  const state = states.get(db) ?? { triedAt: 0, problem: null, making: null };
  states.set(db, state);
  state.making ??= takeBackup(config, (db as Db & { $client: Database }).$client, clock.now())
    .then(
      () => null,
      (error: Error) => error.message,
    )
    .then((problem) => {
      if (problem) log.error({ reason: problem }, 'no backup was made');
      Object.assign(state, { triedAt: clock.now(), problem, making: null });
    });
  return state.making;
}

/** The backups there are, and whether one is being made. */
export function backupsOf({ db, config }: Pick<Services, 'db' | 'config'>): Backups {
  const { making = null, problem = null } = states.get(db) ?? {};
  return { folder: backupFolder(config), isMaking: making !== null, problem, backups: listBackups(config) };
}

/** What a server that was ended in the midst of one has left. */
function dropUnfinished(folder: string): void {
  try {
    for (const name of readdirSync(folder)) if (name.startsWith(UNFINISHED)) rmSync(path.join(folder, name), { recursive: true, force: true });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}
