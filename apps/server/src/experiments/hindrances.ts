import {
  ALPHA,
  type armDifferences,
  type Baseline,
  inArm,
  type Planned,
  partsTouched,
  plannedFrom,
  type Shown,
  stopsTouched,
  tooEarly,
  touchTheSame,
} from '@ruta/core/experiments';
import { shiftDay } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import { and, eq, ne } from 'drizzle-orm';
import { differencesOf, openFunnel, shownOf, tried } from '../arms/armFunnel';
import { type ArmRow, armsOf, type ExperimentRow, roundsOf, runningRound } from '../arms/store';
import { experiments } from '../arms/tables';
import { problemsOf, productsOf } from '../checks/funnelChecks';
import { unpublishedChanges } from '../funnel/service';
import { findPublication, loadFunnel } from '../funnel/store';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';
import { baselineOf } from './baseline';

export interface ArmState {
  row: ArmRow;
  shown: Shown;
  differences: ReturnType<typeof armDifferences>;
  problem: string | null;
}

/** Everything that is to be known of a test before it is begun. */
export interface Readiness {
  arms: ArmState[];
  stops: string[];
  baseline: Baseline;
  planned: Planned;
  /** What keeps it from being started, in words. */
  hindrances: string[];
  warnings: string[];
}

/** Looks at a test as it is planned: its arms, what it would take, and what speaks against it. */
export function readinessOf(services: Looking, experiment: ExperimentRow): Readiness {
  const { db } = services;
  const state = loadFunnel(db, experiment.funnelId);
  // Of a test that has ended it is told how it was, whatever became of the funnel since.
  const last = experiment.state === 'ended' ? roundsOf(db, experiment.id).at(-1) : undefined;
  const original: Shown = (last && findPublication(db, last.publicationId)?.snapshot) ?? shownOf(state);
  const { currency } = loadShop(db).settings;
  const arms = armsOf(db, experiment.id).map((row): ArmState => {
    const { shown, problem } = tried(original, last?.arms.find(({ id }) => id === row.id)?.changes ?? row.changes);
    const products = productsOf(services, { ...state, graph: { ...shown.graph, steps: [...original.graph.steps, ...shown.graph.steps] } });
    return { row, shown, differences: differencesOf(original, shown, products, currency), problem };
  });
  const stops = [...new Set(arms.flatMap(({ row }) => stopsTouched(original.graph, row.changes)))];
  const baseline = baselineOf(services, experiment.funnelId, experiment.stepId, stops, experiment.goal);
  const planned = plannedFrom(baseline, { goal: experiment.goal, change: experiment.change, arms: arms.length });
  return {
    arms,
    stops,
    baseline,
    planned,
    hindrances: experiment.state === 'ended' ? [] : hindrancesOf(services, experiment, arms, planned),
    warnings: experiment.state === 'ended' ? [] : warningsOf(services, experiment, arms, baseline, planned),
  };
}

function hindrancesOf(services: Looking, experiment: ExperimentRow, arms: readonly ArmState[], planned: Planned): string[] {
  const { db } = services;
  const state = loadFunnel(db, experiment.funnelId);
  const changes = unpublishedChanges(state);
  const own = problemsOf(services, state).filter(({ severity }) => severity === 'blocking');
  return [
    ...(state.published ? [] : ['The funnel is not live. Publish it first: a test compares what visitors see.']),
    ...(state.published && (changes.stepIds.length > 0 || changes.settings)
      ? ['The funnel has changes that are not published. Publish them first: a test compares with what is live.']
      : []),
    ...(state.graph.steps.some(({ id }) => id === experiment.stepId) ? [] : ['The stop of this test was taken off the map. Begin the test at another one.']),
    ...arms.slice(1).flatMap(({ row, differences, problem }) => {
      if (problem) return [`${row.name}: ${problem} Open the arm and make it anew.`];
      if (differences.length === 0) return [`${row.name} is the same as the original. Open it and change what is to be tried.`];
      const open = openFunnel(db, inArm(experiment.funnelId, row.id));
      const broken = problemsOf(services, open).filter(
        ({ severity, message, stepId }) => severity === 'blocking' && !own.some((known) => known.message === message && known.stepId === stepId),
      );
      return broken.map(({ message, stepId }) => `${row.name}, “${open.steps.find((step) => step.id === stepId)?.name ?? ''}”: ${message}`);
    }),
    ...othersOn(services, experiment, arms),
    ...(planned.problem ? [planned.problem] : []),
    ...dateHindrance(services, experiment),
  ];
}

function dateHindrance({ db, clock }: Looking, { ends, lastDay }: ExperimentRow): string[] {
  if (lastDay === null) return ends === 'date' ? ['Choose its last day.'] : [];
  const today = dayFinder(loadShop(db).settings.timeZone)(clock.now());
  return lastDay < today ? ['Its last day is over. Choose a later one.'] : [];
}

/** Other tests on the same thing cannot run with it: by what visitors are shown of them, not by what waits for their next round. */
function othersOn({ db }: Looking, experiment: ExperimentRow, arms: readonly ArmState[]): string[] {
  const { graph } = loadFunnel(db, experiment.funnelId);
  const own = arms.flatMap(({ row }) => partsTouched(graph, row.changes));
  return running(db, experiment).flatMap(({ id, name }) => {
    const shown = runningRound(db, id)?.arms ?? [];
    const isSame = touchTheSame(
      own,
      shown.flatMap(({ changes }) => partsTouched(graph, changes)),
    );
    return isSame ? [`“${name}” is running and changes the same thing. End it first, or try something else.`] : [];
  });
}

const running = (db: Looking['db'], { id, funnelId }: ExperimentRow): ExperimentRow[] =>
  db
    .select()
    .from(experiments)
    .where(and(eq(experiments.funnelId, funnelId), eq(experiments.state, 'running'), ne(experiments.id, id)))
    .all();

/** What a further round does to the promise: each can be fooled by chance by itself, `1 − 0.95ⁿ` of all of them together. */
function anotherChance(before: number): string[] {
  if (before === 0) return [];
  const fooled = Math.round((1 - (1 - ALPHA) ** (before + 1)) * 100);
  return [
    `This would be round ${before + 1}. Each round can be fooled by chance in one of twenty, so that of ${before + 1} rounds of a test that changes nothing one finds a winner in ${fooled} of 100. Believe a round that repeats what another one found.`,
  ];
}

function warningsOf(services: Looking, experiment: ExperimentRow, arms: readonly ArmState[], baseline: Baseline, { plan }: Planned): string[] {
  const { db, clock } = services;
  const { settings } = loadShop(db);
  const today = dayFinder(settings.timeZone)(clock.now());
  const daysLeft = experiment.lastDay === null ? 0 : Math.round((Date.parse(shiftDay(experiment.lastDay, 1)) - Date.parse(today)) / 86_400_000);
  const early = tooEarly(plan, baseline.dailyEntrants, daysLeft);
  return [
    ...arms
      .filter(({ differences }) => differences.length > 1)
      .map(({ row, differences }) => `${row.name} changes ${differences.length} things at once. Should it win, nobody will know by which of them.`),
    ...(early ? [early] : []),
    ...(plan?.isTooLong
      ? [
          plan.weeks === null
            ? 'At this rate the test would take years. Hope for a larger difference, or try it where more people come.'
            : `It needs about ${plan.weeks} weeks. In so long a time the season changes more than any arm: hope for a larger difference, or try it where more people come.`,
        ]
      : []),
    ...running(db, experiment).map(
      ({ name }) =>
        `“${name}” runs in this funnel too, on the same people. Each of them falls into both at random, so both can be read; but together they take longer to understand.`,
    ),
    ...anotherChance(roundsOf(db, experiment.id).length),
    ...(settings.mode === 'test' ? ['The shop is in test mode: visitors see the arms, and nobody is counted.'] : []),
  ];
}
