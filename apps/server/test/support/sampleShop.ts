import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const HOUR_MS = 60 * 60 * 1000;
const PREFIX = 'ruta-sample-shop-';

/**
 * Fills a data folder with the sample shop. Loading it plays 120 days of visitors, so that it is loaded once for a build and an hour, and copied
 * from then on; of test processes that ask at the same time one loads and the others wait.
 * @param load loads the sample shop into the folder it is given
 */
export async function copySampleShop(into: string, builtFrom: string, load: (data: string) => Promise<void>): Promise<void> {
  const kept = path.join(tmpdir(), `${PREFIX}${Math.round(statSync(builtFrom).mtimeMs)}-${Math.floor(Date.now() / HOUR_MS)}`);
  while (!existsSync(kept)) {
    if (begins(`${kept}.lock`)) {
      const loading = `${kept}.loading`;
      rmSync(loading, { recursive: true, force: true });
      mkdirSync(loading);
      try {
        forgetOlder();
        await load(loading);
        renameSync(loading, kept);
      } finally {
        rmSync(`${kept}.lock`, { force: true });
      }
    } else await new Promise((resolve) => setTimeout(resolve, 200));
  }
  cpSync(kept, into, { recursive: true });
}

/** Whether this process is the one that loads: nobody else is at it, or whoever was at it has ended in the middle. */
function begins(lock: string): boolean {
  try {
    if (existsSync(lock) && !lives(Number(readFileSync(lock, 'utf8')))) rmSync(lock, { force: true });
    writeFileSync(lock, String(process.pid), { flag: 'wx' });
    return true;
  } catch {
    // Somebody else has just taken it, or has just given it back: looked at again in a moment.
    return false;
  }
}

/** Whether a process is there; one that has only just taken the lock has not written who it is yet. */
function lives(pid: number): boolean {
  try {
    return pid === 0 || process.kill(pid, 0);
  } catch {
    return false;
  }
}

/** Removes the sample shops of earlier runs. */
function forgetOlder(): void {
  for (const name of readdirSync(tmpdir())) {
    const folder = path.join(tmpdir(), name);
    if (name.startsWith(PREFIX) && Date.now() - statSync(folder).mtimeMs > 2 * HOUR_MS) rmSync(folder, { recursive: true, force: true });
  }
}
