import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addFigures,
  cohortFigures,
  DIMENSIONS,
  daysIn,
  eachDay,
  earlierPeriod,
  type Figures,
  figureOf,
  isAdditive,
  MEASURES,
  type Measure,
  momentsOf,
  shiftDay,
  shiftMonths,
  sortOf,
} from '../src/reports';
import { dayFinder, localMoment } from '../src/shop';

describe('figures', () => {
  it('are divided out of what was counted, and never out of nothing', () => {
    const figures: Figures = { visitors: 400, leads: 100, orders: 8, orderValue: 80_000, revenue: 70_000, converted: 8 };
    expect(figureOf(figures, 'leadRate')).toBe(0.25);
    expect(figureOf(figures, 'averageOrder')).toBe(10_000);
    expect(figureOf(figures, 'perVisitor')).toBe(175);
    expect(figureOf({}, 'perVisitor')).toBeNull();
    expect(figureOf({ revenue: 5, visitors: null }, 'perVisitor')).toBeNull();
    expect([figureOf({}, 'visitors'), figureOf({ visitors: null }, 'visitors')]).toEqual([0, null]);
  });
  it('of a total are those of all rows together, not the mean of their rates', () => {
    const [few, many]: [Figures, Figures] = [
      { visitors: 10, leads: 5 },
      { visitors: 990, leads: 45 },
    ];
    // (5 + 45) ÷ (10 + 990) = 5 %, and not (50 % + 4.5 %) ÷ 2.
    expect(figureOf(addFigures(few, many), 'leadRate')).toBe(0.05);
  });
  it('add up in whatever order, and what is unknown in one is unknown in the sum', () => {
    const row = fc.record({ visitors: fc.option(fc.nat(1000)), revenue: fc.nat(100_000), orders: fc.nat(20) });
    fc.assert(
      fc.property(fc.array(row, { maxLength: 8 }), (rows) => {
        const sum = rows.reduce<Figures>(addFigures, {});
        expect(rows.toReversed().reduce<Figures>(addFigures, {})).toEqual(sum);
        expect(sum.revenue ?? 0).toBe(rows.reduce((all, each) => all + each.revenue, 0));
        expect(sum.visitors === null).toBe(rows.some(({ visitors }) => visitors === null));
      }),
    );
  });
  it('each say how they are made, and those that are divided name what exists and adds up', () => {
    for (const [name, measure] of Object.entries(MEASURES)) {
      expect(measure.how.length, name).toBeGreaterThan(20);
      if ('of' in measure) for (const part of measure.of) expect(isAdditive(part as Measure), `${name} of ${part}`).toBe(true);
    }
    for (const [name, { measures }] of Object.entries(DIMENSIONS)) {
      const sort = sortOf(name as keyof typeof DIMENSIONS);
      expect(new Set(measures).size, name).toBe(measures.length);
      if (sort) expect(measures, name).toContain(sort);
    }
  });
});

describe('periods', () => {
  it('have their days, over months, leap years and changes of clocks', () => {
    expect(eachDay({ from: '2028-02-27', to: '2028-03-01' })).toEqual(['2028-02-27', '2028-02-28', '2028-02-29', '2028-03-01']);
    expect([daysIn({ from: '2026-03-01', to: '2026-03-31' }), shiftDay('2026-01-01', -1), shiftDay('2027-02-28', 1)]).toEqual([31, '2025-12-31', '2027-03-01']);
    const hours = (from: string, to = from) => {
      const { from: first, until } = momentsOf({ from, to }, 'Europe/Lisbon');
      return (until - first) / 3_600_000;
    };
    // On the last Sunday of March an hour is skipped, on that of October one comes twice.
    expect([hours('2026-03-28'), hours('2026-03-29'), hours('2026-10-25'), hours('2026-03-28', '2026-03-30')]).toEqual([24, 23, 25, 71]);
  });
  it('are compared with as many days just before, or with the same weekdays a year before', () => {
    expect(earlierPeriod({ from: '2026-03-02', to: '2026-03-08' }, 'before')).toEqual({ from: '2026-02-23', to: '2026-03-01' });
    const year = earlierPeriod({ from: '2026-03-02', to: '2026-03-08' }, 'year');
    expect(year).toEqual({ from: '2025-03-03', to: '2025-03-09' });
    expect(earlierPeriod({ from: '2026-03-02', to: '2026-03-08' }, { from: '2024-02-26' })).toEqual({ from: '2024-02-26', to: '2024-03-03' });
    const weekday = (day: string) => new Date(`${day}T00:00:00Z`).getUTCDay();
    expect(weekday(year.from)).toBe(weekday('2026-03-02'));
  });
  it('hold each moment in exactly one of their days, in any time zone', () => {
    const zones = fc.constantFrom('Europe/Lisbon', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'America/St_Johns', 'Pacific/Apia', 'UTC');
    fc.assert(
      fc.property(zones, fc.integer({ min: Date.UTC(2020, 0, 1), max: Date.UTC(2030, 0, 1) }), (timeZone, at) => {
        const day = dayFinder(timeZone)(at);
        expect(day).toBe(localMoment(at, timeZone).date);
        const { from, until } = momentsOf({ from: day, to: day }, timeZone);
        expect(from <= at && at < until).toBe(true);
      }),
    );
  });
});

describe('cohorts', () => {
  it('count months by the calendar', () => {
    expect([shiftMonths('2026-01-31', 1), shiftMonths('2027-12-15', 2), shiftMonths('2028-01-31', 1), shiftMonths('2026-03-31', 12)]).toEqual([
      '2026-02-28',
      '2028-02-15',
      '2028-02-29',
      '2027-03-31',
    ]);
  });

  it('ask only those who have been there long enough, and count who left on the very day as having stayed', () => {
    const at = (ended: string | null, today: string) => cohortFigures({ began: '2026-01-31', ended, paid: 9_00 }, today);
    expect(at(null, '2026-02-27')).toMatchObject({ subscribed: 1, goesOn: 1, paidSince: 9_00, dueOne: 0, keptOne: 0 });
    expect(at('2026-02-28', '2026-05-01')).toMatchObject({ goesOn: 0, dueOne: 1, keptOne: 1, dueTwo: 1, keptTwo: 0, dueThree: 1, dueSix: 0 });
    expect(at('2026-02-27', '2026-03-01')).toMatchObject({ dueOne: 1, keptOne: 0 });
  });
});
