import { type ArmChanges, ArmChangesSchema } from '@ruta/core/experiments';
import { and, asc, eq, gt, isNull, or } from 'drizzle-orm';
import type { Db } from '../base/db';
import { notFound } from '../base/problem';
import { arms, experiments, rounds, roundVisitors } from './tables';

export type ExperimentRow = typeof experiments.$inferSelect;
export type ArmRow = typeof arms.$inferSelect;
export type RoundRow = typeof rounds.$inferSelect;

/** What is stored of an arm, as the present version has it. */
const readChanges = (stored: unknown): ArmChanges => ArmChangesSchema.parse(stored);

/** @throws Refusal 404 if there is no such test */
export function loadExperiment(db: Db, id: string): ExperimentRow {
  const row = db.select().from(experiments).where(eq(experiments.id, id)).get();
  if (!row) throw notFound('This test');
  return row;
}

/** The arms of a test in their order; the first is the original. */
export const armsOf = (db: Db, experimentId: string): ArmRow[] =>
  db
    .select()
    .from(arms)
    .where(eq(arms.experimentId, experimentId))
    .orderBy(asc(arms.position))
    .all()
    .map((row) => ({ ...row, changes: readChanges(row.changes) }));

/** An arm with its test. @throws Refusal 404 if there is none */
export function loadArm(db: Db, armId: string): { arm: ArmRow; experiment: ExperimentRow } {
  const arm = db.select().from(arms).where(eq(arms.id, armId)).get();
  if (!arm) throw notFound('This arm');
  return { arm: { ...arm, changes: readChanges(arm.changes) }, experiment: loadExperiment(db, arm.experimentId) };
}

const readRound = (row: RoundRow): RoundRow => ({ ...row, arms: row.arms.map((arm) => ({ ...arm, changes: readChanges(arm.changes) })) });

/** Every round of a test, the first one first. */
export const roundsOf = (db: Db, experimentId: string): RoundRow[] =>
  db.select().from(rounds).where(eq(rounds.experimentId, experimentId)).orderBy(asc(rounds.number)).all().map(readRound);

/** The round of a test that runs just now. */
export const runningRound = (db: Db, experimentId: string): RoundRow | undefined => roundsOf(db, experimentId).find(({ endedAt }) => endedAt === null);

/** Rounds that run, and those that ended after a moment: somebody may have a page of theirs open. */
export const roundsSince = (db: Db, moment: number): RoundRow[] =>
  db
    .select()
    .from(rounds)
    .where(or(isNull(rounds.endedAt), gt(rounds.endedAt, moment)))
    .orderBy(asc(rounds.startedAt))
    .all()
    .map(readRound);

/** The arm in which a visitor was first seen in a round; undefined for one who has not come to it. */
export const firstArm = (db: Db, roundId: string, visitorId: string): string | undefined =>
  db
    .select({ armId: roundVisitors.armId })
    .from(roundVisitors)
    .where(and(eq(roundVisitors.roundId, roundId), eq(roundVisitors.visitorId, visitorId)))
    .get()?.armId;

/** When a visitor was first seen in a round; undefined for one who has not come to it. */
export const firstSeen = (db: Db, roundId: string, visitorId: string): number | undefined =>
  db
    .select({ at: roundVisitors.firstAt })
    .from(roundVisitors)
    .where(and(eq(roundVisitors.roundId, roundId), eq(roundVisitors.visitorId, visitorId)))
    .get()?.at;
