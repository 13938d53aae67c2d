import { afterEach, describe, expect, it } from 'vitest';
import { isoDate, planDate, trialEnd } from '../src/pricing';
import { fromLocalTime, localMoment, startOfDay, toLocalTime } from '../src/shop';

const own = process.env.TZ;
afterEach(() => {
  // Assigning undefined would name a zone “undefined”.
  if (own === undefined) delete process.env.TZ;
  else process.env.TZ = own;
});

const monthly = { every: 1, unit: 'month' as const };
const at = (iso: string) => new Date(iso).getTime();

describe.each(['UTC', 'Europe/Berlin', 'America/New_York', 'Pacific/Auckland'])('on a computer in %s', (zone) => {
  it('a plan keeps the clock of the shop, not that of the computer', () => {
    process.env.TZ = zone;
    // Johannesburg has no summer time; 02:30 on 29 March 2026 does not exist in Berlin.
    const bought = at('2026-01-29T02:30:00+02:00');
    expect(isoDate(planDate(bought, monthly, 2, 'Africa/Johannesburg'), 'Africa/Johannesburg')).toBe('2026-03-29T02:30:00.000+02:00');
    expect(isoDate(trialEnd(at('2026-03-15T02:30:00+02:00'), 14, 'Africa/Johannesburg'), 'Africa/Johannesburg')).toBe('2026-03-29T02:30:00.000+02:00');
    // 02:30 on 8 March 2026 does not exist in New York.
    expect(isoDate(planDate(at('2026-02-08T02:30:00+02:00'), monthly, 1, 'Africa/Johannesburg'), 'UTC')).toBe('2026-03-08T00:30:00.000+00:00');
  });
  it('a skipped hour moves that one charge forward, a repeated one is its first', () => {
    process.env.TZ = zone;
    const first = at('2026-02-28T02:30:00+01:00');
    const dates = [1, 2].map((step) => isoDate(planDate(first, { every: 29, unit: 'day' }, step, 'Europe/Berlin'), 'Europe/Berlin'));
    expect(dates).toEqual(['2026-03-29T03:30:00.000+02:00', '2026-04-27T02:30:00.000+02:00']);
    expect(planDate(at('2026-09-25T02:30:00+02:00'), monthly, 1, 'Europe/Berlin')).toBe(at('2026-10-25T02:30:00+02:00'));
    // Lord Howe's clocks go by half an hour: 02:15 on 4 October 2026 is skipped and becomes 02:45.
    expect(isoDate(planDate(at('2026-09-04T02:15:00+10:30'), monthly, 1, 'Australia/Lord_Howe'), 'Australia/Lord_Howe')).toBe('2026-10-04T02:45:00.000+11:00');
  });
  it('times that are typed and shown are those of the shop', () => {
    process.env.TZ = zone;
    expect(toLocalTime(at('2026-03-29T00:30:00Z'), 'Africa/Johannesburg')).toBe('2026-03-29T02:30');
    expect(fromLocalTime('2026-03-29 02:30', 'Africa/Johannesburg')).toBe(at('2026-03-29T00:30:00Z'));
    expect(fromLocalTime('2026-03-29T02:30', 'Europe/Berlin')).toBe(at('2026-03-29T01:30:00Z'));
    expect(fromLocalTime('2026-10-25T02:30', 'Europe/Berlin')).toBe(at('2026-10-25T00:30:00Z'));
    expect(localMoment(at('2026-03-29T00:30:00Z'), 'Africa/Johannesburg')).toEqual({ hour: 2, weekday: 7, date: '2026-03-29' });
  });
  it('a day begins at midnight of the shop’s own zone, also when clocks change', () => {
    process.env.TZ = zone;
    // 29 March 2026: clocks in Lisbon go from 01:00 to 02:00; that day's midnight is still 00:00 UTC.
    expect(startOfDay(at('2026-03-29T20:00:00Z'), 'Europe/Lisbon')).toBe(at('2026-03-29T00:00:00Z'));
    // The day after begins an hour earlier by UTC.
    expect(startOfDay(at('2026-03-30T20:00:00Z'), 'Europe/Lisbon')).toBe(at('2026-03-29T23:00:00Z'));
    // 23:30 UTC on the 14th is already the 15th in Tokyo.
    expect(startOfDay(at('2026-07-14T23:30:00Z'), 'Asia/Tokyo')).toBe(at('2026-07-14T15:00:00Z'));
  });
});
