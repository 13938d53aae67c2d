import { tzOffset } from '@date-fns/tz';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

/**
 * What the clocks of a time zone show at a moment, as the moment at which clocks in UTC would show the same: its UTC
 * fields are the wall-clock fields. Reckoning with those never asks the computer's own time zone.
 * @param at Unix time in milliseconds
 */
export const wallClock = (at: number, timeZone: string): number => at + tzOffset(timeZone, new Date(at)) * MINUTE;

/**
 * The moment at which the clocks of a time zone show a wall-clock time. Of an hour that is shown twice the first counts;
 * one that is skipped moves forward by what was skipped.
 * @param wall wall-clock time, its UTC fields being those of the clock
 * @returns Unix time in milliseconds
 */
export function fromWallClock(wall: number, timeZone: string): number {
  // No zone changes its clocks twice within two days, so these are the offsets on either side of a change.
  const before = tzOffset(timeZone, new Date(wall - DAY));
  const after = tzOffset(timeZone, new Date(wall + DAY));
  const early = wall - before * MINUTE;
  if (before === after || tzOffset(timeZone, new Date(early)) === before) return early;
  const late = wall - after * MINUTE;
  return tzOffset(timeZone, new Date(late)) === after ? late : early;
}
