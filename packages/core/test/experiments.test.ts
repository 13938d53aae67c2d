import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  alwaysValid,
  alwaysValidInterval,
  bootstrapInterval,
  decideExperiment,
  ExperimentResultInputSchema,
  experimentResult,
  type Kept,
  perVisitor,
  planExperiment,
  rateInterval,
  sampleForMeans,
  sampleForRates,
  sharesChance,
  standings,
  twoProportions,
  welch,
} from '../src/experiments';
import { binomialSampler, seededRandom } from '../src/statistics';

const arm = (name: string, visitors: number, converted: number, more: object = {}) => ({ name, share: 1, visitors, converted, ...more });

describe('a plan', () => {
  it('needs as many visitors as the formula says', () => {
    // p̄ = 0.11: (1.95996 √(2 × 0.11 × 0.89) + 0.84162 √(0.1 × 0.9 + 0.12 × 0.88))² ÷ 0.02² = (0.86728 + 0.37222)² ÷ 0.0004 = 3,840.8
    expect(sampleForRates(0.1, 0.12)).toBe(3841);
    // p̄ = 0.55: (1.95996 √0.495 + 0.84162 √0.49)² ÷ 0.1² = (1.37896 + 0.58913)² ÷ 0.01 = 387.3
    expect(sampleForRates(0.5, 0.6)).toBe(388);
    // 2 × 2.80159² × 10² ÷ 2² = 392.4
    expect(sampleForMeans(10, 2)).toBe(393);
  });

  it('lasts full weeks, and says when nobody comes or it takes too long', () => {
    const plan = (dailyEntrants: number, change = 0.2) => planExperiment({ goal: 'conversion', rate: 0.1, change, arms: 2, dailyEntrants });
    // For a single look 3,841 in each arm; for the rule that decides 13.3019 × (0.1 × 0.9 + 0.12 × 0.88) ÷ 0.02² = 6,504.6.
    // 13,010 visitors at 300 a day are 43.4 days, seven weeks.
    expect(plan(300)).toMatchObject({ perArm: 6505, plainPerArm: 3841, visitors: 13_010, days: 49, weeks: 7, isTooLong: false });
    expect(plan(0)).toMatchObject({ days: null, weeks: null, isTooLong: true });
    expect(plan(20)).toMatchObject({ weeks: 93, isTooLong: true });
    expect(() => plan(200, 9.5)).toThrow('choose a smaller difference');
  });
});

describe('statistics', () => {
  it('agree with worked values', () => {
    // Pooled 45 ÷ 300 = 0.15, z = (0.2 − 0.1) ÷ √(0.15 × 0.85 × (1 ÷ 150 + 1 ÷ 150)) = 2.4254, two-sided 0.01529.
    expect(twoProportions({ converted: 30, visitors: 150 }, { converted: 15, visitors: 150 })).toBeCloseTo(0.01529, 4);
    // (60 − 50)² ÷ 50 + (40 − 50)² ÷ 50 = 4 with one degree of freedom: 0.0455.
    expect(sharesChance([arm('a', 60, 0), arm('b', 40, 0)])).toBeCloseTo(0.0455, 4);
    // Beta(1, 1) without anybody is even: 2.5 % to 97.5 %. With nobody of 9, Beta(1, 10): 1 − 0.975^(1/10) = 0.00253, 1 − 0.025^(1/10) = 0.30850.
    expect(rateInterval({ converted: 0, visitors: 0 })).toEqual([expect.closeTo(0.025, 6), expect.closeTo(0.975, 6)]);
    expect(rateInterval({ converted: 0, visitors: 9 })).toEqual([expect.closeTo(0.00253, 4), expect.closeTo(0.3085, 4)]);
    // 1, 2, 3, 4 against 2, 4, 6, 8: means 2.5 and 5, variances 5/3 and 20/3, t = 2.5 ÷ √(25 ÷ 12) = 1.7321, 4.4118 degrees of freedom, p = 0.1514.
    expect(welch({ revenues: [1, 2, 3, 4], visitors: 4 }, { revenues: [2, 4, 6, 8], visitors: 4 })).toBeCloseTo(0.1514, 3);
    // 10 and nine times 0: mean 1, variance (81 + 9) ÷ 9 = 10.
    expect(perVisitor({ revenues: [10], visitors: 10 })).toEqual({ mean: 1, variance: 10 });
  });

  it('know the best of two even arms, and of one that is certain', () => {
    const [one, other] = standings([
      { converted: 0, visitors: 0 },
      { converted: 0, visitors: 0 },
    ]);
    // Two even rates: each best with one half; the larger of two is 2/3 on average, each 1/2.
    expect([one?.best, other?.best, one?.loss]).toEqual([expect.closeTo(0.5, 6), expect.closeTo(0.5, 6), expect.closeTo(1 / 6, 4)]);
    // Beta(2, 1) above Beta(1, 2) with 5/6 (integral of 2x × (2x − x²)).
    const [better] = standings([
      { converted: 1, visitors: 1 },
      { converted: 0, visitors: 1 },
    ]);
    expect(better?.best).toBeCloseTo(5 / 6, 4);
    const three = standings([
      { converted: 900, visitors: 1000 },
      { converted: 100, visitors: 1000 },
      { converted: 100, visitors: 1000 },
    ]);
    expect([three[0]?.best, three[0]?.loss, three[1]?.loss]).toEqual([expect.closeTo(1, 6), expect.closeTo(0, 4), expect.closeTo(0.8, 2)]);
  });

  it('know the best of arms that are very unlike in size, and of very large ones', () => {
    // One arm nobody knows, Beta(1, 1), against one that is 0.5 for sure, near enough: a half each, and E(max) = ∫ max(x, ½) = 5/8.
    const [unknown, sure] = standings([
      { converted: 0, visitors: 0 },
      { converted: 5_000_000, visitors: 10_000_000 },
    ]);
    expect([unknown?.best, sure?.best]).toEqual([expect.closeTo(0.5, 3), expect.closeTo(0.5, 3)]);
    expect([unknown?.loss, sure?.loss]).toEqual([expect.closeTo(1 / 8, 4), expect.closeTo(1 / 8, 4)]);
    // z = 0.0001 ÷ √(2 × 0.09 ÷ 10⁷) = 0.7453: Φ(0.7453) = 0.772.
    const [one] = standings([
      { converted: 1_001_000, visitors: 10_000_000 },
      { converted: 1_000_000, visitors: 10_000_000 },
    ]);
    expect(one?.best).toBeCloseTo(0.772, 3);
  });

  it('decide by a p-value that never rises, and by an interval that leaves 0 out at the same moment', () => {
    // V = τ²: Λ = √½ exp(δ² ÷ (4 V)); with δ² = 16 V it is 0.70711 × e⁴ = 38.607, p = 0.02590.
    expect(alwaysValid({ difference: 4, variance: 1 }, 1)).toBeCloseTo(0.0259, 4);
    expect(alwaysValid({ difference: 0, variance: 1 }, 1, 0.03)).toBe(0.03);
    expect(alwaysValid({ difference: 1, variance: 0 }, 1)).toBe(1);
    const estimates = fc.record({ difference: fc.double({ min: -1, max: 1, noNaN: true }), variance: fc.double({ min: 1e-6, max: 1, noNaN: true }) });
    fc.assert(
      fc.property(estimates, fc.double({ min: 0.001, max: 1, noNaN: true }), (estimate, tau) => {
        const [low, high] = alwaysValidInterval(estimate, tau) ?? [0, 0];
        const p = alwaysValid(estimate, tau);
        if (Math.abs(p - 0.05) > 1e-9) expect(low > 0 || high < 0).toBe(p < 0.05);
      }),
    );
  });
});

describe('a test that is read', () => {
  const read = (arms: object[], more: object = {}) =>
    experimentResult(ExperimentResultInputSchema.parse({ goal: 'conversion', difference: 0.02, arms, ...more }));

  it('is decided only by what holds at every look; without it the original stays', () => {
    // A plain p-value of 0.03 would have fooled somebody.
    const early = read([arm('now', 1000, 100), arm('new', 1000, 131)]);
    expect(early.arms[1]?.against?.plain).toBeLessThan(0.05);
    expect(early.decision).toEqual({ kind: 'go-on' });
    expect(read([arm('now', 1000, 100), arm('new', 1000, 131)], { isOver: true }).decision).toEqual({ kind: 'undecided' });
    expect(read([arm('now', 5000, 500), arm('new', 5000, 650)]).decision).toEqual({ kind: 'winner', arm: 'new' });
    expect(read([arm('now', 5000, 650), arm('new', 5000, 500)]).decision).toEqual({ kind: 'original-is-better' });
    expect(read([arm('now', 6000, 600), arm('new', 5000, 650)]).decision).toEqual({ kind: 'not-to-be-trusted' });
    expect(read([arm('now', 3, 0), arm('new', 3, 3)]).arms[1]?.against?.alwaysValid).toBe(1);
    expect(read([arm('now', 0, 0), arm('new', 0, 0)])).toMatchObject({ decision: { kind: 'go-on' }, sharesChance: 1 });
  });

  it('keeps what was proved for its own direction: an arm that was clearly worse and is now a hair better does not win by it', () => {
    const worse = read([arm('now', 5000, 650), arm('new', 5000, 500)]);
    expect(worse.arms[1]?.against?.kept).toEqual({ better: 1, worse: expect.closeTo(worse.arms[1]?.against?.alwaysValid ?? 0, 12) });
    const before = worse.arms.map(({ against }) => against?.kept ?? { better: 1, worse: 1 });
    expect(read([arm('now', 50_000, 5000), arm('new', 50_000, 5001)], { before }).decision).not.toMatchObject({ kind: 'winner' });
    const better = read([arm('now', 5000, 500), arm('new', 5000, 650)]).arms.map(({ against }) => against?.kept ?? { better: 1, worse: 1 });
    expect(read([arm('now', 50_000, 5000), arm('new', 50_000, 5100)], { before: better }).decision).toEqual({ kind: 'winner', arm: 'new' });
  });

  it('counts revenue of the whole funnel, those who buy nothing as 0', () => {
    const revenues = Array.from({ length: 200 }, (_, index) => (index % 4 === 0 ? 212_00 : 138_00));
    const { arms, decision } = read(
      [arm('now', 4000, 200, { revenues }), arm('new', 4000, 150, { revenues: revenues.slice(0, 150).map((value) => value * 3) })],
      {
        goal: 'revenue',
        difference: 100,
      },
    );
    // 200 of them are 50 × 212.00 + 150 × 138.00 = 31,300.00 over 4,000.
    expect(arms[0]?.revenue?.perVisitor).toBeCloseTo(782.5, 6);
    const [low = 0, high = 0] = arms[0]?.revenue?.interval ?? [];
    expect([low < 782.5, high > 782.5]).toEqual([true, true]);
    // The bootstrap agrees with mean ± 1.96 standard errors within a tenth of their width.
    const error = (arms[0]?.revenue?.deviation ?? 0) / Math.sqrt(4000);
    expect(Math.abs(high - low - 2 * 1.96 * error)).toBeLessThan(0.1 * 2 * 1.96 * error);
    expect(decision).toEqual({ kind: 'winner', arm: 'new' });
  });

  it('is refused in words where it cannot be', () => {
    const wrong = (value: object) => ExperimentResultInputSchema.safeParse({ goal: 'conversion', difference: 0.02, ...value }).error?.issues[0]?.message;
    expect(wrong({ arms: [arm('a', 1, 0)] })).toBe('A test has at least two arms.');
    expect(wrong({ arms: [arm('a', 1, 2), arm('b', 1, 0)] })).toBe('More reached the goal than came.');
    expect(wrong({ arms: [arm('a', 1, 0), arm('a', 1, 0)] })).toBe('Each arm needs a name of its own.');
    expect(wrong({ goal: 'revenue', arms: [arm('a', 1, 0), arm('b', 1, 0)] })).toBe('Say what the visitors of each arm brought.');
  });
});

/** Seeded, so that what holds today holds tomorrow: each bound leaves four standard errors of the simulation itself. */
describe('simulated many times', { timeout: 120_000 }, () => {
  const random = seededRandom(20_261);
  const drawn = (trials: number, chance: number) => binomialSampler(trials, chance, random)();
  /** A test of two arms looked at every day; whether it was ever decided, and after how many days. */
  const looked = (rates: [number, number], days: number, daily: number, tau: number): boolean => {
    const seen = [
      { visitors: 0, converted: 0 },
      { visitors: 0, converted: 0 },
    ];
    let p = 1;
    for (let day = 0; day < days; day++) {
      for (const [index, each] of seen.entries()) {
        each.visitors += daily;
        each.converted += drawn(daily, rates[index] ?? 0);
      }
      const [one, other] = seen as [(typeof seen)[0], (typeof seen)[0]];
      if (one.converted < 10 || other.converted < 10) continue;
      const rate = (each: typeof one) => each.converted / each.visitors;
      const variance = (each: typeof one) => (rate(each) * (1 - rate(each))) / each.visitors;
      p = alwaysValid({ difference: rate(other) - rate(one), variance: variance(one) + variance(other) }, tau, p);
      if (p < 0.05) return true;
    }
    return false;
  };
  const share = (times: number, happens: () => boolean) => Array.from({ length: times }, happens).filter(Boolean).length / times;

  it('an arm against itself, looked at every day for sixty days, is decided falsely at most at the promised rate', () => {
    const seen = share(2000, () => looked([0.1, 0.1], 60, 100, 0.02));
    expect(seen).toBeLessThan(0.05);
  });

  it('a test as large as planned finds the planned difference as often as promised', () => {
    const n = sampleForRates(0.1, 0.12);
    const seen = share(4000, () => twoProportions({ visitors: n, converted: drawn(n, 0.1) }, { visitors: n, converted: drawn(n, 0.12) }) < 0.05);
    expect(Math.abs(seen - 0.8)).toBeLessThan(4 * Math.sqrt((0.8 * 0.2) / 4000));
  });

  it.each([
    ['conversion', 2],
    ['conversion', 6],
    ['revenue', 2],
    ['revenue', 6],
  ] as const)('the rule that decides finds a planned difference of %s in %d arms as often as promised, looked at every day', (goal, count) => {
    const rate = 0.1;
    const change = 0.15;
    // Who buys brings 100.00: the deviation of a visitor is 100.00 × √(0.1 × 0.9).
    const deviation = 100_00 * Math.sqrt(rate * (1 - rate));
    const common = { arms: count, dailyEntrants: 0, change };
    const plan = planExperiment(goal === 'conversion' ? { ...common, goal, rate } : { ...common, goal, mean: rate * 100_00, deviation });
    const days = 28;
    const daily = plan.perArm / days;
    const rates = [rate, rate * (1 + change), ...Array.from({ length: count - 2 }, () => rate)];
    const draws = rates.map((each) => binomialSampler(Math.round(daily), each, random));
    const found = share(400, () => {
      const converted = rates.map(() => 0);
      let before: Kept[] | undefined;
      for (let day = 1; day <= days; day++) {
        for (const [index, draw] of draws.entries()) converted[index] = (converted[index] ?? 0) + draw();
        const { kept, decision } = decideExperiment({
          goal,
          difference: plan.difference,
          isOver: false,
          seed: 1,
          before,
          arms: rates.map((_rate, index) => {
            const reached = converted[index] ?? 0;
            return {
              name: `arm ${index}`,
              share: 1,
              visitors: Math.round(daily) * day,
              converted: reached,
              revenues: Array.from({ length: reached }, () => 100_00),
            };
          }),
        });
        if (decision.kind === 'winner') return decision.arm === 'arm 1';
        before = kept;
      }
      return false;
    });
    // Four standard errors of 400 tests are 8 points. With the visitors of a single look it was 48 % of two arms, and 26 % of six.
    expect(Math.abs(found - 0.8)).toBeLessThan(0.08);
    expect(plan.plainPerArm).toBeLessThan(plan.perArm);
  });

  it('numbers of buyers are drawn exactly, where few buy of many as well', () => {
    const draw = binomialSampler(2000, 0.01, random);
    const times = 40_000;
    const all = Array.from({ length: times }, draw);
    const mean = all.reduce((sum, each) => sum + each, 0) / times;
    const variance = all.reduce((sum, each) => sum + (each - mean) ** 2, 0) / times;
    // 20 and 19.8; standard errors √(19.8 ÷ 40,000) = 0.022 and 19.8 √(2 ÷ 40,000) = 0.14.
    expect(Math.abs(mean - 20)).toBeLessThan(0.09);
    expect(Math.abs(variance - 19.8)).toBeLessThan(0.56);
    // At most 12 of 2,000 at 1 %: 0.0384 by its sum of chances.
    expect(Math.abs(all.filter((each) => each <= 12).length / times - 0.0384)).toBeLessThan(4 * Math.sqrt((0.0384 * 0.9616) / times));
    expect([binomialSampler(0, 0.5, random)(), binomialSampler(9, 0, random)(), binomialSampler(9, 1, random)()]).toEqual([0, 0, 9]);
  });

  it('intervals of rates cover the true one as they say', () => {
    const seen = share(2000, () => {
      const rate = 0.02 + 0.3 * random();
      const [low, high] = rateInterval({ visitors: 400, converted: drawn(400, rate) });
      return low <= rate && rate <= high;
    });
    expect(Math.abs(seen - 0.95)).toBeLessThan(0.02);
  });

  it('intervals of revenue cover nearly as often, heavy tails included', () => {
    // One in twenty buys; most for 30, some for a multiple: a Pareto tail of exponent 3 with mean 30 × 3 ÷ 2.
    const amount = () => 30 / (1 - random()) ** (1 / 3);
    const seen = share(300, () => {
      const revenues = Array.from({ length: drawn(4000, 0.05) }, amount);
      const [low, high] = bootstrapInterval({ revenues, visitors: 4000 }, 1 + Math.floor(random() * 1e6), 0.95, 1000);
      return low <= 0.05 * 45 && 0.05 * 45 <= high;
    });
    expect(seen).toBeGreaterThan(0.9);
  });
});

it('draws very many buyers, with a few who bring far more, as if each were drawn one by one', { timeout: 60_000 }, () => {
  const random = seededRandom(77);
  const revenues = Array.from({ length: 6000 }, (_, index) => (index < 3 ? 400_000 : 1500 + Math.floor(random() * 4000)));
  const visitors = 40_000;
  const count = binomialSampler(visitors, revenues.length / visitors, random);
  const means = Array.from({ length: 4000 }, () => {
    let sum = 0;
    for (let left = count(); left > 0; left--) sum += revenues[Math.floor(random() * revenues.length)] ?? 0;
    return sum / visitors;
  }).sort((one, other) => one - other);
  const [low, high] = bootstrapInterval({ revenues, visitors }, 5);
  const [wantedLow, wantedHigh] = [means[100] ?? 0, means[3900] ?? 0];
  // Within a twentieth of the width: what both simulations leave open.
  expect(Math.abs(low - wantedLow) / (wantedHigh - wantedLow)).toBeLessThan(0.05);
  expect(Math.abs(high - wantedHigh) / (wantedHigh - wantedLow)).toBeLessThan(0.05);
  // A normal interval would be as wide to both sides; three who bring much lie far above.
  const mean = revenues.reduce((sum, value) => sum + value, 0) / visitors;
  expect((high - mean) / (mean - low)).toBeGreaterThan(1.1);
});

it('is decided by the clock exactly as it is shown', () => {
  const reached = fc.tuple(fc.nat(900), fc.nat(900)).map(([visitors, converted]) => ({ visitors, converted: Math.min(visitors, converted) }));
  fc.assert(
    fc.property(fc.array(reached, { minLength: 2, maxLength: 4 }), fc.boolean(), fc.constantFrom('conversion', 'revenue'), (arms, isOver, goal) => {
      const input = ExperimentResultInputSchema.parse({
        goal,
        difference: goal === 'revenue' ? 300 : 0.05,
        isOver,
        arms: arms.map(({ visitors, converted }, index) =>
          arm(`arm ${index}`, visitors, converted, { revenues: Array.from({ length: converted }, (_, each) => 1000 + each) }),
        ),
      });
      const { decision, arms: shown } = experimentResult(input);
      expect(decideExperiment(input)).toEqual({ decision, kept: shown.map(({ against }) => against?.kept ?? { better: 1, worse: 1 }) });
    }),
    { numRuns: 12 },
  );
}, 60_000);
