import { applyScenario, forecast, type NewScenario, type SavedScenario, ScenarioSchema } from '@ruta/core/forecast';
import { figureOf, shiftDay } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import { and, desc, eq } from 'drizzle-orm';
import { newId } from '../base/ids';
import { notFound, Refusal } from '../base/problem';
import { loadFunnel } from '../funnel/store';
import { report } from '../reports/report';
import { loadShop } from '../shop/store';
import type { Looking, Tracked } from '../tracking/recorder';
import { forecastBasis } from './basis';
import { scenarios } from './tables';

/** Enough for the bounds that are kept; the screen samples more. */
const SAMPLES = 2000;
const MOST = 30;

/** Scenarios of a funnel, the latest first, each with what has happened since it was kept. */
export function scenariosOf(services: Looking, funnelId: string): SavedScenario[] {
  const { db, clock } = services;
  const dayOf = dayFinder(loadShop(db).settings.timeZone);
  const today = dayOf(clock.now());
  return db
    .select()
    .from(scenarios)
    .where(eq(scenarios.funnelId, funnelId))
    .orderBy(desc(scenarios.createdAt), desc(scenarios.id))
    .all()
    .map(({ perVisitor, low, high, ...row }) => ({
      ...row,
      scenario: ScenarioSchema.parse(row.scenario),
      thought: { perVisitor, low, high },
      happened: happenedSince(services, funnelId, shiftDay(dayOf(row.createdAt), 1), today),
    }));
}

/** What a funnel came to, as the reports say it; null where no day has passed. */
function happenedSince(services: Looking, funnelId: string, from: string, to: string): SavedScenario['happened'] {
  if (from > to) return null;
  const { total } = report(services, { by: 'funnel', from, to, compare: 'none', funnelId, filter: undefined });
  return { visitors: figureOf(total, 'visitors') ?? 0, perVisitor: figureOf(total, 'perVisitor') };
}

/**
 * Keeps a scenario with what is thought of it now, reckoned here.
 * @throws Refusal 404 if there is no such funnel, 409 if it cannot be forecast or has too many
 */
export function keepScenario(services: Tracked, funnelId: string, { name, from, to, scenario }: NewScenario): SavedScenario[] {
  const { db, clock } = services;
  loadFunnel(db, funnelId);
  if (scenariosOf(services, funnelId).length >= MOST) throw new Refusal(409, `A funnel keeps at most ${MOST} scenarios. Remove one first.`);
  const { input } = forecastBasis(services, funnelId, { from, to });
  const { income, visitors, spread } = forecastOf({ ...applyScenario(input, scenario), samples: SAMPLES });
  db.insert(scenarios)
    .values({
      id: newId(clock, 'scenario'),
      funnelId,
      name,
      from,
      to,
      scenario,
      perVisitor: income / visitors,
      low: spread.income.low / visitors,
      high: spread.income.high / visitors,
      createdAt: clock.now(),
    })
    .run();
  return scenariosOf(services, funnelId);
}

function forecastOf(input: Parameters<typeof forecast>[0]) {
  try {
    return forecast(input);
  } catch (error) {
    throw error instanceof RangeError ? new Refusal(409, error.message) : error;
  }
}

/** @throws Refusal 404 if the funnel has no such scenario */
export function removeScenario(services: Tracked, funnelId: string, id: string): SavedScenario[] {
  const gone = services.db
    .delete(scenarios)
    .where(and(eq(scenarios.id, id), eq(scenarios.funnelId, funnelId)))
    .run();
  if (gone.changes === 0) throw notFound('This scenario');
  return scenariosOf(services, funnelId);
}
