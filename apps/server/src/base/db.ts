import { existsSync } from 'node:fs';
import { folded, foldedCampaign } from '@ruta/core/facts';
import Database from 'better-sqlite3';
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { readMigrationFiles } from 'drizzle-orm/migrator';

/** A shop's database: the handle itself inside or outside a transaction. */
export type Db = BetterSQLite3Database<Record<string, never>>;

export interface OpenDb {
  db: Db;
  raw: Database.Database;
  close: () => void;
}

/** How long the driver waits within a call for whoever is writing. */
export const BUSY_TIMEOUT_MS = 800;

/** Connects to a shop's SQLite file as it is, for another thread of the same server; one that only looks can be told to. */
export function connectDb(file: string, { readonly = false } = {}): OpenDb {
  const raw = new Database(file, { readonly });
  if (!readonly) raw.pragma('journal_mode = WAL');
  raw.pragma('synchronous = FULL');
  // The driver waits within the call, and so does everybody else: longer than this nobody should.
  raw.pragma(`busy_timeout = ${BUSY_TIMEOUT_MS}`);
  raw.pragma('foreign_keys = ON');
  // What is known of how much there is of everything is kept up in a few milliseconds, so that a shop that grows is looked up the right way.
  raw.pragma('analysis_limit = 400');
  addFunctions(raw);
  compileOnce(raw);
  return { db: drizzle(raw, { casing: 'snake_case' }), raw, close: () => raw.close() };
}

/** What migrations ask of a database beside what it can: what SQLite folds are the letters of English alone. */
export function addFunctions(raw: Database.Database): void {
  raw.function('folded', { deterministic: true }, (words) => (typeof words === 'string' ? folded(words) : null));
  raw.function('folded_campaign', { deterministic: true }, (text) => {
    const campaign = typeof text === 'string' ? foldedCampaign(JSON.parse(text) ?? {}) : null;
    return campaign && JSON.stringify(campaign);
  });
}

/**
 * A query that is put together once for each database and then only filled in: the builder's own work costs more than
 * most queries that a payment makes. It may be used inside a transaction, since a shop has one connection.
 * @param build makes the prepared query, with `sql.placeholder` for what changes
 */
export function builtOnce<Query>(build: (db: Db) => Query): (db: Db) => Query {
  const built = new WeakMap<object, Query>();
  return (db) => {
    // The session is what the handle and every transaction of it share.
    const { session } = db as unknown as { session: object };
    let query = built.get(session);
    if (!query) {
      query = build(db);
      built.set(session, query);
    }
    return query;
  };
}

/** Statements that are kept compiled; more than the server has. */
const MOST_STATEMENTS = 1000;

/** Keeps compiled statements by their text: the query builder asks for the same ones again and again, and compiling costs more than most of them. */
function compileOnce(raw: Database.Database): void {
  const compiled = new Map<string, Database.Statement>();
  const prepare = raw.prepare.bind(raw) as (text: string) => Database.Statement;
  raw.prepare = ((text: string) => {
    const known = compiled.get(text);
    // One that is being stepped through by somebody else cannot be used again meanwhile.
    if (known && !known.busy) return known.reader ? known.raw(false) : known;
    const statement = prepare(text);
    if (compiled.size < MOST_STATEMENTS) compiled.set(text, statement);
    return statement;
  }) as typeof raw.prepare;
}

/**
 * Opens a shop's SQLite file and brings its tables up to date. Every commit is on disk before it is answered
 * (`synchronous = FULL`), since a paid order must survive whatever happens next.
 * @param file path of the file, or `:memory:`
 * @param migrations folder with drizzle-kit's migrations
 * @throws Error with a one-line message if a newer release has written the file
 */
export function openDb(file: string, migrations: string): OpenDb {
  refuseNewer(file, migrations);
  const opened = connectDb(file);
  // A migration that rebuilds a table drops it for a moment, which foreign keys would take for deleting its rows.
  opened.raw.pragma('foreign_keys = OFF');
  migrate(opened.db, { migrationsFolder: migrations });
  opened.raw.pragma('foreign_keys = ON');
  opened.raw.pragma('optimize = 0x10002');
  return opened;
}

/** A newer release may keep things that this one would not see, and lose. Its file is only read. */
function refuseNewer(file: string, migrations: string): void {
  if (!existsSync(file)) return;
  const raw = new Database(file, { readonly: true });
  try {
    const table = raw.prepare("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = '__drizzle_migrations'").get();
    if (!table) return;
    const { newest } = raw.prepare('SELECT max(created_at) AS newest FROM __drizzle_migrations').get() as { newest: number | null };
    const known = Math.max(...readMigrationFiles({ migrationsFolder: migrations }).map((migration) => migration.folderMillis));
    if (newest !== null && newest > known)
      throw new Error(`${file} was written by a newer release of Ruta. Start that release, or set RUTA_DATA to another folder.`);
  } finally {
    raw.close();
  }
}
