import quantile from '@stdlib/stats-base-dists-normal-quantile';
import { z } from 'zod';
import { ALPHA, POWER } from './levels';
import { informationForRule } from './ruleSample';

const DAYS_IN_WEEK = 7;
const MOST_WEEKS = 520;

const CommonSchema = z.object({
  arms: z.int().min(2, 'A test has at least two arms.').max(10, 'A test has at most ten arms.').default(2),
  dailyEntrants: z.number().min(0).describe('Visitors a day who would be in the test, on average'),
});

/** What a test is to find out, before it starts. */
export const ExperimentPlanInputSchema = z.discriminatedUnion('goal', [
  CommonSchema.extend({
    goal: z.literal('conversion'),
    rate: z.number().gt(0, 'The rate must be above 0.').lt(1, 'The rate must be below 1.').describe('Of today, from 0 to 1'),
    change: z
      .number()
      .refine((change) => change !== 0, 'Hope for some difference.')
      .describe('Hoped for, relative: 0.1 is a tenth more'),
  }),
  CommonSchema.extend({
    goal: z.literal('revenue'),
    mean: z.number().gt(0, 'The revenue per visitor must be above 0.').describe('Revenue per visitor of today, minor units'),
    deviation: z.number().gt(0, 'The standard deviation must be above 0.').describe('Standard deviation of it, those who buy nothing included'),
    change: z
      .number()
      .refine((change) => change !== 0, 'Hope for some difference.')
      .describe('Hoped for, relative: 0.1 is a tenth more'),
  }),
]);
export type ExperimentPlanInput = z.infer<typeof ExperimentPlanInputSchema>;

export const ExperimentPlanSchema = z.object({
  goal: z.enum(['conversion', 'revenue']),
  difference: z.number().describe('Planned, absolute: a rate, or minor units per visitor'),
  perArm: z
    .int()
    .describe('Visitors that each arm needs, so that the rule that decides finds the difference four times out of five, however often it is looked at'),
  plainPerArm: z.int().describe('Visitors that each arm would need if it was looked at once, at the end'),
  visitors: z.int().describe('In all'),
  days: z.int().nullable().describe('In full weeks; null without anybody who comes'),
  weeks: z.int().nullable(),
  isTooLong: z.boolean().describe('Longer than eight weeks: hope for more, or test where more people come'),
});
export type ExperimentPlan = z.infer<typeof ExperimentPlanSchema>;

/** After so many weeks a season has changed more than any arm. */
const LONGEST_WEEKS = 8;

/**
 * Visitors per arm that a test of two rates needs: two-proportion formula with pooled null variance,
 * `(z₁₋α/₂ √(2 p̄ q̄) + z_power √(p₁q₁ + p₂q₂))² ÷ (p₁ − p₂)²` (Fleiss, Statistical Methods for Rates and Proportions).
 * @param rate of today, from 0 to 1
 * @param other hoped for, from 0 to 1
 */
export function sampleForRates(rate: number, other: number, alpha = ALPHA, power = POWER): number {
  const pooled = (rate + other) / 2;
  const ofNull = quantile(1 - alpha / 2, 0, 1) * Math.sqrt(2 * pooled * (1 - pooled));
  const ofOther = quantile(power, 0, 1) * Math.sqrt(rate * (1 - rate) + other * (1 - other));
  return Math.ceil((ofNull + ofOther) ** 2 / (rate - other) ** 2);
}

/** Visitors per arm that a test of two means needs: `2 (z₁₋α/₂ + z_power)² σ² ÷ δ²`. Deviation and difference in the same unit. */
export function sampleForMeans(deviation: number, difference: number, alpha = ALPHA, power = POWER): number {
  return Math.ceil((2 * (quantile(1 - alpha / 2, 0, 1) + quantile(power, 0, 1)) ** 2 * deviation ** 2) / difference ** 2);
}

/**
 * How many visitors and full weeks a test needs.
 * @throws RangeError if the rate hoped for is no rate
 */
export function planExperiment(input: ExperimentPlanInput): ExperimentPlan {
  const { goal, arms, dailyEntrants, change } = input;
  const now = input.goal === 'conversion' ? input.rate : input.mean;
  const hoped = now * (1 + change);
  if (hoped <= 0 || (goal === 'conversion' && hoped >= 1)) throw new RangeError('What is hoped for is not possible: choose a smaller difference.');
  const plainPerArm = input.goal === 'conversion' ? sampleForRates(now, hoped) : sampleForMeans(input.deviation, hoped - now);
  // Of one visitor in each of the two arms.
  const variance = input.goal === 'conversion' ? now * (1 - now) + hoped * (1 - hoped) : 2 * input.deviation ** 2;
  const perArm = Math.max(plainPerArm, Math.ceil((informationForRule(arms - 1) * variance) / (hoped - now) ** 2));
  const visitors = perArm * arms;
  const weeks = dailyEntrants > 0 ? Math.ceil(visitors / dailyEntrants / DAYS_IN_WEEK) : null;
  const isKnown = weeks !== null && weeks <= MOST_WEEKS;
  return {
    goal,
    difference: Math.abs(hoped - now),
    perArm,
    plainPerArm,
    visitors,
    days: isKnown ? weeks * DAYS_IN_WEEK : null,
    weeks: isKnown ? weeks : null,
    isTooLong: !isKnown || weeks > LONGEST_WEEKS,
  };
}
