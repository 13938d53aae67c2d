import { daysIn } from '@ruta/core/reports';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PERIODS, type PeriodName } from '../src/insight/periods';

const of = (name: PeriodName, today: string) => {
  const { from, to } = PERIODS[name].of(today);
  return `${from} ${to}`;
};

describe('periods by name', () => {
  it('end with yesterday, by hand', () => {
    // A Wednesday.
    expect(of('today', '2026-12-02')).toBe('2026-12-02 2026-12-02');
    expect(of('yesterday', '2026-12-02')).toBe('2026-12-01 2026-12-01');
    expect(of('7', '2026-12-02')).toBe('2026-11-25 2026-12-01');
    expect(of('lastWeek', '2026-12-02')).toBe('2026-11-23 2026-11-29');
    expect(of('month', '2026-12-02')).toBe('2026-12-01 2026-12-01');
    expect(of('month', '2026-12-01')).toBe('2026-12-01 2026-12-01');
    expect(of('lastMonth', '2026-03-31')).toBe('2026-02-01 2026-02-28');
    // Monday and Sunday are of the same week.
    expect(of('lastWeek', '2026-11-30')).toBe('2026-11-23 2026-11-29');
    expect(of('lastWeek', '2026-11-29')).toBe('2026-11-16 2026-11-22');
  });

  it('have no day that is not over, but today and the first of a month', () => {
    const day = fc.integer({ min: 0, max: 20_000 }).map((days) => new Date(days * 86_400_000).toISOString().slice(0, 10));
    fc.assert(
      fc.property(day, fc.constantFrom(...(Object.keys(PERIODS) as PeriodName[])), (today, name) => {
        const period = PERIODS[name].of(today);
        expect(period.from <= period.to && daysIn(period) >= 1).toBe(true);
        const isToday = name === 'today' || (name === 'month' && today.endsWith('-01'));
        expect(period.to < today).toBe(!isToday);
      }),
    );
  });
});
