import { fromLocalTime } from '@ruta/core/shop';
import { and, gte, lt, type SQL } from 'drizzle-orm';
import type { SQLiteColumn } from 'drizzle-orm/sqlite-core';
import type { Db } from '../base/db';
import { loadShop } from './store';

const DAY_MS = 24 * 60 * 60 * 1000;

/** Moments of whole days in the shop's zone, as lists are filtered by them; a day that is missing bounds nothing. */
export function withinDays(db: Db, moment: SQLiteColumn, { from, until }: { from?: string | undefined; until?: string | undefined }): SQL | undefined {
  const midnight = (day: string, daysOn = 0) => {
    const next = new Date(Date.parse(`${day}T00:00Z`) + daysOn * DAY_MS).toISOString().slice(0, 10);
    return fromLocalTime(`${next}T00:00`, loadShop(db).settings.timeZone) ?? 0;
  };
  return and(from === undefined ? undefined : gte(moment, midnight(from)), until === undefined ? undefined : lt(moment, midnight(until, 1)));
}
