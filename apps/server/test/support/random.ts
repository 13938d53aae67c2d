/** The same numbers below 1 for a seed, however often it is run (a linear congruential generator, Numerical Recipes). */
export function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}
