import Database from 'better-sqlite3';
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import * as tables from './tables';

/** A shop's database: the handle itself inside or outside a transaction. */
export type Db = BetterSQLite3Database<typeof tables>;

export interface OpenDb {
  db: Db;
  raw: Database.Database;
  close: () => void;
}

/**
 * Opens a shop's SQLite file and brings its tables up to date. Every commit is on disk before it is answered
 * (`synchronous = FULL`), since a paid order must survive whatever happens next.
 * @param file path of the file, or `:memory:`
 * @param migrations folder with drizzle-kit's migrations
 */
export function openDb(file: string, migrations: string): OpenDb {
  const raw = new Database(file);
  raw.pragma('journal_mode = WAL');
  raw.pragma('synchronous = FULL');
  raw.pragma('busy_timeout = 5000');
  const db = drizzle(raw, { schema: tables, casing: 'snake_case' });
  // A migration that rebuilds a table drops it for a moment, which foreign keys would take for deleting its rows.
  raw.pragma('foreign_keys = OFF');
  migrate(db, { migrationsFolder: migrations });
  raw.pragma('foreign_keys = ON');
  return { db, raw, close: () => raw.close() };
}
