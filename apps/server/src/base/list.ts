import type { ListPage, ListQuery } from '@ruta/core/lists';
import { and, asc, count, desc, eq, gt, lt, or, type SQL, sql } from 'drizzle-orm';
import type { SQLiteColumn, SQLiteTable } from 'drizzle-orm/sqlite-core';
import type { Db } from './db';
import { fieldRefusal } from './problem';

/** A list's columns by the names that its requests use, the first one the list's own order; and the id that settles ties. */
export interface Sorting {
  columns: Record<string, SQLiteColumn>;
  id: SQLiteColumn;
}

/** How one page of a list is asked for in SQL. */
export interface Keyset {
  /** What comes after the page before; undefined for the first page. */
  after: SQL | undefined;
  order: SQL[];
  /** One more than is shown, to know whether there is more. */
  limit: number;
  column: SQLiteColumn;
}

/**
 * The part of a query that pages by key: rows after the last one seen, so that a page costs the same however far down it
 * is, and rows that come meanwhile move nothing.
 * @throws Refusal 400 if there is no such column, or the key is not one of ours
 */
export function keyset({ columns, id }: Sorting, { sort, direction, after, limit }: ListQuery): Keyset {
  const name = sort ?? Object.keys(columns)[0] ?? '';
  const column = Object.hasOwn(columns, name) ? columns[name] : undefined;
  if (!column) throw fieldRefusal('sort', `This list cannot be sorted by “${name}”.`);
  const key = after === undefined ? undefined : readKey(after);
  const beyond = direction === 'asc' ? gt : lt;
  const way = direction === 'asc' ? asc : desc;
  return {
    column,
    limit: limit + 1,
    order: [way(column), way(id)],
    after: key && or(beyond(column, key.value), and(eq(column, key.value), beyond(id, key.id))),
  };
}

/**
 * Rows by the names of the fields they were asked with, as the driver gives them: a list has thousands of cells, and the
 * query builder's own mapping of each costs more than reading them. Columns of JSON stay text.
 * @param values of the query with these fields
 */
export function rowsOf<Row>(fields: { [Name in keyof Row]: unknown }, values: unknown[][]): Row[] {
  const names = Object.keys(fields);
  return values.map((cells) => {
    const row: Record<string, unknown> = {};
    for (let at = 0; at < names.length; at++) row[names[at] as string] = cells[at];
    return row as Row;
  });
}

/** The page itself: without the row too many, and with the key by which the next one is asked for. */
export function pageOf<Row extends { id: string }>(rows: Row[], { limit }: Pick<Keyset, 'limit'>, keyOf: (row: Row) => string | number): ListPage<Row> {
  const shown = rows.slice(0, limit - 1);
  const last = rows.length === limit ? shown.at(-1) : undefined;
  return { rows: shown, next: last ? Buffer.from(JSON.stringify([keyOf(last), last.id])).toString('base64url') : null };
}

function readKey(after: string): { value: string | number; id: string } {
  try {
    const [value, id] = JSON.parse(Buffer.from(after, 'base64url').toString('utf8')) as unknown[];
    if ((typeof value === 'string' || typeof value === 'number') && typeof id === 'string') return { value, id };
  } catch {
    // Falls through to the same refusal: whatever it is, it is no key.
  }
  throw fieldRefusal('after', 'This is not where a page of this list ended.');
}

/** Whether one of several columns holds what was searched for; undefined for an empty search. `%` and `_` stand for themselves. */
export function searched(search: string, columns: ReadonlyArray<SQLiteColumn | SQL>): SQL | undefined {
  if (search === '') return undefined;
  const pattern = `%${search.replace(/[\\%_]/g, (mark) => `\\${mark}`)}%`;
  return or(...columns.map((column) => sql`${column} LIKE ${pattern} ESCAPE '\\'`));
}

/** How many rows of a table fit. */
export function countRows(db: Db, table: SQLiteTable, where: SQL | undefined): number {
  return db.select({ rows: count() }).from(table).where(where).get()?.rows ?? 0;
}
