import type { Figures, Measure } from './measures';

/** After so many months it is looked at who is still there. */
export const COHORT_MONTHS = [1, 2, 3, 6, 12] as const;
type CohortMonths = (typeof COHORT_MONTHS)[number];

/** For each of these, who has been there long enough, and who of them stayed. */
const MEASURES_OF: Record<CohortMonths, { due: Measure; kept: Measure }> = {
  1: { due: 'dueOne', kept: 'keptOne' },
  2: { due: 'dueTwo', kept: 'keptTwo' },
  3: { due: 'dueThree', kept: 'keptThree' },
  6: { due: 'dueSix', kept: 'keptSix' },
  12: { due: 'dueTwelve', kept: 'keptTwelve' },
};

/** A subscription by the days of the shop's calendar, each as `2026-03-31`. */
export interface Subscription {
  began: string;
  /** Null while it goes on. */
  ended: string | null;
  /** Paid by it so far less what was given back, without tax and shipping; minor units. */
  paid: number;
}

/** The month of a day, as `2026-03`. */
export const monthOf = (day: string): string => day.slice(0, 7);

/** The same day so many months later; the last of the month where there is none. */
export function shiftMonths(day: string, months: number): string {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  const last = new Date(Date.UTC(year, month - 1 + months + 1, 0)).getUTCDate();
  return new Date(Date.UTC(year, month - 1 + months, Math.min(date, last))).toISOString().slice(0, 10);
}

/**
 * Figures of one subscription in its cohort: whether it goes on, and for each number of months that has passed since it
 * began whether it was still there. Who has not been there for so long yet counts in neither.
 * @param today the day that is reached, as `2026-03-31`
 */
export function cohortFigures({ began, ended, paid }: Subscription, today: string): Figures {
  const figures: Figures = { subscribed: 1, goesOn: ended === null ? 1 : 0, paidSince: paid };
  for (const months of COHORT_MONTHS) {
    const { due, kept } = MEASURES_OF[months];
    const day = shiftMonths(began, months);
    const isDue = day <= today;
    figures[due] = isDue ? 1 : 0;
    figures[kept] = isDue && (ended === null || ended >= day) ? 1 : 0;
  }
  return figures;
}
