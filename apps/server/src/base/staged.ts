import type Database from 'better-sqlite3';
import { getTableColumns, type InferInsertModel, type SQL, sql } from 'drizzle-orm';
import { getTableConfig, type SQLiteTable } from 'drizzle-orm/sqlite-core';
import type { Db } from './db';

const TOLD_EVERY = 500;

/** A column's name in the database. */
const toSnakeCase = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** Rows that lie ready to be written. */
export interface Staged {
  /**
   * Writes them, within a transaction.
   * @param conflict what becomes of rows that are there already: from `ON CONFLICT` on
   * @param slice some of them only, by their places among the rows: `from` is one of them, `to` is not
   * @returns how many rows were written
   */
  copy: (tx: Db, conflict?: SQL, slice?: { from: number; to: number }) => number;
}

/**
 * Gets many rows of one table ready in a temporary table of this connection, for which nobody else has to wait. What
 * remains to be done while the database is held is to copy them, which takes a quarter of the time.
 * @param rows each with the same columns; what is not among them stays empty
 */
export function stage<Table extends SQLiteTable>(
  db: Db,
  table: Table,
  rows: ReadonlyArray<InferInsertModel<Table>>,
  told?: (done: number, of: number) => void,
): Staged {
  const { $client: raw } = db as Db & { $client: Database.Database };
  const { name } = getTableConfig(table);
  const given = new Set(Object.keys(rows[0] ?? {}));
  const columns = Object.entries(getTableColumns(table)).filter(([key]) => given.has(key));
  const names = columns.map(([, column]) => `"${toSnakeCase(column.name)}"`).join(', ');
  raw.exec(`DROP TABLE IF EXISTS temp.staged; CREATE TEMP TABLE staged AS SELECT ${names || '1'} FROM main."${name}" WHERE 0`);
  const insert = columns.length > 0 ? raw.prepare(`INSERT INTO temp.staged VALUES (${columns.map(() => '?').join(', ')})`) : undefined;
  raw.transaction(() => {
    for (const [index, row] of rows.entries()) {
      if (index % TOLD_EVERY === 0) told?.(index, rows.length);
      insert?.run(columns.map(([key, column]) => driverValue(column, (row as Record<string, unknown>)[key])));
    }
  })();
  return {
    copy: (tx, conflict = sql``, { from, to } = { from: 0, to: rows.length }) =>
      rows.length === 0
        ? 0
        : // Without WHERE the database would take ON for the beginning of a join.
          tx.run(sql`INSERT INTO ${sql.raw(`main."${name}" (${names}) SELECT ${names} FROM temp.staged`)} WHERE rowid > ${from} AND rowid <= ${to} ${conflict}`)
            .changes,
  };
}

function driverValue(column: { mapToDriverValue: (value: unknown) => unknown }, value: unknown): unknown {
  return value === null || value === undefined ? null : column.mapToDriverValue(value);
}

/** The columns of a table that are set anew where a row is there already: `column = excluded.column`. */
export const excluded = (table: SQLiteTable, except: readonly string[]): SQL =>
  sql.raw(
    Object.entries(getTableColumns(table))
      .filter(([key]) => !except.includes(key))
      .map(([, column]) => `"${toSnakeCase(column.name)}" = excluded."${toSnakeCase(column.name)}"`)
      .join(', '),
  );
