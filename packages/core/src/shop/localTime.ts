import { fromWallClock, wallClock } from './wallClock';

const PATTERN = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2}))?$/;
const MINUTE_LETTERS = '2026-03-31T20:00'.length;
const DATE_LETTERS = '2026-03-31'.length;

/** A moment as people write it in the shop's time zone, for a date-and-time field: `2026-03-31T20:00`. */
export function toLocalTime(at: number, timeZone: string): string {
  return new Date(wallClock(at, timeZone)).toISOString().slice(0, MINUTE_LETTERS);
}

/**
 * The moment that was written in the shop's time zone, `2026-03-31T20:00` or `2026-03-31` for its first minute. An hour
 * that a change of clocks skips moves forward, of one that it repeats the first counts.
 * @returns Unix time in milliseconds; null if it is not such a date, or not a day of the calendar
 */
export function fromLocalTime(text: string, timeZone: string): number | null {
  const match = PATTERN.exec(text.trim());
  if (!match) return null;
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0] = match.slice(1).map((part) => Number(part ?? 0));
  const calendar = new Date(Date.UTC(year, month - 1, day));
  if (calendar.getUTCMonth() !== month - 1 || calendar.getUTCDate() !== day || hour > 23 || minute > 59) return null;
  return fromWallClock(Date.UTC(year, month - 1, day, hour, minute), timeZone);
}

/** A moment in a time zone as conditions ask for it: hour, weekday (ISO 8601, Monday is 1) and date. */
export function localMoment(at: number, timeZone: string): { hour: number; weekday: number; date: string } {
  const wall = new Date(wallClock(at, timeZone));
  return { hour: wall.getUTCHours(), weekday: wall.getUTCDay() || 7, date: wall.toISOString().slice(0, DATE_LETTERS) };
}

/** The first moment of the day that a moment lies in, in a time zone. Both in Unix milliseconds. */
export function startOfDay(at: number, timeZone: string): number {
  return fromLocalTime(localMoment(at, timeZone).date, timeZone) ?? at;
}
