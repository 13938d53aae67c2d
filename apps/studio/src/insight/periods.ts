import { type Period, shiftDay } from '@ruta/core/reports';

/** Periods that can be chosen by a name; each ends with a day that is given. */
export const PERIODS = {
  '7': { name: 'Last 7 days', of: (today: string): Period => ({ from: shiftDay(today, -6), to: today }) },
  '30': { name: 'Last 30 days', of: (today: string): Period => ({ from: shiftDay(today, -29), to: today }) },
  '90': { name: 'Last 90 days', of: (today: string): Period => ({ from: shiftDay(today, -89), to: today }) },
  month: { name: 'This month', of: (today: string): Period => ({ from: `${today.slice(0, 7)}-01`, to: today }) },
  lastMonth: {
    name: 'Last month',
    of: (today: string): Period => {
      const to = shiftDay(`${today.slice(0, 7)}-01`, -1);
      return { from: `${to.slice(0, 7)}-01`, to };
    },
  },
  year: { name: 'Last 365 days', of: (today: string): Period => ({ from: shiftDay(today, -364), to: today }) },
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
