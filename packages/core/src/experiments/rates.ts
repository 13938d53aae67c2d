import betaCdf from '@stdlib/stats-base-dists-beta-cdf';
import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';
import { twoProportions as proportionsChance } from '../statistics';

/** So many of those. */
export interface Reached {
  converted: number;
  visitors: number;
}

/** A rate after a Beta(1, 1) prior. */
const posterior = ({ converted, visitors }: Reached) => ({ a: 1 + converted, b: 1 + visitors - converted });

/** Between which rates the true one lies with so much probability, as much left below as above. */
export function rateInterval(reached: Reached, within = 0.95): [number, number] {
  const { a, b } = posterior(reached);
  return [betaQuantile((1 - within) / 2, a, b), betaQuantile((1 + within) / 2, a, b)];
}

/** Chance that two arms that are the same differ as much in their rates: two-sided z-test, see `statistics`. */
export const twoProportions = (one: Reached, other: Reached): number =>
  proportionsChance({ reached: one.converted, came: one.visitors }, { reached: other.converted, came: other.visitors });

const CELLS = 1500;
/** What lies beyond is left out; it is less than any figure shows. */
const BEYOND = 1e-7;

/** For each arm, how likely it is the best of all, and what is lost on average by choosing it (absolute, against the best). */
export interface Standing {
  best: number;
  loss: number;
}

/**
 * Chance of being the best among all arms, and expected loss: the posteriors (Beta, prior 1, 1) integrated over a grid,
 * `P(i best) = ∫ fᵢ Π_{j≠i} Fⱼ` and `E(max) = ∫ (1 − Π Fⱼ)`.
 */
export function standings(arms: readonly Reached[]): Standing[] {
  const known = arms.map(posterior);
  const low = Math.min(...known.map(({ a, b }) => betaQuantile(BEYOND, a, b)));
  const high = Math.max(...known.map(({ a, b }) => betaQuantile(1 - BEYOND, a, b)));
  const width = (high - low) / CELLS;
  const best = known.map(() => 0);
  let most = low;
  let below = known.map(({ a, b }) => betaCdf(low, a, b));
  for (let cell = 0; cell < CELLS; cell++) {
    const above = known.map(({ a, b }) => betaCdf(low + (cell + 1) * width, a, b));
    const middle = above.map((value, index) => (value + (below[index] ?? 0)) / 2);
    for (const [index, value] of above.entries()) {
      const others = middle.reduce((product, each, other) => (other === index ? product : product * each), 1);
      best[index] = (best[index] ?? 0) + (value - (below[index] ?? 0)) * others;
    }
    most += (1 - middle.reduce((product, each) => product * each, 1)) * width;
    below = above;
  }
  const all = best.reduce((sum, each) => sum + each, 0);
  return known.map(({ a, b }, index) => ({ best: (best[index] ?? 0) / all, loss: Math.max(0, most - a / (a + b)) }));
}
