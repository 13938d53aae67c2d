import { cpSync, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { Backup } from '@ruta/core/backups';
import type { Config } from '../base/config';
import { syncPath } from '../base/durable';
import { damageOf } from '../base/refuseDamaged';
import { backupFolder, listBackups, nameOf } from './folder';

const PARTS = ['shop.sqlite', 'shop.sqlite-wal', 'shop.sqlite-shm', 'secret.key', 'files', 'pictures'];

/**
 * Puts a backup in the place of what is in the data folder. What was there is moved aside, not deleted. To be called while no
 * server uses the folder.
 * @param name the newest one if it is missing
 * @throws Error with a one-line message if there is no such backup, or it is damaged; then nothing is changed
 */
export function restoreBackup(config: Pick<Config, 'dataDir' | 'backupDir'>, name: string | undefined, now: number): { backup: Backup; aside: string } {
  const all = listBackups(config);
  const backup = name === undefined ? all[0] : all.find((each) => each.name === name);
  if (!backup) {
    throw new Error(
      all.length === 0
        ? `There is no backup in ${backupFolder(config)}.`
        : `There is no backup “${name}” in ${backupFolder(config)}. There are ${all.map((each) => each.name).join(', ')}.`,
    );
  }
  const from = path.join(backupFolder(config), backup.name);
  const damage = damageOf(path.join(from, 'shop.sqlite'));
  if (damage) throw new Error(`The backup ${backup.name} is damaged (${damage}). Choose another one.`);
  const aside = path.join(config.dataDir, `before-restore-${nameOf(now)}`);
  mkdirSync(aside, { recursive: true, mode: 0o700 });
  for (const part of PARTS) if (existsSync(path.join(config.dataDir, part))) renameSync(path.join(config.dataDir, part), path.join(aside, part));
  try {
    for (const part of PARTS) if (existsSync(path.join(from, part))) cpSync(path.join(from, part), path.join(config.dataDir, part), { recursive: true });
    for (const part of ['shop.sqlite', 'secret.key', '.']) syncPath(path.join(config.dataDir, part));
  } catch (error) {
    // Half of one is none: what was there comes back.
    for (const part of PARTS) {
      if (!existsSync(path.join(aside, part))) continue;
      rmSync(path.join(config.dataDir, part), { recursive: true, force: true });
      renameSync(path.join(aside, part), path.join(config.dataDir, part));
    }
    throw new Error(`The backup could not be put back, and everything is as it was: ${(error as Error).message}`);
  }
  return { backup, aside };
}
