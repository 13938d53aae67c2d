import { formatMoney } from '@ruta/core/money';
/** A ratio as a percentage with one decimal: 0.314 → `31.4 %`; a dash where there is none. */
export const formatRate = (ratio: number | null) => (ratio === null ? '–' : `${(ratio * 100).toFixed(1)} %`);

const whole = new Intl.NumberFormat('en');
export const formatCount = (count: number) => whole.format(count);

/** An amount of minor units, or a dash. */
export const formatAmount = (amount: number | null, currency: string) => (amount === null ? '–' : formatMoney(Math.round(amount), currency));

/** Day and time in a time zone, the shop's and never the computer's own; the year only where it is not the present one. */
export function formatTime(at: number, timeZone: string): string {
  const yearOf = (moment: number) => new Intl.DateTimeFormat('en', { year: 'numeric', timeZone }).format(moment);
  const year = yearOf(at) === yearOf(Date.now()) ? {} : ({ year: 'numeric' } as const);
  return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', ...year, hour: '2-digit', minute: '2-digit', timeZone }).format(at);
}

export function formatClock(at: number, timeZone: string): string {
  return new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone }).format(at);
}
