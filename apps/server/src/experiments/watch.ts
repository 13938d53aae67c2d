import { eq } from 'drizzle-orm';
import { followPublication } from '../arms/rounds';
import { type ExperimentRow, type RoundRow, runningRound } from '../arms/store';
import { experiments, rounds } from '../arms/tables';
import type { RunningTests } from '../arms/variants';
import { Refusal } from '../base/problem';
import { whyUnwritten } from '../base/writes';
import { latestPublication } from '../funnel/store';
import { looking } from '../tracking/looking';
import type { Tracked } from '../tracking/recorder';
import { close } from './lifecycle';
import { decisionOf, isPastLastDay } from './roundView';

/** No test decides itself in less than a week: people buy otherwise on Mondays than on Sundays. */
const FEWEST_DAYS = 7;
const DAY_MS = 24 * 60 * 60 * 1000;
/** Figures of running tests are looked at so often. */
const LOOK_MS = 10 * 60 * 1000;

type Needs = Tracked & { runningTests: RunningTests };
type Decided = ReturnType<typeof decisionOf>;

/**
 * Looks at running tests by the clock: keeps the always-valid p-values, which never rise, and ends what is decided or over.
 * The winner takes the place only if it has earned it.
 */
export async function watchTests(services: Needs): Promise<void> {
  const { db, clock, log, changes } = services;
  for (const experiment of db.select().from(experiments).where(eq(experiments.state, 'running')).all()) {
    const round = runningRound(db, experiment.id);
    const now = clock.now();
    if (!round) continue;
    // A clock that was set back counts as no time gone by: it is looked at again.
    if (round.lookedAt !== null && now >= round.lookedAt && now - round.lookedAt < LOOK_MS) continue;
    try {
      const decided = await looking(services)<Decided>('decision', round);
      // Somebody may have ended it while it was counted.
      if (runningRound(db, experiment.id)?.id === round.id && lookAt(services, experiment, round, decided)) changes.announce();
    } catch (error) {
      // One test that cannot be ended holds up no other; it stands among what needs a person.
      if (whyUnwritten(error)) throw error;
      if (error instanceof Refusal) log.warn({ reason: error.message, experiment: experiment.id }, 'a test could not be ended');
      else log.error({ err: error, experiment: experiment.id }, 'a test could not be looked at');
    }
  }
}

/**
 * @param decided what its figures say, where they were counted elsewhere
 * @returns whether what visitors see has changed by it
 */
export function lookAt(services: Needs, experiment: ExperimentRow, round: RoundRow, decided?: Decided): boolean {
  const { db, clock, runningTests } = services;
  const publication = latestPublication(db, experiment.funnelId);
  if (publication) {
    // What was published by other ways than the button: own sections, offers that are shared.
    followPublication(services, db, publication);
    if (runningRound(db, experiment.id)?.id !== round.id) return true;
    const why = runningTests.whyBroken(publication, round);
    if (why) {
      close(services, experiment, round, { outcome: 'broken', why: `${why} Everybody sees the original.`, put: undefined });
      return true;
    }
  }
  const { kept, decision } = decided ?? decisionOf(services, round);
  db.update(rounds).set({ valid: kept, lookedAt: clock.now() }).where(eq(rounds.id, round.id)).run();
  const isOver = isPastLastDay(services, round);
  const isDecided = decision.kind === 'winner' || decision.kind === 'original-is-better';
  const mayEnd = isOver || (isDecided && round.terms.ends === 'decision' && clock.now() - round.startedAt >= FEWEST_DAYS * DAY_MS);
  if (!mayEnd) return false;
  const winner = decision.kind === 'winner' ? round.arms.find(({ name }) => name === decision.arm) : undefined;
  switch (decision.kind) {
    case 'winner':
      close(services, experiment, round, { outcome: 'winner', why: `“${decision.arm}” earned it, and has taken the place of the original.`, put: winner });
      return true;
    case 'original-is-better':
      close(services, experiment, round, { outcome: 'original', why: 'The original is better, and stays.', put: undefined });
      return true;
    case 'not-to-be-trusted':
      close(services, experiment, round, {
        outcome: 'not-to-be-trusted',
        why: 'Visitors fell on the arms too unevenly for chance: something was wrong with how they were counted. The original stays.',
        put: undefined,
      });
      return true;
    case 'undecided':
    case 'go-on':
      close(services, experiment, round, {
        outcome: 'undecided',
        why: 'Its last day is over, and nothing is proved: the arms may be alike, or too few came. The original stays.',
        put: undefined,
      });
      return true;
    default:
      return decision satisfies never;
  }
}
