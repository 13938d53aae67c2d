import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyScenario, ForecastInputSchema, forecast, modelOf, NO_SCENARIO, reckon } from '../src/forecast';

const seen = (reached: number, came: number) => ({ reached, came });
const typed = (share: number) => ({ share });
const sale = (net: number, more: object = {}) => ({ net, ...more });
const read = (more: object = {}) =>
  ForecastInputSchema.parse({
    currency: 'EUR',
    visitors: 1000,
    clickPrice: 20,
    entryId: 'letter',
    fees: { percent: 2, fixed: 30 },
    refunds: typed(0.1),
    samples: 2000,
    stops: [
      { id: 'letter', name: 'Opt-in', rate: typed(0.4), yes: [{ to: 'checkout' }] },
      {
        id: 'checkout',
        name: 'Checkout',
        rate: typed(0.1),
        sale: sale(100_00, { gross: 121_00, goods: 10_00 }),
        bumps: [{ id: 'torch', name: 'Torch', rate: typed(0.5), shown: 0.5, sale: sale(20_00, { sending: -1_00 }) }],
        yes: [{ to: 'upsell' }],
      },
      { id: 'upsell', name: 'Upsell', rate: typed(0.2), sale: sale(50_00, { later: 30_00 }), yes: [{ to: 'thanks' }], no: [{ to: 'thanks', share: 0.5 }] },
      { id: 'thanks', name: 'Thank you', rate: typed(0) },
    ],
    ...more,
  });

describe('a forecast', () => {
  it('comes to what is reckoned by hand', () => {
    const found = forecast(read());
    // 1,000 come, 400 leave an address, 40 pay, 8 of them take the upsell, 8 and half of 32 see the thanks.
    expect(found.stops.map(({ people }) => people)).toEqual([1000, 400, 40, 24]);
    // 40 × 100.00 and 10 torches × 20.00 are 4,200.00; 8 × 50.00 are 400.00.
    expect(found.stops.map(({ income }) => income)).toEqual([0, 4200_00, 400_00, 0]);
    expect([found.refunded, found.income, found.later, found.clicks]).toEqual([460_00, 4140_00, 240_00, 200_00]);
    // Left: 40 × (100.00 − 10.00 − 2.42 − 0.30), 10 × (20.00 − 1.00 − 0.40), 8 × (50.00 − 1.00 − 0.30), that is
    // 3,491.20 + 186.00 + 389.60 = 4,066.80; less refunds 460.00 and clicks 200.00.
    expect(found.profit).toBeCloseTo(3406_80, 6);
    expect(found.profitPerVisitor).toBeCloseTo(340.68, 6);
    expect(found.breakEvenClickPrice).toBeCloseTo(360.68, 6);
    // What is typed is certain: no spread.
    expect([found.spread.profit.low, found.spread.profit.high, found.spread.lossChance]).toEqual([found.profit, found.profit, 0]);
  });

  it('takes the fixed fee once a payment, also where only a bump is paid, and of what is charged', () => {
    const free = (bumps: object[]) => [{ id: 'letter', name: 'Free checkout', rate: typed(0.5), sale: sale(0), bumps }];
    const bump = (id: string, share: number) => ({
      id,
      name: id,
      rate: typed(share),
      sale: sale(20_00, { gross: 24_60, goods: 5_00, sending: 1_00, commission: 2_00 }),
    });
    const alone = forecast(read({ stops: free([bump('torch', 0.4)]), refunds: typed(0), clickPrice: 0 }));
    // 200 of 500 take it: 20.00 + 1.00 − 5.00 − 2.00 less 2 % of 24.60, rounded 0.49, and 0.30 a payment.
    expect(alone.profit).toBeCloseTo(200 * (14_00 - 49 - 30), 6);
    const two = forecast(read({ stops: free([bump('torch', 0.4), bump('wheel', 0.5)]), refunds: typed(0), clickPrice: 0 }));
    // 500 × (1 − 0.6 × 0.5) = 350 pay, for 200 and 250 bumps.
    expect(two.profit).toBeCloseTo(450 * (14_00 - 49) - 350 * 30, 6);
    // A bump that is sold at a loss ranks as one.
    const dear = forecast(read({ stops: free([{ ...bump('torch', 0.4), sale: sale(20_00, { goods: 30_00 }) }]), refunds: typed(0) }));
    expect(dear.sensitivities.find(({ id }) => id === 'torch')?.change).toBeLessThan(0);
  });

  it('says what a tenth more of each rate would earn, capped at all of them', () => {
    const { sensitivities } = forecast(read());
    // A tenth more of the opt-in or the checkout earns a tenth of all that follows: (4,066.80 − 460.00) ÷ 10 over 1,000.
    expect(sensitivities.map(({ id, change }) => [id, Number(change.toFixed(4))])).toEqual([
      ['letter', 36.068],
      ['checkout', 36.068],
      // 0.8 more upsells: 0.8 × (48.70 − 5.00), and one more torch: 18.60 − 2.00.
      ['upsell', 3.496],
      ['torch', 1.66],
      ['thanks', 0],
    ]);
    // What comes to exactly the same is told as a tie.
    expect(sensitivities.map(({ rank }) => rank)).toEqual([1, 1, 3, 4, 5]);
    const few = forecast(read({ stops: [{ id: 'letter', name: 'Opt-in', rate: seen(1, 3), sale: sale(100) }] })).sensitivities[0];
    // One of three is a third in the report, and reckoned with as (1 + 1) ÷ (3 + 2).
    expect([few?.seen, few?.rate]).toEqual([1 / 3, 2 / 5]);
    const [first] = forecast(read({ entryId: 'checkout', stops: [{ id: 'checkout', name: 'Checkout', rate: typed(0.95), sale: sale(1_00) }] })).sensitivities;
    expect(first).toMatchObject({ rate: 0.95, raised: 1 });
  });

  it('spreads as wide as its rates are uncertain, the same for the same seed, and is centred where it is expected', () => {
    const of = (came: number, more: object = {}) =>
      forecast(
        read({
          samples: 8000,
          clickPrice: 0,
          entryId: 'checkout',
          refunds: typed(0),
          fees: {},
          stops: [{ id: 'checkout', name: 'Checkout', rate: seen(came / 10, came), sale: sale(100_00) }],
          ...more,
        }),
      );
    const [few, many] = [of(100), of(10_000)];
    const width = ({ spread: { profit } }: typeof few) => profit.high - profit.low;
    // Standard errors √(0.1 × 0.9 ÷ n): a hundred times as many people, a tenth as wide; 2 × 1.645 × 0.003 × 1,000 × 100.00 = 987.
    expect(width(few) / width(many)).toBeGreaterThan(8);
    expect(Math.abs(width(many) - 987_00)).toBeLessThan(60_00);
    expect(Math.abs(many.spread.profit.middle - many.profit)).toBeLessThan(20_00);
    expect(of(100)).toEqual(few);
    expect(of(100, { seed: 2 }).spread).not.toEqual(few.spread);
    expect(of(100, { clickPrice: 10_00 }).spread.lossChance).toBeGreaterThan(0.3);
  });

  it('can be watched and stopped, and what was sampled counts', () => {
    const told: number[] = [];
    const found = forecast(read({ samples: 20_000, refunds: seen(10, 100) }), (done, of) => {
      told.push(done, of);
      return done >= 3000;
    });
    expect(told).toEqual([1000, 20_000, 2000, 20_000, 3000, 20_000]);
    expect(found.spread.profit.low).toBeLessThan(found.spread.profit.high);
  });

  it('of a scenario changes what was typed and nothing else', () => {
    const input = read();
    expect(applyScenario(input, NO_SCENARIO)).toEqual(input);
    const changed = applyScenario(input, {
      visitors: 2000,
      clickPrice: 0,
      rates: { torch: 1 },
      prices: { checkout: 120_00 },
      bumps: [{ id: 'new', stopId: 'upsell', name: 'A new bump', share: 0.25, net: 10_00 }],
      upsells: [],
    });
    // 80 pay 120.00, half of them 20.00 for a torch; 16 take the upsell at 50.00, a quarter of them 10.00 more.
    expect(forecast(changed).stops.map(({ income }) => income)).toEqual([0, 80 * 120_00 + 40 * 20_00, 16 * 50_00 + 4 * 10_00, 0]);
    // An upsell before the one that is there: 4 of 40 take it at 30.00, and all 40 go on to the other.
    const upsells = [{ id: 'more', afterId: 'checkout', name: 'A new upsell', share: 0.1, net: 30_00 }];
    const longer = forecast(applyScenario(input, { ...NO_SCENARIO, upsells }));
    expect(longer.stops.map(({ id, people, income }) => [id, people, income])).toEqual([
      ['letter', 1000, 0],
      ['checkout', 400, 4200_00],
      ['more', 40, 120_00],
      ['upsell', 40, 400_00],
      ['thanks', 24, 0],
    ]);
    // What is charged grows with the price: 121.00 × 120 ÷ 100.
    expect(changed.stops[1]?.sale).toMatchObject({ net: 120_00, gross: 145_20, goods: 10_00 });
  });

  it('is refused in words where it cannot be made', () => {
    const wrong = (more: object) => {
      const base = read();
      return ForecastInputSchema.safeParse({ ...base, ...more }).error?.issues[0]?.message;
    };
    expect(wrong({ entryId: 'nowhere' })).toBe('There is no such stop to come in at.');
    expect(wrong({ visitors: 0 })).toBe('Somebody has to come.');
    expect(wrong({ stops: [{ id: 'letter', name: 'a', rate: seen(2, 1) }] })).toBe('More reached it than came.');
    expect(wrong({ stops: [{ id: 'letter', name: 'a', rate: {} }] })).toContain('how many reached it of how many came');
    expect(wrong({ stops: [{ id: 'letter', name: 'a', rate: typed(1), yes: [{ to: 'x' }] }] })).toBe('There is no such stop.');
    const circle = [
      { id: 'letter', name: 'One', rate: typed(1), yes: [{ to: 'two' }] },
      { id: 'two', name: 'Two', rate: typed(1), no: [{ to: 'letter' }] },
    ];
    expect(() => forecast(read({ stops: circle }))).toThrow('These stops lead in a circle: One, Two, One.');
  });

  it('loses nobody and invents nobody, whatever the funnel', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    const funnels = fc.array(fc.record({ rate: share, yes: fc.nat(3), no: fc.nat(3) }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(funnels, (drawn) => {
        // Each leads to a later stop or out.
        const ways = (index: number, by: number) => (by === 0 || index + by >= drawn.length ? [] : [{ to: String(index + by) }]);
        const stops = drawn.map(({ rate, yes, no }, index) => ({
          id: String(index),
          name: String(index),
          rate: typed(rate),
          sale: sale(100),
          yes: ways(index, yes),
          no: ways(index, no),
        }));
        const model = modelOf(read({ entryId: '0', stops }));
        const { people } = reckon(
          model,
          Float64Array.from(model.rates, ({ rate }) => ('share' in rate ? rate.share : 0)),
        );
        for (const count of people) expect(count >= 0 && count <= 1000 * (1 + 1e-9)).toBe(true);
        // Whoever is at a stop came there from before it, and nobody twice.
        const inflow = people.slice(1).reduce((sum, count) => sum + count, 0);
        expect(inflow).toBeLessThanOrEqual(people.reduce((sum, count) => sum + count, 0) + 1e-6);
      }),
    );
  });
});
