import type { Graph, PageDocument, Route, Step } from '@ruta/core';
import { and, desc, eq, isNull } from 'drizzle-orm';
import type { Db } from '../db/open';
import { notFound } from '../http/problem';
import { funnels, publications, routes, type Snapshot, steps } from './tables';

export type FunnelRow = typeof funnels.$inferSelect;
export type StepRow = typeof steps.$inferSelect;
export type PublicationRow = typeof publications.$inferSelect;

export interface FunnelState {
  funnel: FunnelRow;
  steps: StepRow[];
  graph: Graph;
  /** The latest publication; undefined while the funnel is a draft. */
  published: PublicationRow | undefined;
}

export function listFunnels(db: Db): FunnelRow[] {
  return db.select().from(funnels).where(isNull(funnels.archivedAt)).orderBy(desc(funnels.createdAt)).all();
}

/** A funnel with its steps, routes and what is published. @throws Refusal 404 if there is none */
export function loadFunnel(db: Db, id: string): FunnelState {
  const funnel = db.select().from(funnels).where(eq(funnels.id, id)).get();
  if (!funnel) throw notFound('This funnel');
  const stepRows = db.select().from(steps).where(eq(steps.funnelId, id)).all();
  const routeRows = db.select().from(routes).where(eq(routes.funnelId, id)).all();
  return { funnel, steps: stepRows, graph: graphOf(funnel.entryId, stepRows, routeRows), published: latestPublication(db, id) };
}

/** @throws Refusal 404 if there is no such step */
export function loadStep(db: Db, id: string): StepRow {
  const step = db.select().from(steps).where(eq(steps.id, id)).get();
  if (!step) throw notFound('This stop');
  return step;
}

export function latestPublication(db: Db, funnelId: string): PublicationRow | undefined {
  return db.select().from(publications).where(eq(publications.funnelId, funnelId)).orderBy(desc(publications.version)).limit(1).get();
}

/** The latest publication of every funnel that is not archived. */
export function latestPublications(db: Db): PublicationRow[] {
  return listFunnels(db).flatMap((funnel) => latestPublication(db, funnel.id) ?? []);
}

/** Saves a draft and counts its revision up. @returns undefined if somebody else saved since `revision` */
export function saveDraft(db: Db, stepId: string, revision: number, draft: PageDocument, now: number): number | undefined {
  return db
    .update(steps)
    .set({ draft, revision: revision + 1, updatedAt: now })
    .where(and(eq(steps.id, stepId), eq(steps.revision, revision)))
    .returning({ revision: steps.revision })
    .get()?.revision;
}

function graphOf(entryId: string, stepRows: StepRow[], routeRows: Array<typeof routes.$inferSelect>): Graph {
  return {
    entryId,
    steps: stepRows.map(({ id, kind, name, slug, productId }): Step => ({ id, kind, name, slug, productId })),
    routes: routeRows.map(
      ({ id, fromStepId, outcome, condition, priority, toStepId }): Route => ({
        id,
        from: fromStepId,
        outcome,
        priority,
        to: toStepId,
        ...(condition ? { condition } : {}),
      }),
    ),
  };
}

/** Everything of a funnel as it stands now, for publishing and for telling what has changed. */
export function snapshotOf({ funnel, steps: stepRows, graph }: Omit<FunnelState, 'published'>): Snapshot {
  return {
    name: funnel.name,
    slug: funnel.slug,
    giftId: funnel.giftId,
    graph,
    pages: Object.fromEntries(stepRows.map((step) => [step.id, step.draft])),
  };
}
