import { describe, expect, it } from 'vitest';
import { chanceWords, countChance, rateChance, unusualOf } from '../src/unusual';

/** A seeded generator of numbers from 0 to 1 (mulberry32). */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
const binomial = (random: () => number, n: number, p: number) => Array.from({ length: n }).filter(() => random() < p).length;

describe('how likely', () => {
  it('is that of the z-test, by hand', () => {
    // 12 of 200 (6 %) against 240 of 2,000 (12 %): pooled 252 ÷ 2200 = 0.114545; variance 0.114545 × 0.885455 × (0.005 + 0.0005) = 0.00055784;
    // z = −0.06 ÷ 0.0236187 = −2.54036; two-sided tail 0.011074.
    expect(rateChance({ name: '', now: { reached: 12, came: 200 }, before: { reached: 240, came: 2000 } })).toBeCloseTo(0.011074, 5);
    // Mean 100, and the weeks spread no wider than chance: variance 100 × (1 + 1 ÷ 4) = 125; z = 30 ÷ 11.18034 = 2.68328; tail 0.007290.
    expect(countChance({ name: '', now: 130, before: [100, 100, 100, 100] })).toBeCloseTo(0.00729, 5);
    // Spread wider than chance: 60 and 140 vary by 2133.3; × 1.25 = 2666.7; z = 30 ÷ 51.64 = 0.58095; tail 0.561274.
    expect(countChance({ name: '', now: 130, before: [60, 140, 60, 140] })).toBeCloseTo(0.561274, 5);
    expect(rateChance({ name: '', now: { reached: 0, came: 50 }, before: { reached: 0, came: 500 } })).toBe(1);
  });
  it('is told in round words', () => {
    expect([0.011, 0.00042, 1e-12].map(chanceWords)).toEqual(['once in 90', 'once in 2,000', 'less than once in 10,000,000']);
  });
});

describe('what is unusual', () => {
  it('is found where it is, with which way it went', () => {
    const quiet = { name: 'Quiet', now: { reached: 31, came: 100 }, before: { reached: 300, came: 1000 } };
    const broken = { name: 'Broken', now: { reached: 2, came: 120 }, before: { reached: 300, came: 1000 } };
    const silent = { name: 'Radio', now: 0, before: [52, 48, 61, 55, 49] };
    expect(unusualOf([quiet, broken], [silent])).toMatchObject([
      { kind: 'count', name: 'Radio', isMore: false, usual: 53, weeks: 5 },
      { kind: 'rate', name: 'Broken', isMore: false },
    ]);
  });
  it('is nothing of few people or few weeks', () => {
    expect(
      unusualOf([{ name: '', now: { reached: 0, came: 29 }, before: { reached: 900, came: 1000 } }], [{ name: '', now: 0, before: [90, 90, 90] }]),
    ).toEqual([]);
  });
  it('is cried of nothing in at most one day of a hundred, however many figures are looked at', () => {
    const random = seeded(1609);
    const days = 1500;
    let alarms = 0;
    for (let day = 0; day < days; day++) {
      const rates = Array.from({ length: 12 }, (_, index) => {
        const p = 0.1 + index * 0.05;
        return { name: String(index), now: { came: 150, reached: binomial(random, 150, p) }, before: { came: 400, reached: binomial(random, 400, p) } };
      });
      if (unusualOf(rates, []).length > 0) alarms++;
    }
    // A rate of one in a hundred over 1,500 days is 15, and 15 + 3 × √15 = 27 is the most that chance makes of it.
    expect(alarms).toBeLessThanOrEqual(27);
  });
});
