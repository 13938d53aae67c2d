import { z } from 'zod';
import type { Goal } from './experiment';
import { type ExperimentPlan, ExperimentPlanSchema, planExperiment } from './plan';

/** How it went at the stops of a test before it began: from the shop's own figures. */
export const BaselineSchema = z.object({
  days: z.int().describe('So many days were looked at'),
  visitors: z.int().describe('Different visitors who came to a stop of the test'),
  dailyEntrants: z.number(),
  rate: z.number().nullable().describe('Of the goal, from 0 to 1; null for revenue'),
  mean: z.number().nullable().describe('Revenue per visitor, minor units; null for the other goals'),
  deviation: z.number().nullable(),
});
export type Baseline = z.infer<typeof BaselineSchema>;

/** What a test would take, or in words why that cannot be said. */
export const PlannedSchema = z.object({ plan: ExperimentPlanSchema.nullable(), problem: z.string().nullable() });
export type Planned = z.infer<typeof PlannedSchema>;

/** How many visitors and weeks a test needs, from what was seen before it. */
export function plannedFrom(baseline: Baseline, { goal, change, arms }: { goal: Goal; change: number; arms: number }): Planned {
  const { dailyEntrants, rate, mean, deviation } = baseline;
  const lately = baseline.days === 1 ? 'today' : `in the last ${baseline.days} days`;
  const cannot = (problem: string): Planned => ({ plan: null, problem });
  if (baseline.visitors === 0) return cannot(`Nobody came here ${lately}, so that a test would find out nothing. Lead visitors here first.`);
  try {
    if (goal === 'revenue') {
      if (!mean) return cannot(`Nobody who came here ${lately} bought anything, so that it cannot be said how many visitors this needs.`);
      if (!deviation) return cannot(`Too few came here ${lately} to say how far apart visitors are in what they bring. Let more of them come first.`);
      return { plan: planExperiment({ goal: 'revenue', arms, dailyEntrants, mean, deviation, change }), problem: null };
    }
    if (!rate) return cannot(`Nobody reached this goal ${lately}, so that it cannot be said how many visitors this needs.`);
    if (rate >= 1) return cannot('Everybody reaches this goal already: there is nothing to be gained.');
    return { plan: planExperiment({ goal: 'conversion', arms, dailyEntrants, rate, change }), problem: null };
  } catch (error) {
    if (error instanceof RangeError) return cannot(error.message);
    throw error;
  }
}

/**
 * What is said of a last day that comes before enough visitors can have come.
 * @param daysLeft whole days from its start to its last day
 * @returns null for one that is late enough
 */
export function tooEarly(plan: ExperimentPlan | null, dailyEntrants: number, daysLeft: number): string | null {
  if (!plan || daysLeft <= 0) return null;
  const until = Math.round(dailyEntrants * daysLeft);
  if (until >= plan.visitors) return null;
  const part = Math.round((until / plan.visitors) * 100);
  return `Until its last day about ${until.toLocaleString('en')} of the ${plan.visitors.toLocaleString('en')} visitors will have come that it needs (${part} %). It will most likely end undecided.`;
}
