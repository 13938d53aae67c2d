import tCdf from '@stdlib/stats-base-dists-t-cdf';
import { binomialSampler, seededRandom } from '../statistics';
import { countOf, type OtherRevenues } from './arm';

/** Revenue of visitors: of each who brought any, or of very many only of those who brought most; and how many there were in all. */
export interface Revenues {
  revenues: readonly number[];
  others?: OtherRevenues | undefined;
  visitors: number;
}

const NO_OTHERS: OtherRevenues = { count: 0, sum: 0, squares: 0 };

/** Mean and variance (n − 1) per visitor, those who brought nothing as 0. */
export function perVisitor({ revenues, others = NO_OTHERS, visitors }: Revenues): { mean: number; variance: number } {
  if (visitors === 0) return { mean: 0, variance: 0 };
  const mean = (revenues.reduce((sum, value) => sum + value, 0) + others.sum) / visitors;
  const listed = revenues.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const unlisted = others.squares - 2 * mean * others.sum + others.count * mean ** 2;
  const squares = listed + unlisted + (visitors - revenues.length - others.count) * mean ** 2;
  return { mean, variance: visitors > 1 ? Math.max(0, squares) / (visitors - 1) : 0 };
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
/** So many revenues, those that weigh most, are drawn one by one. */
export const DRAWN = 1000;

/**
 * Between which revenues per visitor the true one lies: percentile bootstrap. A resample of all visitors has a binomial
 * number of those who brought something, each drawn with replacement. Of very many buyers the thousand that weigh most are
 * drawn so; the sum of all others, of which each weighs little, is drawn from its normal limit, so that the time does not grow
 * with the shop.
 * @param seed the same gives the same
 */
export function bootstrapInterval(all: Revenues, seed: number, within = 0.95, resamples = RESAMPLES): [number, number] {
  const { visitors } = all;
  if (visitors === 0 || countOf(all) === 0) return [0, 0];
  const { revenues, others } = weighed(all);
  const random = seededRandom(seed);
  const draw = binomialSampler(visitors, revenues.length / visitors, random);
  const rest = others.count > 0 ? sumOf(others, visitors - revenues.length, random) : () => 0;
  const means = Float64Array.from({ length: resamples }, () => {
    const count = draw();
    let sum = rest(visitors - count);
    for (let left = count; left > 0; left--) sum += revenues[Math.floor(random() * revenues.length)] ?? 0;
    return sum / visitors;
  }).sort();
  const at = (share: number) => means[Math.min(resamples - 1, Math.floor(share * resamples))] ?? 0;
  return [at((1 - within) / 2), at((1 + within) / 2)];
}

/** Of too many to be drawn one by one only those that weigh most stay listed. */
function weighed({ revenues, others = NO_OTHERS }: Revenues): { revenues: readonly number[]; others: OtherRevenues } {
  if (revenues.length <= DRAWN) return { revenues, others };
  const sorted = [...revenues].sort((one, other) => Math.abs(other) - Math.abs(one));
  const unlisted = sorted.slice(DRAWN).reduce((sum, value) => ({ count: sum.count + 1, sum: sum.sum + value, squares: sum.squares + value ** 2 }), others);
  return { revenues: sorted.slice(0, DRAWN), others: unlisted };
}

/** What so many draws among visitors add up to by the central limit, where these brought something and all others nothing. */
function sumOf({ sum, squares }: OtherRevenues, visitors: number, random: () => number): (draws: number) => number {
  const mean = sum / visitors;
  const deviation = Math.sqrt(Math.max(0, squares / visitors - mean ** 2));
  // Box and Muller.
  return (draws) => draws * mean + Math.sqrt(draws) * deviation * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
