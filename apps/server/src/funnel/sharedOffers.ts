import { type Graph, isSharedWay, type Step } from '@ruta/core/funnel';
import { leadingTo, type PageDocument } from '@ruta/core/page';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { Refusal } from '../base/problem';
import { type FunnelState, findFunnel, funnelNames, loadFunnel } from './store';
import { funnels, steps } from './tables';

type SharedFrom = NonNullable<Step['sharedFrom']>;

/** What a funnel has to share: as it is live, or as it is drawn while it never was. */
export function sharedBy(state: FunnelState): { graph: Graph; pages: Record<string, PageDocument> } {
  return state.published?.snapshot ?? { graph: state.graph, pages: Object.fromEntries(state.steps.map((step) => [step.id, step.draft])) };
}

/** Says where something is changed that a funnel only shares. */
export function sharedRefusal(db: Db, { funnelId }: SharedFrom): Refusal {
  const name = findFunnel(db, funnelId)?.name ?? 'another funnel';
  return new Refusal(422, `This offer is shared from “${name}”. Change it there, or make it this funnel’s own first.`);
}

/**
 * A changed map in which stops that are newly shared say and sell what their source does. Those that were shared before
 * must be left as they are.
 * @throws Refusal 422 if a shared stop was changed here, is shared twice, or its source is no offer of another funnel
 */
export function withSources(db: Db, funnelId: string, before: Graph, after: Graph): Graph {
  const earlier = new Map(before.steps.map((step) => [step.id, step]));
  checkWays(db, before, after);
  const sources = new Set<string>();
  return {
    ...after,
    steps: after.steps.map((step) => {
      const { sharedFrom } = step;
      if (!sharedFrom) return step;
      if (sources.has(sharedFrom.stepId)) throw new Refusal(422, `“${step.name}” stands on this map already. An offer is shared once in a funnel.`);
      sources.add(sharedFrom.stepId);
      const known = earlier.get(step.id);
      if (known?.sharedFrom?.stepId === sharedFrom.stepId) {
        if (known.name !== step.name || JSON.stringify(known.sells) !== JSON.stringify(step.sells)) throw sharedRefusal(db, sharedFrom);
        return step;
      }
      const source = sourceOf(db, sharedFrom);
      if (sharedFrom.funnelId === funnelId || source?.kind !== 'offer' || source.sharedFrom) {
        throw new Refusal(422, `“${step.name}” cannot be shared: it is no offer of another funnel any more.`);
      }
      return { ...step, kind: source.kind, name: source.name, sells: source.sells };
    }),
  };
}

/** Between stops that are shared, people are led as at their source: what leaves them may lead elsewhere here, nothing else. */
function checkWays(db: Db, before: Graph, after: Graph): void {
  for (const { id, sharedFrom } of after.steps) {
    const known = before.steps.find((step) => step.id === id)?.sharedFrom;
    if (!sharedFrom || known?.stepId !== sharedFrom.stepId) continue;
    const ways = (graph: Graph) =>
      graph.routes
        .filter((route) => route.from === id)
        .map((route) => JSON.stringify([route.outcome, route.condition ?? null, isSharedWay(graph, route) ? route.to : 'out']))
        .sort();
    const [were, are] = [ways(before), ways(after)];
    const isInside = (way: string) => !way.endsWith('"out"]');
    if (are.some((way) => !were.includes(way)) || were.some((way) => isInside(way) && !are.includes(way))) throw sharedRefusal(db, sharedFrom);
  }
}

const sourceOf = (db: Db, { funnelId, stepId }: SharedFrom): Step | undefined =>
  findFunnel(db, funnelId) && sharedBy(loadFunnel(db, funnelId)).graph.steps.find((step) => step.id === stepId);

/** The page of a stop that is shared, as its source has it; undefined for the funnel's own. */
export function sharedPage(db: Db, graph: Graph, step: Step): PageDocument | undefined {
  if (!step.sharedFrom) return undefined;
  const source = sharedBy(loadFunnel(db, step.sharedFrom.funnelId));
  return pageIn(graph, source, step.sharedFrom);
}

/** A shared stop's page: its buttons lead to the stops of the funnel that it stands in. */
export function pageIn(graph: Graph, source: ReturnType<typeof sharedBy>, { funnelId, stepId }: SharedFrom): PageDocument | undefined {
  const page = source.pages[stepId];
  const own = (id: string) => graph.steps.find((step) => step.sharedFrom?.funnelId === funnelId && step.sharedFrom.stepId === id);
  const alike = (id: string) => graph.steps.find((step) => step.kind === source.graph.steps.find((each) => each.id === id)?.kind);
  return page && leadingTo(page, (id) => (own(id) ?? alike(id))?.id ?? graph.entryId);
}

/** Funnels that share offers of this one, by the offer; and the names of those that its own shared offers come from. */
export function sharingOf(db: Db, { funnel, graph }: Pick<FunnelState, 'funnel' | 'graph'>) {
  const users = db
    .select({ stepId: sql<string>`json_extract(${steps.sharedFrom}, '$.stepId')`, id: funnels.id, name: funnels.name })
    .from(steps)
    .innerJoin(funnels, and(eq(funnels.id, steps.funnelId), isNull(funnels.archivedAt)))
    .where(and(sharedFromFunnel(funnel.id), isNull(steps.removedAt)))
    .all();
  const sources = graph.steps.flatMap((step) => step.sharedFrom?.funnelId ?? []);
  return {
    from: Object.fromEntries(funnelNames(db, sources)),
    with: Object.fromEntries(graph.steps.map((step) => [step.id, users.filter(({ stepId }) => stepId === step.id).map(({ id, name }) => ({ id, name }))])),
  };
}

/** Of the steps: those that are shared from a funnel. */
export const sharedFromFunnel = (funnelId: string) => sql`json_extract(${steps.sharedFrom}, '$.funnelId') = ${funnelId}`;
