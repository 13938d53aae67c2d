import type { Product } from '@ruta/core/catalog';
import type { FunnelDetail } from '@ruta/core/checks';
import { and, desc, eq, ne } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { differencesOf, type OpenFunnel, shownOf } from './armFunnel';
import { type RoundRow, runningRound } from './store';
import { experiments } from './tables';

/** As which arm of which test a funnel is opened; null for the funnel itself. */
export function openArm({ db }: Pick<Services, 'db'>, { arm, graph, steps, funnel }: OpenFunnel, products: Record<string, Product>): FunnelDetail['arm'] {
  if (!arm) return null;
  const { row, experiment, original, problem } = arm;
  return {
    id: row.id,
    name: row.name,
    experiment: { id: experiment.id, name: experiment.name, state: experiment.state },
    funnelId: funnel.id,
    differences: differencesOf(original, shownOf({ graph, steps }), products, loadShop(db).settings.currency),
    problem,
  };
}

/** The funnel's own routes that an arm leads elsewhere. */
const routesOf = ({ arms }: RoundRow): string[] => [
  ...new Set(arms.flatMap(({ changes }) => changes.graph.flatMap((operation) => ('routeId' in operation ? [operation.routeId] : [])))),
];

/** The tests of a funnel that are planned or running, each with the stops that it is about. */
export function testsOf(db: Db, funnelId: string): FunnelDetail['tests'] {
  return db
    .select()
    .from(experiments)
    .where(and(eq(experiments.funnelId, funnelId), ne(experiments.state, 'ended')))
    .orderBy(desc(experiments.createdAt))
    .all()
    .map(({ id, name, state, stepId }) => {
      const round = runningRound(db, id);
      return { experimentId: id, name, state, stepIds: round?.stops ?? [stepId], routeIds: round ? routesOf(round) : [] };
    });
}
