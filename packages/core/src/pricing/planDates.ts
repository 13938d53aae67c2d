import { tzOffset } from '@date-fns/tz';
import type { Interval } from '../catalog';
import { fromWallClock, wallClock } from '../shop';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;
const MONTHS_A_YEAR = 12;

/** So many months after a wall-clock time, on the same day or, where the month is shorter, on its last one. */
function monthsLater(wall: number, months: number): number {
  const date = new Date(wall);
  const [year, month] = [date.getUTCFullYear(), date.getUTCMonth() + months];
  const lastDay = new Date(Date.UTC(year, month + 1, 0)).getUTCDate();
  return Date.UTC(year, month, Math.min(date.getUTCDate(), lastDay)) + (wall % DAY);
}

const LATER: Record<Interval['unit'], (wall: number, count: number) => number> = {
  day: (wall, count) => wall + count * DAY,
  week: (wall, count) => wall + count * 7 * DAY,
  month: monthsLater,
  year: (wall, count) => monthsLater(wall, count * MONTHS_A_YEAR),
};

/**
 * The moment so many intervals after the first full charge. Always counted from that charge, so that its day of the
 * month comes back after shorter months (31 January, 28 February, 31 March) and 29 February in leap years. The
 * wall-clock time in the zone is kept; an hour that a change of clocks skips moves that one charge forward, of one that
 * it repeats the first counts.
 * @param first Unix time in milliseconds of the first full charge
 * @param steps how many intervals later, from 0
 * @returns Unix time in milliseconds
 */
export function planDate(first: number, interval: Interval, steps: number, timeZone: string): number {
  if (steps === 0) return first;
  return fromWallClock(LATER[interval.unit](wallClock(first, timeZone), interval.every * steps), timeZone);
}

/** When a trial of so many calendar days ends: the same wall-clock time that many days later. Unix time in milliseconds. */
export function trialEnd(now: number, days: number, timeZone: string): number {
  return fromWallClock(wallClock(now, timeZone) + days * DAY, timeZone);
}

/** A moment as ISO 8601 with the zone's own offset, for people and for other programs: `2026-03-31T09:30:00.000+01:00`. */
export function isoDate(at: number, timeZone: string): string {
  const minutes = tzOffset(timeZone, new Date(at));
  const two = (value: number) => String(value).padStart(2, '0');
  const shift = Math.abs(minutes);
  const offset = `${minutes < 0 ? '-' : '+'}${two(Math.floor(shift / 60))}:${two(Math.floor(shift % 60))}`;
  return `${new Date(wallClock(at, timeZone)).toISOString().slice(0, -1)}${offset}`;
}
