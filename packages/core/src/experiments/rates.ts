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

/** So many cells for each arm, where it may lie: of very unlike arms each is seen as finely as the other. */
const CELLS = 500;
/** What lies beyond is left out; it is less than any figure shows. */
const BEYOND = 1e-7;

/** The edges of cells between which arms may lie, in order: of each as many as of every other. */
function gridOver(known: ReadonlyArray<{ a: number; b: number }>): Float64Array {
  const edges = new Set<number>();
  for (const { a, b } of known) {
    const [low, high] = [betaQuantile(BEYOND, a, b), betaQuantile(1 - BEYOND, a, b)];
    for (let cell = 0; cell <= CELLS; cell++) edges.add(low + ((high - low) * cell) / CELLS);
  }
  return Float64Array.from(edges).sort();
}

/** For each arm, how likely it is the best of all, and what is lost on average by choosing it (absolute, against the best). */
export interface Standing {
  best: number;
  loss: number;
}

/**
 * Chance of being the best among all arms, and expected loss: the posteriors (Beta, prior 1, 1) integrated over a grid that is
 * fine wherever one of them is,
 * `P(i best) = ∫ fᵢ Π_{j≠i} Fⱼ` and `E(max) = ∫ (1 − Π Fⱼ)`.
 */
export function standings(arms: readonly Reached[]): Standing[] {
  const known = arms.map(posterior);
  const edges = gridOver(known);
  const best = known.map(() => 0);
  let from = edges[0] ?? 0;
  let most = from;
  let below = known.map(({ a, b }) => betaCdf(from, a, b));
  for (const edge of edges.subarray(1)) {
    const above = known.map(({ a, b }) => betaCdf(edge, a, b));
    const middle = above.map((value, index) => (value + (below[index] ?? 0)) / 2);
    for (const [index, value] of above.entries()) {
      const others = middle.reduce((product, each, other) => (other === index ? product : product * each), 1);
      best[index] = (best[index] ?? 0) + (value - (below[index] ?? 0)) * others;
    }
    most += (1 - middle.reduce((product, each) => product * each, 1)) * (edge - from);
    below = above;
    from = edge;
  }
  const all = best.reduce((sum, each) => sum + each, 0);
  return known.map(({ a, b }, index) => ({ best: (best[index] ?? 0) / all, loss: Math.max(0, most - a / (a + b)) }));
}
