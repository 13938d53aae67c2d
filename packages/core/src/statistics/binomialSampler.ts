import type { Random } from './seededRandom';

/** Beyond so many standard deviations nothing is drawn in any number of draws that anybody makes. */
const WIDTH = 12;

/**
 * Draws binomial numbers exactly, by inversion: the chances of all numbers that can come up are made from that of the most
 * frequent one by `P(k + 1) = P(k) (n − k) ÷ (k + 1) · p ÷ (1 − p)`, and each draw looks one random number up among their sums
 * (L. Devroye, Non-Uniform Random Variate Generation, III.2). Samplers that approximate are off where few are drawn of many.
 * @param trials how many, a whole number of 0 or more
 * @param chance of each, from 0 to 1
 */
export function binomialSampler(trials: number, chance: number, random: Random): () => number {
  if (trials <= 0 || chance <= 0) return () => 0;
  if (chance >= 1) return () => trials;
  const odds = chance / (1 - chance);
  const mode = Math.min(trials, Math.floor((trials + 1) * chance));
  const reach = Math.ceil(WIDTH * Math.sqrt(trials * chance * (1 - chance))) + WIDTH;
  const low = Math.max(0, mode - reach);
  const high = Math.min(trials, mode + reach);
  const chances = new Float64Array(high - low + 1);
  chances[mode - low] = 1;
  for (let k = mode; k < high; k++) chances[k + 1 - low] = (chances[k - low] as number) * ((trials - k) / (k + 1)) * odds;
  for (let k = mode; k > low; k--) chances[k - 1 - low] = (chances[k - low] as number) * (k / (trials - k + 1) / odds);
  let sum = 0;
  for (let index = 0; index < chances.length; index++) {
    sum += chances[index] as number;
    chances[index] = sum;
  }
  return () => {
    const at = random() * sum;
    let [from, to] = [0, chances.length - 1];
    while (from < to) {
      const middle = (from + to) >> 1;
      if ((chances[middle] as number) > at) to = middle;
      else from = middle + 1;
    }
    return low + from;
  };
}
