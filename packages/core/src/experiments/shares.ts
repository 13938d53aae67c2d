import cdf from '@stdlib/stats-base-dists-chisquare-cdf';
import type { Arm } from './arm';

/** Less likely than this by chance, uneven arms are a fault of the set-up and no result. */
export const UNEVEN = 0.001;

/**
 * How likely it is by chance that visitors fell so unevenly on the arms: chi-square against the planned shares (Pearson).
 * @returns from 0 to 1; 1 without visitors
 */
export function sharesChance(arms: ReadonlyArray<Pick<Arm, 'share' | 'visitors'>>): number {
  const visitors = arms.reduce((sum, arm) => sum + arm.visitors, 0);
  const shares = arms.reduce((sum, arm) => sum + arm.share, 0);
  if (visitors === 0) return 1;
  const squares = arms.reduce((sum, arm) => {
    const expected = (visitors * arm.share) / shares;
    return sum + (arm.visitors - expected) ** 2 / expected;
  }, 0);
  return 1 - cdf(squares, arms.length - 1);
}
