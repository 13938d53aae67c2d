import { localMoment } from './localTime';

/** No time zone shifts by less than a quarter of an hour, so that all of one lies in the same hour. */
const QUARTER_MS = 15 * 60 * 1000;
const MOST_KEPT = 100_000;

type LocalMoment = ReturnType<typeof localMoment>;

/** What was found already, by time zone: calendars are dear to ask, and always answer the same. */
const found = new Map<string, Map<number, LocalMoment>>();

/**
 * Finds day, weekday and hour of moments in a time zone, each quarter of an hour asked of the calendar once.
 * @returns the local moment of Unix milliseconds, to the hour
 */
export function momentFinder(timeZone: string): (at: number) => LocalMoment {
  const known = found.get(timeZone) ?? new Map<number, LocalMoment>();
  found.set(timeZone, known);
  return (at) => {
    const quarter = Math.floor(at / QUARTER_MS);
    let moment = known.get(quarter);
    if (moment === undefined) {
      moment = localMoment(quarter * QUARTER_MS, timeZone);
      if (known.size >= MOST_KEPT) known.clear();
      known.set(quarter, moment);
    }
    return moment;
  };
}

/** Finds the days of moments in a time zone. @returns the day of Unix milliseconds, as `2026-03-31` */
export function dayFinder(timeZone: string): (at: number) => string {
  const momentOf = momentFinder(timeZone);
  return (at) => momentOf(at).date;
}
