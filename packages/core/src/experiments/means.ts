import binomial from '@stdlib/random-base-binomial';
import tCdf from '@stdlib/stats-base-dists-t-cdf';
import { seededRandom } from '../statistics';

/** Revenue of visitors: of each who brought any, and how many there were in all. */
export interface Revenues {
  revenues: readonly number[];
  visitors: number;
}

/** Mean and variance (n − 1) per visitor, those who brought nothing as 0. */
export function perVisitor({ revenues, visitors }: Revenues): { mean: number; variance: number } {
  if (visitors === 0) return { mean: 0, variance: 0 };
  const mean = revenues.reduce((sum, value) => sum + value, 0) / visitors;
  const squares = revenues.reduce((sum, value) => sum + (value - mean) ** 2, 0) + (visitors - revenues.length) * mean ** 2;
  return { mean, variance: visitors > 1 ? squares / (visitors - 1) : 0 };
}

/**
 * Chance that two means that are the same differ as much: Welch's t-test, two-sided, degrees of freedom by
 * Welch and Satterthwaite.
 * @returns from 0 to 1; 1 where nothing can be said
 */
export function welch(one: Revenues, other: Revenues): number {
  const [a, b] = [perVisitor(one), perVisitor(other)];
  if (one.visitors < 2 || other.visitors < 2) return 1;
  const [va, vb] = [a.variance / one.visitors, b.variance / other.visitors];
  if (va + vb === 0) return 1;
  const freedom = (va + vb) ** 2 / (va ** 2 / (one.visitors - 1) + vb ** 2 / (other.visitors - 1));
  return 2 * tCdf(-Math.abs(a.mean - b.mean) / Math.sqrt(va + vb), freedom);
}

const RESAMPLES = 10_000;

/**
 * Between which revenues per visitor the true one lies: percentile bootstrap. A resample of all visitors has a binomial
 * number of those who brought something, each drawn with replacement.
 * @param seed the same gives the same
 */
export function bootstrapInterval({ revenues, visitors }: Revenues, seed: number, within = 0.95, resamples = RESAMPLES): [number, number] {
  if (visitors === 0 || revenues.length === 0) return [0, 0];
  const random = seededRandom(seed);
  const rate = revenues.length / visitors;
  const draw = rate < 1 ? binomial.factory(visitors, rate, { prng: random }) : () => visitors;
  const means = Float64Array.from({ length: resamples }, () => {
    let sum = 0;
    for (let left = draw(); left > 0; left--) sum += revenues[Math.floor(random() * revenues.length)] ?? 0;
    return sum / visitors;
  }).sort();
  const at = (share: number) => means[Math.min(resamples - 1, Math.floor(share * resamples))] ?? 0;
  return [at((1 - within) / 2), at((1 + within) / 2)];
}
