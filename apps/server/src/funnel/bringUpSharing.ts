import { isDeepStrictEqual } from 'node:util';
import { applyToGraph, followSource, type Graph, type OfferSource } from '@ruta/core/funnel';
import type { IdKind } from '@ruta/core/ids';
import type { PageDocument } from '@ruta/core/page';
import { and, eq, isNull } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { saveMap } from './changeMap';
import { pageIn, sharedBy, sharedFromFunnel, sharedPage } from './sharedOffers';
import { type FunnelState, loadFunnel, type Snapshot } from './store';
import { publications, steps } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/**
 * Brings every funnel that shares offers of one that was just published up to it: its draft, and what of it is live. What
 * else waits there to be published goes on waiting.
 */
export function bringUpSharing(tx: Db, services: Needs, published: FunnelState, userId: string | null): void {
  const users = tx
    .selectDistinct({ funnelId: steps.funnelId })
    .from(steps)
    .where(and(sharedFromFunnel(published.funnel.id), isNull(steps.removedAt)))
    .all();
  const source = sharedBy(loadFunnel(tx, published.funnel.id));
  for (const { funnelId } of users) bringUp(tx, services, loadFunnel(tx, funnelId), { funnelId: published.funnel.id, ...source }, userId);
}

type PublishedSource = OfferSource & ReturnType<typeof sharedBy>;

function bringUp(tx: Db, services: Needs, user: FunnelState, source: PublishedSource, userId: string | null): void {
  const { clock } = services;
  const fresh = (kind: IdKind) => newId(clock, kind);
  const draft = followed(user.graph, source, fresh);
  if (draft !== user.graph) {
    saveMap(tx, services, user, draft, (step) => {
      const page = sharedPage(tx, draft, step);
      if (!page) throw new Error(`The shared offer ${step.name} has no page.`);
      return page;
    });
  }
  for (const step of loadFunnel(tx, user.funnel.id).steps) {
    const page = step.sharedFrom?.funnelId === source.funnelId ? pageIn(draft, source, step.sharedFrom) : undefined;
    if (!page || isDeepStrictEqual(page, step.draft)) continue;
    tx.update(steps)
      .set({ draft: page, revision: step.revision + 1, updatedAt: clock.now() })
      .where(eq(steps.id, step.id))
      .run();
  }
  if (!user.published) return;
  const snapshot = followedLive(user.published.snapshot, draft, source, fresh);
  if (isDeepStrictEqual(snapshot, user.published.snapshot)) return;
  tx.insert(publications)
    .values({ id: newId(clock, 'publication'), funnelId: user.funnel.id, version: user.published.version + 1, at: clock.now(), userId, snapshot })
    .run();
}

function followed(graph: Graph, source: OfferSource, fresh: (kind: IdKind) => string, known?: Graph): Graph {
  const operations = followSource(graph, source, fresh, known);
  return operations.length === 0 ? graph : applyToGraph(graph, operations).graph;
}

/** What is live of a funnel, with the offers that it shares as they are now. */
function followedLive(live: Snapshot, draft: Graph, source: PublishedSource, fresh: (kind: IdKind) => string): Snapshot {
  const graph = followed(live.graph, source, fresh, draft);
  const pages = graph.steps.map((step): [string, PageDocument | undefined] => {
    const page = step.sharedFrom?.funnelId === source.funnelId ? pageIn(graph, source, step.sharedFrom) : undefined;
    return [step.id, page ?? live.pages[step.id]];
  });
  return { ...live, graph, pages: Object.fromEntries(pages.flatMap(([id, page]) => (page ? [[id, page]] : []))) };
}
