import { type ArmChanges, armDifferences, changesOf, inArm, type Shown, splitArm, variantOf } from '@ruta/core/experiments';
import type { MapChange } from '@ruta/core/funnel';
import { namesFor } from '@ruta/core/offers';
import type { PageDocument } from '@ruta/core/page';
import { eq, inArray } from 'drizzle-orm';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { changed, checkAddresses, type FindNamed, pageFor } from '../funnel/changeMap';
import { type FunnelState, loadFunnel, type StepRow } from '../funnel/store';
import { steps } from '../funnel/tables';
import { type ArmRow, type ExperimentRow, loadArm } from './store';
import { arms } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** A funnel as it is opened: itself, or as one arm of a test has it. */
export interface OpenFunnel extends FunnelState {
  arm: { row: ArmRow; experiment: ExperimentRow; original: Shown; problem: string | null } | null;
}

/** A funnel's draft as it is shown. */
export const shownOf = ({ graph, steps: rows }: Pick<FunnelState, 'graph' | 'steps'>): Shown => ({
  graph,
  pages: Object.fromEntries(rows.map((step) => [step.id, step.draft])),
});

/**
 * A funnel by its id, or by `fun_…~arm_…` as that arm has it: its map, what is sold, and its pages.
 * @throws Refusal 404 if there is none
 */
export function openFunnel(db: Services['db'], id: string): OpenFunnel {
  const { id: funnelId, armId } = splitArm(id);
  const state = loadFunnel(db, funnelId);
  if (armId === null) return { ...state, arm: null };
  const { arm: row, experiment } = loadArm(db, armId);
  if (experiment.funnelId !== funnelId) throw new Refusal(404, 'This arm is of another funnel.');
  const original = shownOf(state);
  const { shown, problem } = tried(original, row.changes);
  const known = new Map(state.steps.map((step) => [step.id, step]));
  const missing = shown.graph.steps.filter((step) => !known.has(step.id)).map((step) => step.id);
  // Stops that only the arm has are kept beside the map, with their page in the arm.
  const hidden = missing.length === 0 ? [] : db.select().from(steps).where(inArray(steps.id, missing)).all();
  for (const step of hidden) known.set(step.id, { ...step, draft: shown.pages[step.id] as PageDocument });
  return {
    ...state,
    funnel: { ...state.funnel, entryId: shown.graph.entryId, revision: state.funnel.revision + row.revision },
    graph: shown.graph,
    steps: shown.graph.steps.flatMap(({ id: stepId, name, slug, sells }): StepRow[] => {
      const step = known.get(stepId);
      return step ? [{ ...step, name, slug, sells, draft: shown.pages[stepId] ?? step.draft, revision: step.revision + (row.pageRevisions[stepId] ?? 0) }] : [];
    }),
    arm: { row, experiment, original, problem },
  };
}

/** A funnel as an arm has it; as it is without the arm, and why, where that does not go together any more. */
export function tried(original: Shown, changes: ArmChanges): { shown: Shown; problem: string | null } {
  try {
    return { shown: variantOf(original, changes), problem: null };
  } catch (error) {
    return { shown: original, problem: error instanceof Error ? error.message : String(error) };
  }
}

/** What differs in an arm, in words. */
export const differencesOf = (original: Shown, shown: Shown, products: Parameters<typeof namesFor>[0]['products'], currency: string) =>
  armDifferences(original, shown, namesFor({ products }, currency));

/** A stop by its id, or by `stp_…~arm_…` as that arm has it. @throws Refusal 404 if there is none */
export function openStep(db: Services['db'], id: string): StepRow {
  const { id: stepId, armId } = splitArm(id);
  if (armId === null) throw new Refusal(404, 'This stop is of no arm.');
  const { experiment } = loadArm(db, armId);
  const step = openFunnel(db, inArm(experiment.funnelId, armId)).steps.find((candidate) => candidate.id === stepId);
  if (!step) throw new Refusal(404, 'This stop is not part of the arm any more.');
  return step;
}

/** @throws Refusal 422 for an arm that stays as it is */
function refuseFixed({ row, experiment }: NonNullable<OpenFunnel['arm']>): void {
  if (experiment.state === 'ended') throw new Refusal(422, 'This test has ended: its arms stay as they were. Begin another test to try something else.');
  if (row.position === 0) throw new Refusal(422, 'The first arm is the funnel itself. Change it there.');
}

/** Everything that a changed arm differs in from the funnel. @throws Refusal 422 in words for what no arm may change */
function asChanges(original: Shown, shown: Shown): ArmChanges {
  try {
    return changesOf(original, shown);
  } catch (error) {
    if (error instanceof RangeError) throw new Refusal(422, error.message);
    throw error;
  }
}

/**
 * Saves a page as an arm has it: what of it differs from the funnel's own.
 * @returns the new revision
 * @throws Refusal 409 if it was changed in another window since it was loaded
 */
export function saveArmPage({ db }: Pick<Needs, 'db'>, id: string, { revision, page }: { revision: number; page: PageDocument }): number {
  const { id: stepId, armId } = splitArm(id);
  return db.transaction((tx) => {
    const { experiment } = loadArm(tx, armId ?? '');
    const open = openFunnel(tx, inArm(experiment.funnelId, armId ?? ''));
    const step = open.steps.find((candidate) => candidate.id === stepId);
    if (!open.arm || !step) throw new Refusal(404, 'This stop is not part of the arm any more.');
    refuseFixed(open.arm);
    if (step.sharedFrom) throw new Refusal(422, 'This offer is shared from another funnel, so that its page is the same in all arms.');
    if (step.revision !== revision) throw new Refusal(409, 'This page was changed in another window. Reload to see that version.');
    const shown = shownOf(open);
    const changes = asChanges(open.arm.original, { ...shown, pages: { ...shown.pages, [stepId]: page } });
    const { row } = open.arm;
    keep(tx, row, { changes, pageRevisions: { ...row.pageRevisions, [stepId]: (row.pageRevisions[stepId] ?? 0) + 1 } });
    return revision + 1;
  });
}

/**
 * Changes the map of an arm, all or nothing; the funnel's own stays as it is.
 * @throws Refusal 409 if it was changed since, 422 if what is asked does not fit it or must be the same in all arms
 */
export function changeArmMap(services: Needs, id: string, { revision, operations, copies = {} }: MapChange, product: FindNamed): void {
  const { db, clock } = services;
  db.transaction((tx) => {
    const open = openFunnel(tx, id);
    if (!open.arm) throw new Refusal(404, 'This is no arm of a test.');
    refuseFixed(open.arm);
    if (open.funnel.revision !== revision) throw new Refusal(409, 'This arm was changed meanwhile. It is shown as it is now. Do your change once more.');
    const graph = changed(open.graph, operations);
    if (graph.steps.some(({ id: stepId, sharedFrom }) => sharedFrom && !open.graph.steps.some((step) => step.id === stepId && step.sharedFrom))) {
      throw new Refusal(422, 'Offers of another funnel are shared on the funnel’s own map, not in one arm.');
    }
    checkAddresses(graph);
    const shown = shownOf(open);
    const known = new Set(open.graph.steps.map((step) => step.id));
    const pages = { ...shown.pages };
    for (const step of graph.steps.filter((each) => !known.has(each.id))) {
      const hidden = tx.select().from(steps).where(eq(steps.id, step.id)).get();
      if (hidden && (hidden.funnelId !== open.funnel.id || hidden.removedAt === null)) throw new Refusal(422, 'A stop with this id stands elsewhere.');
      const page = pageFor(services, open, step, copies[step.id], product);
      pages[step.id] = page;
      // Kept beside the map: it is the funnel's own once the arm has won.
      const values = { name: step.name, slug: step.slug, sells: step.sells, updatedAt: clock.now() };
      if (!hidden) {
        tx.insert(steps)
          .values({ ...values, id: step.id, kind: step.kind, funnelId: open.funnel.id, draft: page, revision: 1, removedAt: clock.now() })
          .run();
      }
    }
    keep(tx, open.arm.row, { changes: asChanges(open.arm.original, { graph, pages }), revision: open.arm.row.revision + 1 });
  });
}

function keep(tx: Services['db'], { id }: ArmRow, values: Partial<typeof arms.$inferInsert>): void {
  tx.update(arms).set(values).where(eq(arms.id, id)).run();
}
