import { TZDate } from '@date-fns/tz';

const PATTERN = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2}))?$/;

/** A moment as people write it in the shop's time zone, for a date-and-time field: `2026-03-31T20:00`. */
export function toLocalTime(at: number, timeZone: string): string {
  const local = new TZDate(at, timeZone);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${String(local.getFullYear()).padStart(4, '0')}-${two(local.getMonth() + 1)}-${two(local.getDate())}T${two(local.getHours())}:${two(local.getMinutes())}`;
}

/**
 * The moment that was written in the shop's time zone, `2026-03-31T20:00` or `2026-03-31` for its first minute. An hour
 * that a change of clocks skips moves forward.
 * @returns Unix time in milliseconds; null if it is not such a date, or not a day of the calendar
 */
export function fromLocalTime(text: string, timeZone: string): number | null {
  const match = PATTERN.exec(text.trim());
  if (!match) return null;
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0] = match.slice(1).map((part) => Number(part ?? 0));
  const calendar = new Date(Date.UTC(year, month - 1, day));
  if (calendar.getUTCMonth() !== month - 1 || calendar.getUTCDate() !== day || hour > 23 || minute > 59) return null;
  return new TZDate(year, month - 1, day, hour, minute, timeZone).getTime();
}

/** A moment in a time zone as conditions ask for it: hour, weekday (ISO 8601, Monday is 1) and date. */
export function localMoment(at: number, timeZone: string): { hour: number; weekday: number; date: string } {
  const local = new TZDate(at, timeZone);
  return { hour: local.getHours(), weekday: local.getDay() || 7, date: toLocalTime(at, timeZone).slice(0, 10) };
}
