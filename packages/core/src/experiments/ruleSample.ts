import cdf from '@stdlib/stats-base-dists-normal-cdf';
import { ALPHA, POWER } from './levels';

/** How finely time and the statistic are cut; a look for each step, as a test that is looked at twice a day has. */
const STEP = 0.25;
const CELL = 0.05;
/** What lies further below has no chance left to be found. */
const LOWEST = -12;
const LONGEST = 400;

const known = new Map<string, number>();

/**
 * How much information a test needs until the rule that decides finds the planned difference with the wanted power, looked at
 * all along: in units of `V(1) ÷ δ²`, with V(1) the variance of the difference of one visitor each and δ the planned
 * difference, which is also the τ of the mixture. In these units the sum of what was seen is a Brownian motion with drift 1,
 * and the rule (see `alwaysValid`) decides at time t once it is over `√((1 + t)(ln(1 + t) + 2 ln(1 ÷ α)))`. How likely it is over
 * by then is found by carrying its distribution from look to look (P. Armitage, C. K. McPherson, B. C. Rowe, 1969).
 * @param comparisons how many arms are compared with the first, among whom α is shared (Bonferroni)
 */
export function informationForRule(comparisons: number, power = POWER, alpha = ALPHA): number {
  const key = `${comparisons} ${power} ${alpha}`;
  let found = known.get(key);
  if (found === undefined) {
    found = carried(alpha / comparisons, power);
    known.set(key, found);
  }
  return found;
}

/** Over which sum the rule decides after so much information. */
const boundary = (t: number, alpha: number): number => Math.sqrt((1 + t) * (Math.log(1 + t) + 2 * Math.log(1 / alpha)));

function carried(alpha: number, power: number): number {
  const cells = Math.ceil((boundary(LONGEST, alpha) - LOWEST) / CELL);
  const deviation = Math.sqrt(STEP);
  // The chance to move on by so many cells in one step, the drift included.
  const reach = Math.ceil((6 * deviation + STEP) / CELL);
  const moves = Float64Array.from({ length: 2 * reach + 1 }, (_, index) => {
    const middle = (index - reach) * CELL;
    return cdf(middle + CELL / 2, STEP, deviation) - cdf(middle - CELL / 2, STEP, deviation);
  });
  let now = new Float64Array(cells);
  now[Math.round(-LOWEST / CELL)] = 1;
  let decided = 0;
  for (let look = 1; look * STEP <= LONGEST; look++) {
    const t = look * STEP;
    const top = Math.floor((boundary(t, alpha) - LOWEST) / CELL);
    const next = new Float64Array(cells);
    let over = 0;
    for (let from = 0; from < cells; from++) {
      const chance = now[from] as number;
      if (chance < 1e-12) continue;
      for (let index = 0; index < moves.length; index++) {
        const to = from + index - reach;
        const moved = chance * (moves[index] as number);
        if (to > top) over += moved;
        else if (to >= 0) next[to] = (next[to] as number) + moved;
      }
    }
    // Within the step that reaches it, as far as it has to go.
    if (decided + over >= power) return t - STEP + (STEP * (power - decided)) / over;
    decided += over;
    now = next;
  }
  return LONGEST;
}
