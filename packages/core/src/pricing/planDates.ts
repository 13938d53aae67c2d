import { TZDate, tzOffset } from '@date-fns/tz';
import { addDays, addMonths, addWeeks, addYears } from 'date-fns';
import type { Interval } from '../catalog';

const STEP = { day: addDays, week: addWeeks, month: addMonths, year: addYears };

/**
 * The moment so many intervals after the first full charge. Always counted from that charge, so that its day of the
 * month comes back after shorter months (31 January, 28 February, 31 March) and 29 February in leap years. The
 * wall-clock time in the zone is kept; an hour that a change of clocks skips moves forward, of one that it repeats
 * the first counts.
 * @param first Unix time in milliseconds of the first full charge
 * @param steps how many intervals later, from 0
 * @returns Unix time in milliseconds
 */
export function planDate(first: number, interval: Interval, steps: number, timeZone: string): number {
  if (steps === 0) return first;
  return firstOfRepeated(STEP[interval.unit](new TZDate(first, timeZone), interval.every * steps).getTime(), timeZone);
}

/** When a trial of so many calendar days ends: the same wall-clock time that many days later. Unix time in milliseconds. */
export function trialEnd(now: number, days: number, timeZone: string): number {
  return firstOfRepeated(addDays(new TZDate(now, timeZone), days).getTime(), timeZone);
}

const MINUTE = 60_000;
const LONGEST_SHIFT_MS = 3 * 60 * MINUTE;

/** Which of two equal wall-clock times the date library finds depends on the computer's own zone; take the earlier. */
function firstOfRepeated(at: number, timeZone: string): number {
  const now = tzOffset(timeZone, new Date(at));
  const before = tzOffset(timeZone, new Date(at - LONGEST_SHIFT_MS));
  if (before <= now) return at;
  const earlier = at - (before - now) * MINUTE;
  return tzOffset(timeZone, new Date(earlier)) === before ? earlier : at;
}

/** A moment as ISO 8601 with the zone's own offset, for people and for other programs: `2026-03-31T09:30:00.000+01:00`. */
export function isoDate(at: number, timeZone: string): string {
  return new TZDate(at, timeZone).toISOString();
}
