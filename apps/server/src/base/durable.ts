import { closeSync, fsyncSync, openSync, renameSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import path from 'node:path';

// A machine that loses its power brings back what was synced to the disk; of anything else it may bring back the name alone.

/** Writes a file whole or not at all, and waits until it is on the disk. */
export function writeWhole(file: string, content: string | Uint8Array): void {
  const making = `${file}.part`;
  writeFileSync(making, content, { mode: 0o600, flush: true });
  renameSync(making, file);
  syncPath(path.dirname(file));
}

/** Waits until files, and the names of them in their folders, are on the disk. */
export async function syncFiles(files: readonly string[]): Promise<void> {
  for (const file of files) {
    const handle = await open(file, 'r');
    await handle.sync().finally(() => handle.close());
  }
  for (const folder of new Set(files.map((file) => path.dirname(file)))) syncPath(folder);
}

/** Waits until one file, or the names in a folder, are on the disk; for what is small. */
export function syncPath(place: string): void {
  const handle = openSync(place, 'r');
  try {
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
}
