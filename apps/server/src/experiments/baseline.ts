import { type Baseline, type Goal, perVisitor } from '@ruta/core/experiments';
import { buyersOf, earlierPopulation, reachedBy } from '../arms/population';
import type { Looking } from '../tracking/recorder';

/**
 * How it went at some stops of a funnel in the last four weeks: what a test there is planned by. Those for whom an audience
 * does not hold are among them, since not everything is known of people who only looked.
 */
export function baselineOf(services: Looking, funnelId: string, stepId: string, stops: readonly string[], goal: Goal): Baseline {
  services.recorder.flush();
  const population = earlierPopulation(services, funnelId, stepId, stops);
  const rows = reachedBy(services, population, goal);
  const sum = (of: 'visitors' | 'reached' | 'leads') => rows.reduce((total, row) => total + row[of], 0);
  const visitors = sum('visitors');
  const known = { days: population.days, visitors, dailyEntrants: visitors / population.days };
  if (goal === 'revenue') {
    const revenues = buyersOf(services, population).map(({ net, refunded }) => net - refunded);
    const { mean, variance } = perVisitor({ revenues, visitors });
    return { ...known, rate: null, mean: visitors > 0 ? mean : null, deviation: visitors > 1 ? Math.sqrt(variance) : null };
  }
  const reached = goal === 'sales' ? buyersOf(services, population).length : sum(goal === 'leads' ? 'leads' : 'reached');
  return { ...known, rate: visitors > 0 ? reached / visitors : null, mean: null, deviation: null };
}
