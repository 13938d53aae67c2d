import autocannon from 'autocannon';

export interface Measurement {
  name: string;
  value: number;
  unit: string;
  baseline: number;
  ratio: number;
}

const SECONDS = 4;
const CONNECTIONS = 40;

/** Requests answered per second by an address, all of them with success. @throws Error if any answer was not */
export async function requestsPerSecond(options: Pick<autocannon.Options, 'url' | 'method' | 'body' | 'headers' | 'requests'>): Promise<number> {
  const result = await autocannon({ ...options, duration: SECONDS, connections: CONNECTIONS });
  if (result.non2xx > 0 || result.errors > 0) throw new Error(`${options.url}: ${result.non2xx} answers without success, ${result.errors} errors`);
  return result.requests.average;
}

/** Median time of one call in microseconds, over rounds of many calls. */
export function microseconds(action: () => void, calls: number, rounds = 15): number {
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const start = process.hrtime.bigint();
    for (let i = 0; i < calls; i++) action();
    times.push(Number(process.hrtime.bigint() - start) / 1000 / calls);
  }
  return times.sort((a, b) => a - b)[Math.floor(rounds / 2)] ?? 0;
}

export function measured(name: string, unit: string, value: number, baseline: number): Measurement {
  const short = (figure: number) => Number(figure.toPrecision(4));
  return { name, value: short(value), unit, baseline: short(baseline), ratio: short(value / baseline) };
}
