import type { ExperimentView, Goal, ExperimentRow as ListedRow, Round } from '@ruta/core/experiments';
import { sql } from 'drizzle-orm';
import { armsOf, type ExperimentRow, loadExperiment, roundsOf } from '../arms/store';
import type { experiments } from '../arms/tables';
import { revisionOf } from '../base/revision';
import { type LiveServices, stepAddress } from '../funnel/live';
import { findFunnel, funnelNames, latestPublication, stepNames } from '../funnel/store';
import type { Looking, Tracked } from '../tracking/recorder';
import { readinessOf } from './hindrances';
import { isChanged } from './isChanged';
import { decisionOf, roundView } from './roundView';

type Row = typeof experiments.$inferSelect;

/** What its dialog changes of a test, as one state that another window can have changed meanwhile. */
const settingsOf = ({ name, question, goal, change, audience, ends, lastDay }: Row) => ({ name, question, goal, change, audience, ends, lastDay });
export const revisionOfTest = (services: Pick<Tracked, 'db'>, row: ExperimentRow): string =>
  revisionOf([settingsOf(row), armsOf(services.db, row.id).map(({ id, name, share }) => [id, name, share])]);

/** A test as it stands, for whoever works in the thread that sells. @throws Refusal 404 if there is none */
export const viewTest = (services: Tracked & LiveServices, id: string): ExperimentView => countedTest(services, { id, address: liveAddress(services, id) });

/** Where the stop that a test is about can be seen; null while it is not live. */
export function liveAddress(services: Tracked & LiveServices, id: string): string | null {
  const here = services.live.step(loadExperiment(services.db, id).stepId);
  return here ? stepAddress(services, here) : null;
}

/** A test with everything that is counted and planned of it. @throws Refusal 404 if there is none */
export function countedTest(services: Looking, { id, address }: { id: string; address: string | null }): ExperimentView {
  const { db } = services;
  services.recorder.flush();
  const row = loadExperiment(db, id);
  const funnel = findFunnel(db, row.funnelId);
  const { arms, stops, baseline, planned, hindrances, warnings } = readinessOf(services, row);
  const past = roundsOf(db, id).reverse();
  const running = past.find(({ endedAt }) => endedAt === null);
  const tested = running?.stops ?? (row.state === 'ended' ? (past[0]?.stops ?? []) : stops);
  const names = stepNames(db, [row.stepId, ...tested]);
  return {
    id,
    state: row.state,
    funnel: { id: row.funnelId, name: funnel?.name ?? '', live: latestPublication(db, row.funnelId) !== undefined },
    step: { id: row.stepId, name: names.get(row.stepId) ?? 'A stop that is gone', address },
    ...settingsOf(row),
    learned: row.learned,
    revision: revisionOfTest(services, row),
    arms: arms.map(({ row: arm, differences, problem }, index) => ({
      id: arm.id,
      name: arm.name,
      share: arm.share,
      isOriginal: index === 0,
      differences,
      problem,
    })),
    stops: tested.map((stopId) => ({ id: stopId, name: names.get(stopId) ?? '' })),
    baseline,
    planned,
    hindrances,
    warnings,
    hasChanges:
      running !== undefined &&
      isChanged(
        row,
        arms.map((arm) => arm.row),
        running,
      ),
    rounds: past.map((round) => roundView(services, round)),
    createdAt: row.createdAt,
    endedAt: row.endedAt,
  };
}

/** Every test, the newest first, that has the words looked for in what it is called, asked or taught, or in its funnel. */
export function listTests(services: Looking, { search, funnelId }: { search: string; funnelId?: string | undefined }): ListedRow[] {
  const { db } = services;
  services.recorder.flush();
  const like = `%${search.replace(/[%_\\]/g, (letter) => `\\${letter}`)}%`;
  const rows = db.all<Row & { visitors: number }>(sql`
    SELECT e.id, e.funnel_id AS funnelId, e.step_id AS stepId, e.state, e.name, e.question, e.goal, e.change, e.learned, e.created_at AS createdAt, e.ended_at AS endedAt
    FROM experiments e JOIN funnels f ON f.id = e.funnel_id
    WHERE ${funnelId === undefined ? sql`1` : sql`e.funnel_id = ${funnelId}`}
      AND (${search} = '' OR e.name LIKE ${like} ESCAPE '\\' OR e.question LIKE ${like} ESCAPE '\\' OR e.learned LIKE ${like} ESCAPE '\\' OR f.name LIKE ${like} ESCAPE '\\'
        OR EXISTS (SELECT 1 FROM arms a WHERE a.experiment_id = e.id AND a.name LIKE ${like} ESCAPE '\\'))
    ORDER BY CASE e.state WHEN 'running' THEN 0 WHEN 'planned' THEN 1 ELSE 2 END, e.created_at DESC LIMIT 500`);
  const [funnels, stops] = [
    funnelNames(
      db,
      rows.map((row) => row.funnelId),
    ),
    stepNames(
      db,
      rows.map((row) => row.stepId),
    ),
  ];
  return rows.map((row): ListedRow => {
    const all = roundsOf(db, row.id);
    const last = all.at(-1);
    const visitors = last ? visitorsOf(services, last.id) : 0;
    const decision = last && row.state === 'running' ? decisionOf(services, last).decision : undefined;
    return {
      id: row.id,
      name: row.name,
      state: row.state,
      funnel: { id: row.funnelId, name: funnels.get(row.funnelId) ?? '' },
      step: { id: row.stepId, name: stops.get(row.stepId) ?? '' },
      goal: row.goal as Goal,
      visitors,
      startedAt: all[0]?.startedAt ?? null,
      endedAt: row.endedAt,
      outcome: last?.outcome ?? null,
      verdict: decision?.kind ?? null,
      words: last && decision ? standing(decision, visitors, last.terms.visitors) : (last?.why ?? 'Not started yet.'),
      learned: row.learned,
    };
  });
}

const visitorsOf = ({ db }: Pick<Tracked, 'db'>, roundId: string): number =>
  db.get<{ n: number }>(sql`SELECT coalesce(sum(visitors), 0) AS n FROM round_days WHERE round_id = ${roundId}`)?.n ?? 0;

/** How a running round stands, in a sentence. @param planned how many visitors it is to have */
function standing(decision: Round['result']['decision'], visitors: number, planned: number): string {
  switch (decision.kind) {
    case 'winner':
      return `“${decision.arm}” is ahead, and that is proved.`;
    case 'original-is-better':
      return 'The original is better, and that is proved.';
    case 'not-to-be-trusted':
      return 'Visitors fall on the arms too unevenly: something is wrong with how they are counted.';
    case 'undecided':
    case 'go-on': {
      const part = Math.min(100, Math.round((visitors / planned) * 100));
      return `Nothing is proved yet: ${visitors.toLocaleString('en')} of about ${planned.toLocaleString('en')} visitors (${part} %).`;
    }
    default:
      return decision satisfies never;
  }
}

/** The pages of a test's first stop as each arm has it, to be shown as pictures. */
export function picturesOf(services: Looking, id: string) {
  const { db } = services;
  const row = loadExperiment(db, id);
  const { arms, stops } = readinessOf(services, row);
  const stepId = stops[0] ?? row.stepId;
  return { stepId, arms: arms.flatMap(({ row: arm, shown }) => (shown.pages[stepId] ? [{ id: arm.id, page: shown.pages[stepId] }] : [])) };
}
