import type { FreeTime } from '../elements';
import { fromWallClock, localMoment, wallClock } from '../shop';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** What of an appointment says when it can be booked. */
export interface Pattern {
  free: readonly FreeTime[];
  /** How long it takes, and how far one start is from the next. */
  minutes: number;
  every: number;
  noticeHours: number;
  daysAhead: number;
}

/** A span of time, from its start until before its end; Unix time in milliseconds. */
export interface Span {
  start: number;
  end: number;
}

export interface Slot extends Span {
  /** The day it lies on by the shop's clock, `2026-11-26`. */
  date: string;
}

const minutesOf = (time: string): number => {
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  return hours * 60 + minutes;
};

const overlap = (a: Span, b: Span): boolean => a.start < b.end && b.start < a.end;

/**
 * Every time that can be booked, soonest first: within the free times of the week by the shop's clock, not too soon, not
 * too far ahead, and over nothing that is taken. A start that a change of clocks skips is left out.
 * @param now Unix time in milliseconds
 */
export function freeSlots(pattern: Pattern, { now, timeZone, taken }: { now: number; timeZone: string; taken: readonly Span[] }): Slot[] {
  const earliest = now + pattern.noticeHours * HOUR;
  const today = Math.floor(wallClock(now, timeZone) / DAY) * DAY;
  const found: Slot[] = [];
  const seen = new Set<number>();
  for (let day = 0; day <= pattern.daysAhead; day++) {
    const midnight = today + day * DAY;
    const weekday = new Date(midnight).getUTCDay() || 7;
    for (const free of pattern.free) {
      if (free.day !== weekday) continue;
      for (let at = minutesOf(free.from); at + pattern.minutes <= minutesOf(free.until); at += pattern.every) {
        const wall = midnight + at * MINUTE;
        const start = fromWallClock(wall, timeZone);
        if (wallClock(start, timeZone) !== wall) continue;
        const slot = { start, end: start + pattern.minutes * MINUTE };
        if (start < earliest || seen.has(start) || taken.some((span) => overlap(span, slot))) continue;
        seen.add(start);
        found.push({ ...slot, date: localMoment(start, timeZone).date });
      }
    }
  }
  return found.sort((a, b) => a.start - b.start);
}

/** Slots by the day they lie on, in words of a language. */
export function slotsByDay(
  slots: readonly Slot[],
  timeZone: string,
  locale = 'en',
): Array<{ date: string; words: string; slots: Array<{ start: number; words: string }> }> {
  const dayWords = new Intl.DateTimeFormat(locale, { timeZone, weekday: 'long', day: 'numeric', month: 'long' });
  const timeWords = new Intl.DateTimeFormat(locale, { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
  const days = new Map<string, { date: string; words: string; slots: Array<{ start: number; words: string }> }>();
  for (const { date, start } of slots) {
    const day = days.get(date) ?? { date, words: dayWords.format(start), slots: [] };
    day.slots.push({ start, words: timeWords.format(start) });
    days.set(date, day);
  }
  return [...days.values()];
}

/** A moment as people say it: `Monday, 30 November at 09:30`. */
export const momentWords = (at: number, timeZone: string, locale = 'en'): string =>
  new Intl.DateTimeFormat(locale, { timeZone, weekday: 'long', day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(
    at,
  );

/** A time zone as people say it: `Lisbon` of `Europe/Lisbon`. */
export const zoneWords = (timeZone: string): string => timeZone.split('/').at(-1)?.replaceAll('_', ' ') ?? timeZone;

/** A time zone that somebody's browser told; null for none that is known. */
export function knownZone(told: unknown): string | null {
  if (typeof told !== 'string' || !/^[\w+/-]{1,60}$/.test(told)) return null;
  try {
    return new Intl.DateTimeFormat('en', { timeZone: told }).resolvedOptions().timeZone;
  } catch {
    // No time zone of that name: the shop's clock is as good.
    return null;
  }
}
