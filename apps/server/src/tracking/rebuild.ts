import { dayFinder } from '@ruta/core/shop';
import type { TrackedEvent } from '@ruta/core/tracking';
import { asc, gt, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { loadShop } from '../shop/store';
import type { Tracked } from './recorder';
import { events, rollUpState } from './tables';

/** So many events are read anew before visitors are answered in between; so many old rows are dropped. */
const SLICE = 400;
const DROPPED = 2000;

/** How far a rebuild is. */
export interface RebuildProgress {
  isRunning: boolean;
  /** Events read so far, and of how many. */
  done: number;
  of: number;
}

const running = new WeakMap<Db, RebuildProgress>();

/** How far the rebuild of a shop's figures is, if one is under way. */
export const rebuildProgress = (db: Db): RebuildProgress => running.get(db) ?? { isRunning: false, done: 0, of: 0 };

const pause = () => new Promise<void>((resolve) => setImmediate(resolve));
const rowId = sql<number>`${events}.rowid`;

/**
 * Makes the roll-ups anew from the log, in slices while the shop sells: into a generation of their own, which is read from
 * the moment on at which it knows everything. The figures are then the same to the last digit. One at a time.
 * @returns false if one is under way already
 */
export async function rebuildRollUps(services: Tracked): Promise<boolean> {
  const { db, clock, recorder } = services;
  if (rebuildProgress(db).isRunning) return false;
  const { timeZone } = loadShop(db).settings;
  const progress: RebuildProgress = { isRunning: true, done: 0, of: db.get<{ last: number | null }>(sql`SELECT max(rowid) AS last FROM events`)?.last ?? 0 };
  running.set(db, progress);
  try {
    const { rollUps } = recorder;
    const before = rollUps.generation;
    const into = { generation: before + 1, dayOf: dayFinder(timeZone) };
    // What one that was cut short has left behind.
    await dropGeneration(db, into.generation);
    const readOn = (): number => {
      const rows = db.select({ row: rowId, event: events }).from(events).where(gt(rowId, progress.done)).orderBy(asc(rowId)).limit(SLICE).all();
      for (const { event } of rows) rollUps.apply(event as TrackedEvent, into);
      progress.done = rows.at(-1)?.row ?? progress.done;
      return rows.length;
    };
    while (db.transaction(readOn) === SLICE) await pause();
    recorder.flush();
    db.transaction((tx) => {
      // Nothing can be recorded in between, since a shop has one connection.
      while (readOn() > 0);
      tx.update(rollUpState).set({ generation: into.generation, timeZone, rebuiltAt: clock.now() }).run();
    });
    rollUps.forget();
    await recorder.afterRebuild();
    await dropGeneration(db, before);
    return true;
  } finally {
    progress.isRunning = false;
  }
}

async function dropGeneration(db: Db, generation: number): Promise<void> {
  for (const table of ['place_visitors', 'place_days']) {
    const drop = sql`DELETE FROM ${sql.raw(table)} WHERE rowid IN (SELECT rowid FROM ${sql.raw(table)} WHERE generation = ${generation} LIMIT ${DROPPED})`;
    while (db.run(drop).changes > 0) await pause();
  }
}

/** Whether the figures must be made anew: they count by the days of another time zone, or the log is older than they are. */
export function needsRebuild({ db, recorder }: Tracked): boolean {
  const isOld = () =>
    db.get<{ n: number }>(
      sql`SELECT NOT EXISTS (SELECT 1 FROM place_visitors) AND EXISTS (SELECT 1 FROM events WHERE visitor_id IS NOT NULL AND mode = 'live') AS n`,
    )?.n === 1;
  return recorder.rollUps.timeZone !== loadShop(db).settings.timeZone || isOld();
}
