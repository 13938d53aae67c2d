import { type ForecastBasis, ForecastInputSchema, type ForecastStop, type Rate, type Sale, SaleSchema } from '@ruta/core/forecast';
import { type Graph, type Step, stepKindOf, stopsInOrder } from '@ruta/core/funnel';
import { multiplyRatio } from '@ruta/core/money';
import { offerOption } from '@ruta/core/offers';
import { type FunnelFigures, momentsOf, type Period } from '@ruta/core/reports';
import { NO_COSTS } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { findProduct } from '../catalog/store';
import { loadFunnel } from '../funnel/store';
import { funnelFigures } from '../reports/funnelFigures';
import { salesBy } from '../reports/sales';
import { wholeScope } from '../reports/scope';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';
import { bumpKey, salesByStop } from './sales';

/** A rate as it was seen; of nobody it is none, rather than one half. */
const seen = (reached: number, came: number): Rate => (came === 0 ? { share: 0 } : { reached: Math.min(reached, came), came });

/**
 * A funnel as it went in a period, ready to be forecast: who came to each stop and reached its goal, along which routes
 * they went on, and what one sale brought and cost. The same figures as the reports have.
 * @throws Refusal 404 if there is no such funnel
 */
export function forecastBasis(services: Looking, funnelId: string, period: Period): ForecastBasis {
  const { db, recorder } = services;
  recorder.flush();
  const { settings } = loadShop(db);
  const { graph } = loadFunnel(db, funnelId);
  const stops = stopsInOrder(graph);
  const figures = funnelFigures(
    services,
    funnelId,
    stops.map(({ id }) => id),
    period,
  );
  const { from, until } = momentsOf(period, settings.timeZone);
  const sales = salesByStop(db, funnelId, from, until);
  const came = new Map(figures.steps.map((step) => [step.stepId, step]));
  const costs = settings.costs ?? NO_COSTS;
  const whole = salesBy(db, null, wholeScope(services, { from, until, days: period, funnelId })).get('') ?? {};
  const [revenue, refunded] = [whole.revenue ?? 0, whole.refunded ?? 0];
  const input = ForecastInputSchema.parse({
    currency: settings.currency,
    visitors: Math.max(1, figures.visitors),
    entryId: graph.entryId,
    fees: { percent: costs.feePercent, fixed: costs.feeFixed },
    refunds: { share: refunded > 0 ? Math.min(1, refunded / (revenue + refunded)) : 0 },
    stops: stops.map((step): ForecastStop => {
      const { came: here = 0, reached = 0 } = came.get(step.id) ?? {};
      const isSold = stepKindOf(step.kind).sells !== null;
      return {
        id: step.id,
        name: step.name,
        rate: seen(reached, here),
        sale: isSold ? (sales.stops.get(step.id)?.sale ?? SaleSchema.parse({ net: 0 })) : null,
        bumps: bumpsOf(db, step, figures, sales),
        ...waysOf(graph, step, figures, here - reached),
      };
    }),
  });
  return {
    input,
    orders: figures.orders,
    clickPrice: clickPriceIn(services, period),
    checkouts: stops.filter(({ kind }) => stepKindOf(kind).sells === 'order').map(({ id }) => id),
    unseen: stops.filter(({ id }) => (came.get(id)?.came ?? 0) === 0).map(({ name }) => name),
  };
}

/** Bumps are seen by orders, those that were completed with it on the checkout: some are shown to a part of the buyers only. */
function bumpsOf(db: Db, { id: stepId, sells }: Step, figures: FunnelFigures, sales: ReturnType<typeof salesByStop>): ForecastStop['bumps'] {
  const orders = sales.stops.get(stepId)?.count ?? 0;
  return figures.offers
    .filter((offer) => offer.stepId === stepId && offer.role === 'bump')
    .map(({ offerId, shown, taken, value }) => {
      const offer = sells.find(({ id }) => id === offerId);
      const product = offer && findProduct(db, offer.productId);
      const editionId = offer && product ? offerOption(product, offer).edition.id : null;
      // What one brought is that offer's own; what it cost is that of its edition at this stop.
      const net = taken === 0 ? 0 : Math.round(value / taken);
      const average = sales.bumps.get(bumpKey(stepId, editionId))?.sale;
      const sale: Sale = average ? { ...average, net, gross: scaled(average, net) } : SaleSchema.parse({ net });
      return {
        id: offerId,
        name: offer ? nameOf(db, offer) : 'A bump that is gone',
        rate: seen(taken, shown),
        shown: orders === 0 ? 1 : Math.min(1, shown / orders),
        sale,
      };
    });
}

/** What is charged for a bump, tax and shipping included, at the price of this offer: two offers of one edition may differ in it. */
const scaled = ({ net: usual, gross = usual }: Sale, net: number): number => (usual === 0 ? net : multiplyRatio(gross, net, usual));

/** A product with the edition that is offered: three bumps of one product are three. */
function nameOf(db: Db, { productId, editionId }: Step['sells'][number]): string {
  const product = findProduct(db, productId);
  const edition = product && product.editions.length > 1 ? product.editions.find(({ id }) => id === editionId)?.name : undefined;
  return [product?.name ?? 'Not known', edition].filter(Boolean).join(', ');
}

/** Along which routes people went on: those of the goal share out all who reached it; of the others only so many as were counted. */
function waysOf(graph: Graph, step: Step, figures: FunnelFigures, left: number): Pick<ForecastStop, 'yes' | 'no'> {
  const goal = stepKindOf(step.kind).goal.outcome;
  const people = new Map(figures.routes.map((route) => [route.routeId, route.people]));
  const known = (isGoal: boolean) =>
    graph.routes
      .filter((route) => route.from === step.id && (route.outcome === goal) === isGoal)
      .sort((a, b) => a.priority - b.priority)
      .map(({ id, to }) => ({ to, people: people.get(id) ?? 0 }));
  const [on, other] = [known(true), known(false)];
  const all = (ways: typeof on) => ways.reduce((sum, way) => sum + way.people, 0);
  const shared = (ways: typeof on, of: number) => ways.filter((way) => way.people > 0).map((way) => ({ to: way.to, share: way.people / of }));
  return {
    // Nobody has gone on yet: they will by the first route.
    yes: all(on) > 0 ? shared(on, all(on)) : on.slice(0, 1).map(({ to }) => ({ to, share: 1 })),
    no: all(other) > 0 ? shared(other, Math.max(left, all(other))) : [],
  };
}

function clickPriceIn({ db }: Pick<Looking, 'db'>, { from, to }: Period): number | null {
  const spent = db.get<{ cost: number; clicks: number }>(
    sql`SELECT coalesce(sum(cost), 0) AS cost, coalesce(sum(clicks), 0) AS clicks FROM ad_spend WHERE day >= ${from} AND day <= ${to}`,
  );
  return spent && spent.clicks > 0 ? spent.cost / spent.clicks : null;
}
