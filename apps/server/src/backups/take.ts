import { constants, existsSync } from 'node:fs';
import { chmod, copyFile, link, mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Backup } from '@ruta/core/backups';
import Database from 'better-sqlite3';
import type { Config } from '../base/config';
import { syncFiles, syncPath } from '../base/durable';
import { damageOf } from '../base/refuseDamaged';
import { ABOUT, backupFolder, listBackups, nameOf, UNFINISHED } from './folder';
import { keptByAge } from './keptByAge';

/** So many pages of the database are copied before visitors are answered in between: about a megabyte. */
const PAGES_AT_ONCE = 250;
const COPIED = ['files', 'pictures'];

type Needs = Pick<Config, 'dataDir' | 'backupDir'>;

/**
 * Makes a backup while the shop goes on selling: the database by SQLite's own online copy, in slices; then the files, which
 * never change once they are there, so that on the same disk they take no room; and the key. It is opened and checked before
 * it counts, and those that are too old are dropped.
 * @param raw a connection to the shop's database
 * @throws Error with a one-line message if it could not be made; what was begun is removed
 */
export async function takeBackup(config: Needs, raw: Database.Database, now: number): Promise<Backup> {
  const folder = backupFolder(config);
  const name = nameOf(now);
  const making = path.join(folder, UNFINISHED + name);
  try {
    await mkdir(making, { recursive: true, mode: 0o700 });
    const copy = path.join(making, 'shop.sqlite');
    await raw.backup(copy, { progress: () => PAGES_AT_ONCE });
    await chmod(copy, 0o600);
    const counted = checked(copy);
    let files = 0;
    for (const each of COPIED) files += await keepTree(path.join(config.dataDir, each), path.join(making, each));
    await copyFile(path.join(config.dataDir, 'secret.key'), path.join(making, 'secret.key'), constants.COPYFILE_EXCL);
    await chmod(path.join(making, 'secret.key'), 0o600);
    const about = { at: now, bytes: (await stat(copy)).size, files, ...counted };
    await writeFile(path.join(making, ABOUT), JSON.stringify(about), { mode: 0o600 });
    await syncFiles([copy, path.join(making, 'secret.key'), path.join(making, ABOUT)]);
    await rename(making, path.join(folder, name));
    syncPath(folder);
    await dropOld(config, now);
    return { name, ...about };
  } catch (error) {
    // What cannot be removed either is of no backup, and is dropped at the next start; the first failure says more.
    await rm(making, { recursive: true, force: true }).catch(() => undefined);
    throw new Error(`The backup in ${folder} could not be made: ${(error as Error).message}`);
  }
}

/** Opens a copy and looks whether it is whole. @throws Error saying what is wrong with it */
function checked(copy: string): { orders: number; contacts: number } {
  const damage = damageOf(copy);
  if (damage) throw new Error(`the copy is damaged (${damage})`);
  const raw = new Database(copy);
  try {
    // It stands for itself, without the files beside it that a database in use has.
    raw.pragma('journal_mode = DELETE');
    const count = (table: string) => (raw.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n;
    return { orders: count('orders'), contacts: count('contacts') };
  } finally {
    raw.close();
  }
}

/** Keeps a folder's files: as further names of the same files where the disk can, else as copies. @returns how many */
async function keepTree(from: string, to: string): Promise<number> {
  if (!existsSync(from)) return 0;
  await mkdir(to, { recursive: true, mode: 0o700 });
  let count = 0;
  for (const entry of await readdir(from, { withFileTypes: true })) {
    const [source, target] = [path.join(from, entry.name), path.join(to, entry.name)];
    if (entry.isDirectory()) count += await keepTree(source, target);
    else if (entry.isFile()) {
      await link(source, target).catch(() => copyFile(source, target));
      count++;
    }
  }
  return count;
}

async function dropOld(config: Needs, now: number): Promise<void> {
  const all = listBackups(config);
  const kept = keptByAge(
    all.map(({ at }) => at),
    now,
  );
  for (const { name, at } of all) if (!kept.has(at)) await rm(path.join(backupFolder(config), name), { recursive: true, force: true });
}
