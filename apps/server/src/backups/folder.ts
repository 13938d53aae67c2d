import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Backup } from '@ruta/core/backups';
import type { Config } from '../base/config';

export const ABOUT = 'backup.json';
/** Where one is being made that is not whole yet; nothing of such a name is ever restored. */
export const UNFINISHED = '.unfinished-';

export const backupFolder = ({ backupDir, dataDir }: Pick<Config, 'backupDir' | 'dataDir'>): string => backupDir ?? path.join(dataDir, 'backups');

/** The name of a backup: its moment, as it sorts. */
export const nameOf = (at: number): string => new Date(at).toISOString().slice(0, 19).replaceAll(':', '-');

/** Every backup that is whole, the newest first. */
export function listBackups(config: Pick<Config, 'backupDir' | 'dataDir'>): Backup[] {
  const folder = backupFolder(config);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => !name.startsWith('.') && existsSync(path.join(folder, name, ABOUT)))
    .map((name) => ({ ...(JSON.parse(readFileSync(path.join(folder, name, ABOUT), 'utf8')) as Omit<Backup, 'name'>), name }))
    .sort((a, b) => b.at - a.at);
}
