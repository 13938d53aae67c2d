import { type Period, shiftDay } from '@ruta/core/reports';

/** Whole days until yesterday: a day that is not over would make every period look worse than those before it. */
const lastDays =
  (days: number) =>
  (today: string): Period => ({ from: shiftDay(today, -days), to: shiftDay(today, -1) });
/** The Monday of the week of a day (ISO 8601). */
const mondayOf = (day: string): string => shiftDay(day, -((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7));

/** Periods that can be chosen by a name, made of a day that is today. All end with a day that is over, but today itself. */
export const PERIODS = {
  today: { name: 'Today', of: (today: string): Period => ({ from: today, to: today }) },
  yesterday: { name: 'Yesterday', of: lastDays(1) },
  '7': { name: 'Last 7 days', of: lastDays(7) },
  lastWeek: {
    name: 'Last week',
    of: (today: string): Period => {
      const monday = mondayOf(today);
      return { from: shiftDay(monday, -7), to: shiftDay(monday, -1) };
    },
  },
  '30': { name: 'Last 30 days', of: lastDays(30) },
  '90': { name: 'Last 90 days', of: lastDays(90) },
  month: {
    name: 'This month',
    // On the first of a month nothing of it is over.
    of: (today: string): Period => ({ from: `${today.slice(0, 7)}-01`, to: today.endsWith('-01') ? today : shiftDay(today, -1) }),
  },
  lastMonth: {
    name: 'Last month',
    of: (today: string): Period => {
      const to = shiftDay(`${today.slice(0, 7)}-01`, -1);
      return { from: `${to.slice(0, 7)}-01`, to };
    },
  },
  year: { name: 'Last 365 days', of: lastDays(365) },
} as const;
export type PeriodName = keyof typeof PERIODS;
export const DEFAULT_PERIOD: PeriodName = '30';
export const isPeriodName = (name: string | null): name is PeriodName => name !== null && Object.hasOwn(PERIODS, name);

/** A day as people read it: `31 Mar`, with the year where it is asked for. */
export function dayWords(day: string, withYear = false): string {
  return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', ...(withYear ? { year: 'numeric' } : {}), timeZone: 'UTC' }).format(
    new Date(`${day}T00:00:00Z`),
  );
}

/** A month as people read it: `September 2026`. */
export function monthWords(month: string): string {
  return new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(new Date(`${month}-01T00:00:00Z`));
}
