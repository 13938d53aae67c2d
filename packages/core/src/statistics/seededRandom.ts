import mt19937 from '@stdlib/random-base-mt19937';

/** Random numbers from 0 to 1, 1 excluded, as the binomial and beta samplers of the same library take them. */
export type Random = () => number;

/** Random numbers that are the same for the same seed (Mersenne twister). @param seed a whole number from 1 to 2³¹ − 1 */
export function seededRandom(seed: number): Random {
  // Its types leave the property out that its documentation names.
  return (mt19937.factory({ seed }) as unknown as { normalized: Random }).normalized;
}
