import autocannon from 'autocannon';

export interface Measurement {
  name: string;
  value: number;
  unit: string;
  baseline: number;
  ratio: number;
}

const SECONDS = 2;
const CONNECTIONS = 40;

/** Requests answered per second by an address, all of them with success. @throws Error if any answer was not */
export async function requestsPerSecond(
  options: Pick<autocannon.Options, 'url' | 'method' | 'body' | 'headers' | 'requests'> & {
    seconds?: number /** Further answers that are a success: a redirect onward. */;
    accepts?: number[];
  },
): Promise<number> {
  const result = await autocannon({ ...options, duration: options.seconds ?? SECONDS, connections: CONNECTIONS });
  const led = (options.accepts ?? []).reduce((sum, status) => sum + (result.statusCodeStats?.[`${status}` as const]?.count ?? 0), 0);
  if (result.non2xx > led || result.errors > 0) throw new Error(`${options.url}: ${result.non2xx - led} answers without success, ${result.errors} errors`);
  // All answers over the whole time: the mean of whole seconds leaves out what the last one did.
  return result.requests.total / result.duration;
}

/** Time of one call in microseconds, over many calls. */
export function microseconds(action: () => void, calls: number): number {
  const start = process.hrtime.bigint();
  for (let i = 0; i < calls; i++) action();
  return Number(process.hrtime.bigint() - start) / 1000 / calls;
}

const middle = (figures: readonly number[]): number => figures.toSorted((a, b) => a - b)[Math.floor(figures.length / 2)] ?? 0;

/**
 * Ours against a bare baseline, in pairs of rounds that follow each other at once, in turn one and the other first. A
 * noisy moment of the machine hits both of a pair alike, and the median of the pairs leaves out those it did not. The
 * first pair only warms up.
 */
export async function inPairs(name: string, unit: string, pairs: number, ours: () => number | Promise<number>, bare: () => number | Promise<number>) {
  const seen: Array<{ value: number; baseline: number }> = [];
  for (let pair = 0; pair <= pairs; pair++) {
    const first = pair % 2 === 0 ? await ours() : await bare();
    const second = pair % 2 === 0 ? await bare() : await ours();
    const [value, baseline] = pair % 2 === 0 ? [first, second] : [second, first];
    if (pair > 0) seen.push({ value, baseline });
  }
  const short = (figure: number) => Number(figure.toPrecision(4));
  return {
    name,
    unit,
    value: short(middle(seen.map(({ value }) => value))),
    baseline: short(middle(seen.map(({ baseline }) => baseline))),
    ratio: short(middle(seen.map(({ value, baseline }) => value / baseline))),
  } satisfies Measurement;
}

/** An address of its own for each buyer, of the range that is kept for measuring (RFC 2544): one alone may not buy so often. */
export const addressOf = (number: number): string => `198.${18 + ((number >> 16) & 1)}.${(number >> 8) & 255}.${number & 255}`;
