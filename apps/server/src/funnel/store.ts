import { bringUpStep, type Graph, GraphSchema, type NamedStep, type OfflinePage, type Route, type Step } from '@ruta/core/funnel';
import { OfferSchema } from '@ruta/core/offers';
import { type PageDocument, readPage } from '@ruta/core/page';
import type { Brand, OwnCode } from '@ruta/core/shop';
import { and, desc, eq, inArray, isNull, max, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Db } from '../base/db';
import { notFound } from '../base/problem';
import { funnels, publications, routes, steps } from './tables';

export type FunnelRow = typeof funnels.$inferSelect;

/** A step with its page as it is being worked on. */
export type StepRow = Omit<typeof steps.$inferSelect, 'draft'> & { draft: PageDocument };

/** What visitors of a funnel see: everything as it stood when it was published. */
export interface Snapshot {
  version: typeof SNAPSHOT_VERSION;
  name: string;
  slug: string;
  giftId: string | null;
  /** Its own look and code, if it has some. */
  brand?: Brand;
  code?: OwnCode;
  graph: Graph;
  pages: Record<string, PageDocument>;
}

/** The version of snapshots that is written now; in those before it a step sold one product. */
const SNAPSHOT_VERSION = 2;

export interface Publication {
  id: string;
  funnelId: string;
  version: number;
  at: number;
  userId: string | null;
  snapshot: Snapshot;
}

export interface FunnelState {
  funnel: FunnelRow;
  steps: StepRow[];
  graph: Graph;
  /** The latest publication; undefined while the funnel is a draft. */
  published: Publication | undefined;
}

/** Funnels that are not archived, newest first. */
export function listFunnels(db: Db): FunnelRow[] {
  return db.select().from(funnels).where(isNull(funnels.archivedAt)).orderBy(desc(funnels.createdAt)).all();
}

export function findFunnel(db: Db, id: string): FunnelRow | undefined {
  return db.select().from(funnels).where(eq(funnels.id, id)).get();
}

/** Names of funnels by their ids. */
export function funnelNames(db: Db, ids: readonly string[]): Map<string, string> {
  const found =
    ids.length === 0
      ? []
      : db
          .select({ id: funnels.id, name: funnels.name })
          .from(funnels)
          .where(inArray(funnels.id, [...new Set(ids)]))
          .all();
  return new Map(found.map(({ id, name }) => [id, name]));
}

/** Funnels in which a product is sold or given, so that one sees what a change reaches. */
export function funnelsWith(db: Db, productId: string): Array<{ id: string; name: string }> {
  const named = sql`EXISTS (SELECT 1 FROM ${steps}, json_each(${steps.sells}) WHERE ${steps.funnelId} = ${funnels.id} AND ${steps.removedAt} IS NULL AND json_extract(value, '$.productId') = ${productId})`;
  return db
    .select({ id: funnels.id, name: funnels.name })
    .from(funnels)
    .where(or(named, eq(funnels.giftId, productId)))
    .all();
}

/** A funnel with its steps, routes and what is published. @throws Refusal 404 if there is none */
export function loadFunnel(db: Db, id: string): FunnelState {
  const funnel = findFunnel(db, id);
  if (!funnel) throw notFound('This funnel');
  const stepRows = db
    .select()
    .from(steps)
    .where(and(eq(steps.funnelId, id), isNull(steps.removedAt)))
    .all()
    .map(readStep);
  return { funnel, steps: stepRows, graph: graphOf(funnel.entryId, stepRows, routesOf(db, id)), published: latestPublication(db, id) };
}

/** The graphs of several funnels, read without their pages. */
export function graphsOf(db: Db, rows: readonly FunnelRow[]): Map<string, Graph> {
  const ids = rows.map((row) => row.id);
  if (ids.length === 0) return new Map();
  const columns = {
    id: steps.id,
    funnelId: steps.funnelId,
    kind: steps.kind,
    name: steps.name,
    slug: steps.slug,
    sells: steps.sells,
    sharedFrom: steps.sharedFrom,
  };
  const stepRows = db
    .select(columns)
    .from(steps)
    .where(and(inArray(steps.funnelId, ids), isNull(steps.removedAt)))
    .all()
    .map((row) => ({ ...row, sells: readOffers(row.sells) }));
  const routeRows = db.select().from(routes).where(inArray(routes.funnelId, ids)).all();
  return new Map(
    rows.map((row) => [
      row.id,
      graphOf(
        row.entryId,
        stepRows.filter((step) => step.funnelId === row.id),
        routeRows.filter((route) => route.funnelId === row.id),
      ),
    ]),
  );
}

const routesOf = (db: Db, funnelId: string) => db.select().from(routes).where(eq(routes.funnelId, funnelId)).all();

/** Stored offers as the present version has them. */
const readOffers = (stored: unknown) => z.array(OfferSchema).parse(stored);

function readStep(row: typeof steps.$inferSelect): StepRow {
  return { ...row, draft: readPage(row.draft), sells: readOffers(row.sells) };
}

/** @throws Refusal 404 if there is no such step */
export function loadStep(db: Db, id: string): StepRow {
  const step = db
    .select()
    .from(steps)
    .where(and(eq(steps.id, id), isNull(steps.removedAt)))
    .get();
  if (!step) throw notFound('This stop');
  return readStep(step);
}

/** Names of stops by their ids. */
export function stepNames(db: Db, ids: readonly string[]): Map<string, string> {
  const found =
    ids.length === 0
      ? []
      : db
          .select({ id: steps.id, name: steps.name })
          .from(steps)
          .where(inArray(steps.id, [...new Set(ids)]))
          .all();
  return new Map(found.map(({ id, name }) => [id, name]));
}

/** Steps that are still there, of whatever funnels, by their ids. */
export const stepsNamed = (db: Db, ids: readonly string[]): NamedStep[] =>
  ids.length === 0
    ? []
    : db
        .select({ id: steps.id, name: steps.name, funnelName: funnels.name })
        .from(steps)
        .innerJoin(funnels, eq(funnels.id, steps.funnelId))
        .where(and(inArray(steps.id, [...new Set(ids)]), isNull(steps.removedAt)))
        .all();

export function latestPublication(db: Db, funnelId: string): Publication | undefined {
  const row = db.select().from(publications).where(eq(publications.funnelId, funnelId)).orderBy(desc(publications.version)).limit(1).get();
  return row && readPublication(row);
}

/** What was published under an id; undefined if nothing was. */
export function findPublication(db: Db, id: string): Publication | undefined {
  const row = db.select().from(publications).where(eq(publications.id, id)).get();
  return row && readPublication(row);
}

/** Everything a funnel was published as, the newest first. */
export const publicationsOf = (db: Db, funnelId: string): Publication[] =>
  db.select().from(publications).where(eq(publications.funnelId, funnelId)).orderBy(desc(publications.version)).all().map(readPublication);

/** The latest publication of every funnel that is online: neither archived nor taken offline. */
export function latestPublications(db: Db): Publication[] {
  return listFunnels(db).flatMap((funnel) => (funnel.offline ? [] : (latestPublication(db, funnel.id) ?? [])));
}

/** What was published last of every funnel that was taken offline, and what is shown instead. */
export const offlinePublications = (db: Db): Array<{ publication: Publication; page: OfflinePage }> =>
  listFunnels(db).flatMap(({ id, offline }) => {
    const publication = offline ? latestPublication(db, id) : undefined;
    return offline && publication ? [{ publication, page: offline.page }] : [];
  });

/** Every address that a funnel and its steps were ever published at, read without their pages. */
export function formerAddresses(db: Db, funnelId: string): Array<{ slug: string; stepId: string; stepSlug: string }> {
  return db.all<{ slug: string; stepId: string; stepSlug: string }>(sql`
    SELECT DISTINCT json_extract(${publications.snapshot}, '$.slug') AS slug,
      json_extract(step.value, '$.id') AS stepId, json_extract(step.value, '$.slug') AS stepSlug
    FROM ${publications}, json_each(${publications.snapshot}, '$.graph.steps') AS step
    WHERE ${publications.funnelId} = ${funnelId}`);
}

/** When each funnel was last published, read without what was published. */
export function publishedAt(db: Db): Map<string, number> {
  const rows = db
    .select({ funnelId: publications.funnelId, at: max(publications.at) })
    .from(publications)
    .groupBy(publications.funnelId)
    .all();
  return new Map(rows.map(({ funnelId, at }) => [funnelId, at ?? 0]));
}

/** Addresses that funnels are published at. */
export function publishedSlugs(db: Db): Array<{ funnelId: string; slug: string; name: string }> {
  return db
    .select({
      funnelId: publications.funnelId,
      slug: sql<string>`json_extract(${publications.snapshot}, '$.slug')`,
      name: sql<string>`json_extract(${publications.snapshot}, '$.name')`,
      version: max(publications.version),
    })
    .from(publications)
    .innerJoin(funnels, and(eq(funnels.id, publications.funnelId), isNull(funnels.archivedAt)))
    .groupBy(publications.funnelId)
    .all();
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

function graphOf(
  entryId: string,
  stepRows: ReadonlyArray<Omit<Step, 'sharedFrom'> & Pick<StepRow, 'sharedFrom'>>,
  routeRows: ReadonlyArray<typeof routes.$inferSelect>,
): Graph {
  return {
    entryId,
    steps: stepRows.map(({ id, kind, name, slug, sells, sharedFrom }): Step => ({ id, kind, name, slug, sells, ...(sharedFrom ? { sharedFrom } : {}) })),
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
    version: SNAPSHOT_VERSION,
    name: funnel.name,
    slug: funnel.slug,
    giftId: funnel.giftId,
    ...(funnel.brand ? { brand: funnel.brand } : {}),
    ...(funnel.code ? { code: funnel.code } : {}),
    graph,
    pages: Object.fromEntries(stepRows.map((step) => [step.id, step.draft])),
  };
}

/** A stored publication as the present version has it. @throws ZodError if it is none */
export const readPublication = (row: typeof publications.$inferSelect): Publication => ({ ...row, snapshot: readSnapshot(row.snapshot) });

/** A stored snapshot as the present version has it. @throws ZodError if it is none */
function readSnapshot(stored: unknown): Snapshot {
  const { graph, pages, ...rest } = stored as Omit<Snapshot, 'graph' | 'pages'> & { graph: { steps: never[] }; pages: Record<string, unknown> };
  return {
    ...rest,
    version: SNAPSHOT_VERSION,
    graph: GraphSchema.parse({ ...graph, steps: graph.steps.map(bringUpStep) }),
    pages: Object.fromEntries(Object.entries(pages).map(([stepId, page]) => [stepId, readPage(page)])),
  };
}
