import { fromLocalTime } from '../shop';

/** Days of the calendar in the shop's time zone, both included: `2026-03-31`. */
export interface Period {
  from: string;
  to: string;
}

const DAY_MS = 24 * 60 * 60 * 1000;
const number = (day: string): number => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY_MS);
const dayOf = (day: number): string => new Date(day * DAY_MS).toISOString().slice(0, 10);

/** How many days a period has. */
export const daysIn = ({ from, to }: Period): number => number(to) - number(from) + 1;

/** Every day of a period, in order. */
export const eachDay = (period: Period): string[] => Array.from({ length: daysIn(period) }, (_, index) => dayOf(number(period.from) + index));

/** A day so many days later, or earlier. */
export const shiftDay = (day: string, days: number): string => dayOf(number(day) + days);

/** The period as moments. @returns Unix milliseconds, `until` excluded */
export function momentsOf({ from, to }: Period, timeZone: string): { from: number; until: number } {
  return { from: fromLocalTime(from, timeZone) ?? 0, until: fromLocalTime(shiftDay(to, 1), timeZone) ?? 0 };
}

/**
 * What a period is compared with, always of as many days: those just before it, the same weekdays a year before, or those
 * that begin with a day of one's own choice.
 */
export function earlierPeriod(period: Period, compare: 'before' | 'year' | { from: string }): Period {
  const days = daysIn(period);
  if (typeof compare === 'object') return { from: compare.from, to: shiftDay(compare.from, days - 1) };
  if (compare === 'before') return { from: shiftDay(period.from, -days), to: shiftDay(period.from, -1) };
  // The same weekdays, since a shop's week has a shape: 52 weeks before.
  return { from: shiftDay(period.from, -364), to: shiftDay(period.to, -364) };
}
