import type { OutcomeOfRound } from '@ruta/core/experiments';
import { stopsTouched } from '@ruta/core/experiments';
import { and, eq, isNull } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { revisionOf } from '../base/revision';
import type { Services } from '../base/services';
import type { Publication } from '../funnel/store';
import { armsOf, type ExperimentRow, type RoundRow, roundsOf } from './store';
import { experiments, type RoundTerms, rounds } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** Stands for what of a funnel is under test: pages, what is sold, and the ways on, at some stops. */
export function baseOf({ snapshot }: Publication, stops: readonly string[]): string {
  return revisionOf(
    stops.map((id) => [
      id,
      snapshot.pages[id] ?? null,
      snapshot.graph.steps.find((step) => step.id === id)?.sells ?? null,
      snapshot.graph.routes.filter(({ from }) => from === id).sort((a, b) => (a.id < b.id ? -1 : 1)),
    ]),
  );
}

/** Begins a round with the arms as they are now: from this moment on visitors see them, and are counted from nothing. */
export function beginRound({ clock }: Needs, tx: Db, experiment: ExperimentRow, publication: Publication, terms: RoundTerms): RoundRow {
  const arms = armsOf(tx, experiment.id).map(({ id, name, share, changes }) => ({ id, name, share, changes }));
  const stops = [...new Set(arms.flatMap(({ changes }) => stopsTouched(publication.snapshot.graph, changes)))];
  return tx
    .insert(rounds)
    .values({
      id: newId(clock, 'round'),
      experimentId: experiment.id,
      funnelId: experiment.funnelId,
      number: (roundsOf(tx, experiment.id).at(-1)?.number ?? 0) + 1,
      startedAt: clock.now(),
      terms,
      arms,
      stops,
      publicationId: publication.id,
      base: baseOf(publication, stops),
      isTallied: true,
    })
    .returning()
    .get();
}

/** Ends a round: nobody is shown its arms any more, and what was counted stays. */
export function endRound({ clock }: Needs, tx: Db, round: RoundRow, outcome: OutcomeOfRound, why: string): void {
  // A clock that was set back must not end a round before it began.
  const endedAt = Math.max(round.startedAt, clock.now());
  tx.update(rounds).set({ endedAt, outcome, why }).where(eq(rounds.id, round.id)).run();
}

/** Ends a test with its round: the original stays, or whatever was put in its place. */
export function endExperiment(services: Needs, tx: Db, round: RoundRow, outcome: OutcomeOfRound, why: string): void {
  endRound(services, tx, round, outcome, why);
  const now = services.clock.now();
  tx.update(experiments).set({ state: 'ended', endedAt: now, updatedAt: now }).where(eq(experiments.id, round.experimentId)).run();
}

/** Ends every running test of a funnel, because nobody comes to it any more. */
export function endTestsOf(services: Needs, tx: Db, funnelId: string, why: string): void {
  const running = tx
    .select({ id: rounds.id, experimentId: rounds.experimentId })
    .from(rounds)
    .where(and(eq(rounds.funnelId, funnelId), isNull(rounds.endedAt)))
    .all();
  for (const { id, experimentId } of running) {
    const round = roundsOf(tx, experimentId).find((each) => each.id === id);
    if (round) endExperiment(services, tx, round, 'stopped', why);
  }
}

/**
 * Begins a new round of every test of a funnel whose ground has changed by what was published: what was counted on the old
 * one says nothing of the new one. A test whose stop is gone ends. To be called in the transaction that publishes.
 */
export function followPublication(services: Needs, tx: Db, publication: Publication): void {
  const running = tx
    .select()
    .from(rounds)
    .where(and(eq(rounds.funnelId, publication.funnelId), isNull(rounds.endedAt)))
    .all();
  const stands = new Map(publication.snapshot.graph.steps.map((step) => [step.id, step]));
  for (const { experimentId, id } of running) {
    const round = roundsOf(tx, experimentId).find((each) => each.id === id);
    if (!round || round.base === baseOf(publication, round.stops)) continue;
    const experiment = tx.select().from(experiments).where(eq(experiments.id, experimentId)).get();
    if (!experiment) continue;
    if (round.stops.some((stop) => !stands.has(stop))) {
      endExperiment(services, tx, round, 'stopped', 'A stop under test was taken off the map. The original stays.');
      continue;
    }
    endRound(services, tx, round, 'changed', 'What is under test was changed and published, so that a new round began from zero.');
    beginRound(services, tx, experiment, publication, round.terms);
  }
}
