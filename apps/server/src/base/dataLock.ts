import path from 'node:path';
import Database from 'better-sqlite3';

/** A server that is just ending gets so long to let go. */
const PATIENCE_MS = 2000;

/**
 * Takes a data folder for one server alone. It is a lock of the system's on a file, held by SQLite: however the server ends, it
 * is free again.
 * @returns lets go of it
 * @throws Error with a one-line message if another server has it
 */
export function lockDataDir(dataDir: string): () => void {
  const lock = new Database(path.join(dataDir, 'server.lock'), { timeout: PATIENCE_MS });
  try {
    lock.pragma('journal_mode = MEMORY');
    lock.exec('BEGIN EXCLUSIVE');
  } catch {
    lock.close();
    throw new Error(`Another Ruta server uses the data folder ${dataDir}. Stop it first, or set RUTA_DATA to another folder.`);
  }
  return () => lock.close();
}
