import { isDeepStrictEqual } from 'node:util';
import { applyToGraph, type Graph, GraphSchema, type MapChange, type Step } from '@ruta/core/funnel';
import type { IdKind } from '@ruta/core/ids';
import { copyPage, type PageDocument, PageDocumentSchema } from '@ruta/core/page';
import { stepPage } from '@ruta/core/templates';
import { and, eq, notInArray } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { sharedPage, withSources } from './sharedOffers';
import { type FunnelState, loadFunnel } from './store';
import { funnels, routes, steps } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** What a new step's page takes from a product; undefined if there is none of this id. */
export type FindNamed = (productId: string) => Parameters<typeof stepPage>[1];

/**
 * Changes a funnel's map, all or nothing. Steps that are taken off keep their page, so that they can be put back.
 * @throws Refusal 409 if somebody else has changed the map since, 422 if what is asked does not fit it
 */
export function changeMap(services: Needs, funnelId: string, { revision, operations, copies = {} }: MapChange, product: FindNamed): void {
  const { db } = services;
  db.transaction((tx) => {
    const state = loadFunnel(tx, funnelId);
    if (state.funnel.revision !== revision) {
      throw new Refusal(409, 'Somebody else has changed this map meanwhile. It is shown as it is now; nothing of theirs is lost. Do your change once more.');
    }
    const graph = withSources(tx, funnelId, state.graph, changed(state.graph, operations));
    checkAddresses(graph);
    saveMap(tx, services, state, graph, (step) => sharedPage(tx, graph, step) ?? pageFor(services, state, step, copies[step.id], product));
  });
}

/** A map with some operations done to it. @throws Refusal 422 in words if they do not fit it */
export function changed(graph: Graph, operations: MapChange['operations']): Graph {
  try {
    return GraphSchema.parse(applyToGraph(graph, operations as Parameters<typeof applyToGraph>[1]).graph);
  } catch (error) {
    if (error instanceof RangeError) throw new Refusal(422, error.message);
    throw error;
  }
}

/** @throws Refusal 409 if two stops have one address */
export function checkAddresses({ steps: all }: Graph): void {
  for (const step of all) {
    const twin = all.find((other) => other.id !== step.id && other.slug === step.slug);
    if (twin) throw fieldRefusal('slug', `“${twin.name}” has this address already.`, 409);
  }
}

/** The page that a step begins with: a copy of another's, or one drawn for its kind. */
export function pageFor(
  { clock }: Pick<Needs, 'clock'>,
  state: Pick<FunnelState, 'steps'>,
  step: Step,
  copyOf: string | undefined,
  product: FindNamed,
): PageDocument {
  const fresh = (kind: IdKind) => newId(clock, kind);
  const source = copyOf ? state.steps.find((candidate) => candidate.id === copyOf) : undefined;
  if (source) return copyPage(source.draft, fresh);
  const [offer] = step.sells;
  return stepPage(step.kind, offer && product(offer.productId), step.name, fresh);
}

/**
 * Writes a funnel's map, and counts its revision up.
 * @param pageOf the page that a new step begins with
 */
export function saveMap(tx: Db, { clock }: Needs, { funnel, steps: before }: FunnelState, graph: Graph, pageOf: (step: Step) => PageDocument): void {
  const now = clock.now();
  const known = new Map(before.map((step) => [step.id, step]));
  // First those that leave, so that their addresses are free.
  const kept = graph.steps.map((step) => step.id);
  tx.update(steps)
    .set({ removedAt: now })
    .where(and(eq(steps.funnelId, funnel.id), notInArray(steps.id, kept)))
    .run();
  for (const step of graph.steps) {
    const { id, kind, name, slug, sells, sharedFrom = null } = step;
    const values = { name, slug, sells, sharedFrom, updatedAt: now };
    const earlier = known.get(id) ?? tx.select().from(steps).where(eq(steps.id, id)).get();
    if (earlier && earlier.funnelId !== funnel.id) throw new Refusal(422, 'A stop with this id is another funnel’s.');
    if (!earlier) {
      tx.insert(steps)
        .values({ ...values, id, kind, funnelId: funnel.id, draft: PageDocumentSchema.parse(pageOf(step)), revision: 1 })
        .run();
    } else if (earlier.removedAt !== null || !isDeepStrictEqual({ ...earlier, ...values, updatedAt: earlier.updatedAt }, earlier)) {
      // A stop that is shared from now on shows what its source does.
      const taken = sharedFrom && !isDeepStrictEqual(sharedFrom, earlier.sharedFrom) ? { draft: pageOf(step), revision: earlier.revision + 1 } : {};
      tx.update(steps)
        .set({ ...values, ...taken, removedAt: null })
        .where(eq(steps.id, id))
        .run();
    }
  }
  tx.delete(routes).where(eq(routes.funnelId, funnel.id)).run();
  for (const { from, to, condition, ...route } of graph.routes) {
    tx.insert(routes)
      .values({ ...route, condition: condition ?? null, funnelId: funnel.id, fromStepId: from, toStepId: to })
      .run();
  }
  tx.update(funnels)
    .set({ entryId: graph.entryId, revision: funnel.revision + 1, updatedAt: now })
    .where(eq(funnels.id, funnel.id))
    .run();
}
