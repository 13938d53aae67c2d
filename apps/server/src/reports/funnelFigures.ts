import { conversionRate, type FunnelFigures, figureOf, momentsOf, type Period, shiftDay } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';
import { routesOf } from './names';
import { offerFigures, revenueByRole } from './offerFigures';
import { cameBy, visitorsBy } from './people';
import { salesBy } from './sales';
import { soldOrders, wholeScope } from './scope';

/** Of how many days figures are shown where nobody asks for others. */
export const DEFAULT_DAYS = 30;

/** Figures of a funnel of so many days of the shop's calendar, today the last of them. */
export function figuresSince(services: Looking, funnelId: string, stepIds: string[], days: number): FunnelFigures {
  const today = dayFinder(loadShop(services.db).settings.timeZone)(services.clock.now());
  return funnelFigures(services, funnelId, stepIds, { from: shiftDay(today, 1 - days), to: today });
}

/**
 * Figures of a funnel in a period, for its map and the list of funnels: the same as those of the reports.
 * @param stepIds the stops, in the order in which they are told
 */
export function funnelFigures(services: Looking, funnelId: string, stepIds: string[], period: Period): FunnelFigures {
  const { db } = services;
  const { from, until } = momentsOf(period, loadShop(db).settings.timeZone);
  const scope = wholeScope(services, { from, until, days: period, funnelId });
  const came = cameBy(db, stepIds, scope);
  const people = visitorsBy(db, null, scope).get('') ?? {};
  const sales = salesBy(db, null, scope).get('') ?? {};
  const whole = { ...people, ...sales };
  const count = (name: 'visitors' | 'leads' | 'converted' | 'orders' | 'revenue') => figureOf(whole, name) ?? 0;
  const routes = routesOf(db, funnelId).map(({ id }) => id);
  const byRole = revenueByRole(db, funnelId, from, until);
  const [visitors, orders, netRevenue] = [count('visitors'), count('orders'), count('revenue')];
  const averageOrder = figureOf(whole, 'averageOrder');
  return {
    from,
    until,
    steps: stepIds.map((stepId) => {
      const figures = came.get(stepId) ?? {};
      const [here, reached] = [figureOf(figures, 'came') ?? 0, figureOf(figures, 'reached') ?? 0];
      return { stepId, came: here, reached, rate: conversionRate(here, reached) };
    }),
    visitors,
    leads: count('leads'),
    buyers: db.get<{ n: number }>(sql`SELECT count(DISTINCT o.contact_id) AS n FROM ${soldOrders(scope)}`)?.n ?? 0,
    orders,
    netRevenue,
    averageOrder: averageOrder === null ? null : Math.round(averageOrder),
    revenuePerVisitor: figureOf(whole, 'perVisitor'),
    routes: [...cameBy(db, routes, scope)].map(([routeId, figures]) => ({ routeId, people: figures.came ?? 0 })),
    revenueByStep: Object.fromEntries([...salesBy(db, 'step', scope)].map(([stepId, { revenue }]) => [stepId, revenue ?? 0])),
    offers: offerFigures(db, funnelId, from, until),
    byRole,
    averageWithout: orders === 0 ? null : Math.round(byRole.main / orders),
    perVisitorWithout: visitors === 0 ? null : byRole.main / visitors,
  };
}
