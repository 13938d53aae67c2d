import cdf from '@stdlib/stats-base-dists-normal-cdf';

/** So many of those. */
export interface Proportion {
  reached: number;
  came: number;
}

/**
 * Chance that two rates that are the same differ as much: two-sided two-proportion z-test with pooled variance, without
 * continuity correction.
 * @returns from 0 to 1; 1 where nothing can be said
 */
export function twoProportions(one: Proportion, other: Proportion): number {
  if (one.came === 0 || other.came === 0) return 1;
  const pooled = (one.reached + other.reached) / (one.came + other.came);
  const variance = pooled * (1 - pooled) * (1 / one.came + 1 / other.came);
  return variance === 0 ? 1 : 2 * cdf(-Math.abs(one.reached / one.came - other.reached / other.came) / Math.sqrt(variance), 0, 1);
}
