import { tz } from '@date-fns/tz';
import { startOfDay as startOfDayIn } from 'date-fns';

/** The first moment of the day that a moment lies in, in a time zone. Both in Unix milliseconds. */
export function startOfDay(at: number, timeZone: string): number {
  return startOfDayIn(at, { in: tz(timeZone) }).getTime();
}
