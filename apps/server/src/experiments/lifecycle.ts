import { isDeepStrictEqual } from 'node:util';
import { type ExperimentSettings, type Goal, type NewExperiment, NO_CHANGES } from '@ruta/core/experiments';
import type { StepKind } from '@ruta/core/funnel';
import { eq, inArray } from 'drizzle-orm';
import { beginRound, endExperiment, endRound } from '../arms/rounds';
import { armsOf, type ExperimentRow, loadExperiment, type RoundRow, runningRound } from '../arms/store';
import { arms, experiments, type RoundTerms, rounds } from '../arms/tables';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { latestPublication, loadStep } from '../funnel/store';
import type { Tracked } from '../tracking/recorder';
import { type Readiness, readinessOf } from './hindrances';
import { isChanged } from './isChanged';
import { putInPlace } from './putInPlace';

type Needs = Pick<Services, 'db' | 'clock' | 'changes'>;

/** What a stop is for, as a test there wants more of it. */
const GOAL_OF: Partial<Record<StepKind, Goal>> = { 'opt-in': 'leads', registration: 'leads', 'waiting-list': 'leads' };

/** A tenth more is what one can hope for of most changes. */
const USUAL_CHANGE = 0.1;

/** Begins to plan a test at a stop: the original and one arm that is like it so far, half of the visitors each. */
export function planTest({ db, clock }: Needs, wanted: NewExperiment): { id: string; armId: string } {
  const step = loadStep(db, wanted.stepId);
  if (step.funnelId !== wanted.funnelId) throw new Refusal(422, 'This stop is of another funnel.');
  const now = clock.now();
  const [id, armId] = [newId(clock, 'experiment'), newId(clock, 'arm')];
  db.transaction((tx) => {
    tx.insert(experiments)
      .values({
        id,
        funnelId: wanted.funnelId,
        stepId: step.id,
        state: 'planned',
        name: wanted.name,
        goal: wanted.goal ?? GOAL_OF[step.kind] ?? 'revenue',
        change: USUAL_CHANGE,
        ends: 'decision',
        createdAt: now,
        updatedAt: now,
      })
      .run();
    addArm(tx, { id: newId(clock, 'arm'), experimentId: id, position: 0, name: 'Original', share: 50 });
    addArm(tx, { id: armId, experimentId: id, position: 1, name: wanted.armName ?? 'B', share: 50 });
  });
  return { id, armId };
}

const addArm = (tx: Db, arm: { id: string; experimentId: string; position: number; name: string; share: number }) =>
  tx
    .insert(arms)
    .values({ ...arm, changes: NO_CHANGES })
    .run();

/** Changes what a test is set to; arms that are new begin like the original. While it runs, visitors see nothing of it before the next round. */
export function changeTest({ db, clock }: Needs, id: string, { arms: wanted, ...settings }: ExperimentSettings): void {
  const experiment = loadExperiment(db, id);
  if (experiment.state === 'ended') throw new Refusal(422, 'This test has ended and stays as it was. What was learned can still be written down.');
  db.transaction((tx) => {
    const known = armsOf(tx, id);
    if (wanted[0]?.id !== known[0]?.id) throw new Refusal(422, 'The first arm is the original and stays.');
    const isElsewhere = tx
      .select({ id: arms.id, experimentId: arms.experimentId })
      .from(arms)
      .where(
        inArray(
          arms.id,
          wanted.map((arm) => arm.id),
        ),
      )
      .all();
    if (isElsewhere.some(({ experimentId }) => experimentId !== id)) throw new Refusal(422, 'An arm with this id is another test’s.');
    tx.update(experiments)
      .set({ ...settings, updatedAt: clock.now() })
      .where(eq(experiments.id, id))
      .run();
    for (const { id: armId } of known.filter((arm) => !wanted.some((each) => each.id === arm.id))) tx.delete(arms).where(eq(arms.id, armId)).run();
    wanted.forEach(({ id: armId, name, share }, position) => {
      if (known.some((arm) => arm.id === armId)) tx.update(arms).set({ name, share, position }).where(eq(arms.id, armId)).run();
      else addArm(tx, { id: armId, experimentId: id, position, name, share });
    });
  });
}

/** Writes down what was learned by a test, also after its end. */
export function keepLearned({ db }: Pick<Needs, 'db'>, id: string, learned: string): void {
  loadExperiment(db, id);
  db.update(experiments).set({ learned }).where(eq(experiments.id, id)).run();
}

/** Forgets a test that was never begun. @throws Refusal 422 for one that visitors have seen */
export function removeTest({ db }: Needs, id: string): void {
  if (loadExperiment(db, id).state !== 'planned') throw new Refusal(422, 'This test was begun. End it instead: what was counted is kept.');
  db.transaction((tx) => {
    tx.delete(arms).where(eq(arms.experimentId, id)).run();
    tx.delete(experiments).where(eq(experiments.id, id)).run();
  });
}

/**
 * Starts a test, or a new round of one that runs, with its arms and settings as they are now.
 * @param ready how it stands, where that was counted elsewhere
 * @throws Refusal 409 naming everything that stands in the way
 */
export function startTest(services: Tracked, id: string, ready?: Readiness): RoundRow {
  const { db, changes } = services;
  const experiment = loadExperiment(db, id);
  if (experiment.state === 'ended') throw new Refusal(422, 'This test has ended. Begin another one.');
  // Pressed twice, or in two windows, it begins once.
  const begun = runningRound(db, id);
  if (begun && !isChanged(experiment, armsOf(db, id), begun)) return begun;
  const { hindrances, planned, arms: readied } = ready ?? readinessOf(services, experiment);
  // Just what was looked at begins.
  if (
    !isDeepStrictEqual(
      readied.map(({ row }) => row),
      armsOf(db, id),
    )
  )
    throw new Refusal(409, 'This test was changed meanwhile. Look at it again, then start it.');
  const publication = latestPublication(db, experiment.funnelId);
  if (hindrances.length > 0 || !publication || !planned.plan) {
    throw new Refusal(
      409,
      'This test cannot be started yet.',
      hindrances.map((message) => ({ path: '', message })),
    );
  }
  const { goal, audience, ends, lastDay } = experiment;
  const { difference, perArm, visitors, weeks } = planned.plan;
  const terms: RoundTerms = { goal, audience, ends, lastDay, difference, perArm, visitors, weeks };
  const round = db.transaction((tx) => {
    const before = runningRound(tx, id);
    if (before) endRound(services, tx, before, 'changed', 'Its arms or settings were changed, so that a new round began from zero.');
    tx.update(experiments).set({ state: 'running', updatedAt: services.clock.now() }).where(eq(experiments.id, id)).run();
    return beginRound(services, tx, experiment, publication, terms);
  });
  changes.announce();
  return round;
}

/** Ends a running test as a person decides: the original stays, or an arm takes its place whatever the figures say. */
export function endTest(services: Needs, id: string, { put }: { put: string | null }): void {
  const { db, changes } = services;
  const round = runningRound(db, id);
  const experiment = loadExperiment(db, id);
  if (!round || experiment.state !== 'running') throw new Refusal(422, 'This test is not running.');
  const arm = put === null ? undefined : round.arms.find((each) => each.id === put);
  if (put !== null && !arm) throw new Refusal(422, 'This test has no such arm.');
  close(services, experiment, round, {
    outcome: 'stopped',
    why: arm && arm !== round.arms[0] ? `Ended by hand: “${arm.name}” was put in place.` : 'Ended by hand: the original stays.',
    put: arm && arm !== round.arms[0] ? arm : undefined,
  });
  changes.announce();
}

/** Ends a test, and puts an arm in the place of the original if one is to be there. The caller announces it. */
export function close(
  services: Needs,
  experiment: ExperimentRow,
  round: RoundRow,
  { outcome, why, put }: { outcome: Parameters<typeof endExperiment>[3]; why: string; put: RoundRow['arms'][number] | undefined },
): void {
  services.db.transaction((tx) => {
    // First, so that publishing the winner is no change of what is under test.
    endExperiment(services, tx, round, outcome, why);
    if (!put) return;
    try {
      const left = putInPlace(services, experiment.funnelId, put, experiment.name);
      if (left)
        tx.update(rounds)
          .set({ why: `${why} ${left}` })
          .where(eq(rounds.id, round.id))
          .run();
    } catch (error) {
      if (error instanceof RangeError) throw new Refusal(409, `“${put.name}” cannot be put in place: ${error.message}`);
      throw error;
    }
  });
}
