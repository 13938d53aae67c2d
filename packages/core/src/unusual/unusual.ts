import cdf from '@stdlib/stats-base-dists-normal-cdf';
import { twoProportions } from '../statistics';

/** A rate of late against the one before: so many of those. */
export interface RateSeen {
  name: string;
  now: { reached: number; came: number };
  before: { reached: number; came: number };
}

/** A count of one day against the same weekday of earlier weeks. */
export interface CountSeen {
  name: string;
  now: number;
  before: readonly number[];
}

/** What is unusual, with how likely it would be by chance alone. */
export type Unusual = { name: string; isMore: boolean; chance: number } & (
  | { kind: 'rate'; now: RateSeen['now']; before: RateSeen['before'] }
  | { kind: 'count'; now: number; usual: number; weeks: number }
);

/** In a hundred days at most one is called unusual that is not, however many figures are looked at. */
const FALSE_ALARMS = 0.01;
/** Of fewer people or weeks nothing is said. */
const FEWEST = 30;
const FEWEST_WEEKS = 4;

/** Two-sided tail of the standard normal distribution. */
const tail = (z: number): number => 2 * cdf(-Math.abs(z), 0, 1);

/** Chance of a difference as large between two rates that are the same. */
export const rateChance = ({ now, before }: RateSeen): number => twoProportions(now, before);

/**
 * Chance of a count as far from its mean: normal approximation, with the spread of the earlier weeks where it is wider than
 * that of chance alone (variance = mean), and the uncertainty of their mean.
 */
export function countChance({ now, before }: CountSeen): number {
  const mean = before.reduce((sum, value) => sum + value, 0) / before.length;
  const spread = before.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (before.length - 1);
  const variance = Math.max(spread, mean, 1) * (1 + 1 / before.length);
  return tail((now - mean) / Math.sqrt(variance));
}

/**
 * What of many figures is unusual, the least likely first. The more figures are looked at, the less likely one must be
 * (Bonferroni), so that looking at many does not cry wolf.
 */
export function unusualOf(rates: readonly RateSeen[], counts: readonly CountSeen[]): Unusual[] {
  const askedRates = rates.filter(({ now, before }) => now.came >= FEWEST && before.came >= FEWEST);
  const askedCounts = counts.filter(({ now, before }) => before.length >= FEWEST_WEEKS && now + before.reduce((sum, value) => sum + value, 0) >= FEWEST);
  const most = FALSE_ALARMS / Math.max(1, askedRates.length + askedCounts.length);
  const found: Unusual[] = [
    ...askedRates.map((seen) => ({
      kind: 'rate' as const,
      name: seen.name,
      now: seen.now,
      before: seen.before,
      isMore: seen.now.reached / seen.now.came > seen.before.reached / seen.before.came,
      chance: rateChance(seen),
    })),
    ...askedCounts.map((seen) => {
      const usual = seen.before.reduce((sum, value) => sum + value, 0) / seen.before.length;
      return { kind: 'count' as const, name: seen.name, now: seen.now, usual, weeks: seen.before.length, isMore: seen.now > usual, chance: countChance(seen) };
    }),
  ];
  return found.filter(({ chance }) => chance < most).sort((a, b) => a.chance - b.chance);
}

/** How often chance alone would do that, in words: `once in 4,000 such days`. */
export function chanceWords(chance: number): string {
  const times = chance <= 1e-7 ? 10_000_000 : Math.round(1 / chance);
  const rounded = Number(times.toPrecision(1));
  return `${chance <= 1e-7 ? 'less than ' : ''}once in ${rounded.toLocaleString('en')}`;
}
