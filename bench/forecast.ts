import { ForecastInputSchema, forecast, modelOf } from '@ruta/core/forecast';
import { seededRandom } from '@ruta/core/statistics';
import beta from '@stdlib/random-base-beta';
import { inPairs, type Measurement } from './measure';

const PAIRS = 5;
const SAMPLES = 20_000;

/** A funnel of twelve stops with bumps, every rate uncertain. */
const input = ForecastInputSchema.parse({
  currency: 'EUR',
  visitors: 10_000,
  clickPrice: 40,
  entryId: 's0',
  samples: SAMPLES,
  fees: { percent: 1.4, fixed: 25 },
  refunds: { reached: 60, came: 1280 },
  stops: Array.from({ length: 12 }, (_, index) => ({
    id: `s${index}`,
    name: `Stop ${index}`,
    rate: { reached: 300 + index * 20, came: 2000 },
    sale: { net: 2000 + index * 100 },
    bumps: index % 3 === 1 ? [{ id: `b${index}`, name: 'Bump', rate: { reached: 90, came: 400 }, sale: { net: 1500 } }] : [],
    yes: index < 11 ? [{ to: `s${index + 1}` }] : [],
    no: index < 10 ? [{ to: `s${index + 2}` }] : [],
  })),
});

/** 20,000 sampled funnels, against the same random draws alone. */
export function forecastBench(): Promise<Measurement> {
  const random = seededRandom(1);
  const draws = modelOf(input).rates.map(({ rate }) =>
    'share' in rate ? () => rate.share : beta.factory(rate.reached + 1, rate.came - rate.reached + 1, { prng: random }),
  );
  const timed = (action: () => void) => () => {
    const start = performance.now();
    action();
    return performance.now() - start;
  };
  const bare = () => {
    for (let sample = 0; sample < SAMPLES; sample++) for (const draw of draws) draw();
  };
  return inPairs(
    'forecast',
    'ms',
    PAIRS,
    timed(() => void forecast(input)),
    timed(bare),
  );
}
