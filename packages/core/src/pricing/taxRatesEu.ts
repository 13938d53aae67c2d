import { fromLocalTime } from '../shop';
import type { TaxTable } from './taxTable';

type Rates = readonly [country: string, standard: number, reduced: number, digital: number];

/**
 * Value-added tax of the European Union's member states in percent, as published by the states for 2026:
 * standard rate, the reduced rate that printed books take, and the rate of electronic publications ("digital").
 * A shop starts from this table and may edit it.
 */
const RATES: readonly Rates[] = [
  ['AT', 20, 10, 10],
  ['BE', 21, 6, 6],
  ['BG', 20, 9, 9],
  ['CY', 19, 3, 3],
  ['CZ', 21, 0, 0],
  ['DE', 19, 7, 7],
  ['DK', 25, 25, 25],
  ['EE', 24, 9, 9],
  ['ES', 21, 4, 4],
  ['FI', 25.5, 13.5, 13.5],
  ['FR', 20, 5.5, 5.5],
  ['GR', 24, 6, 6],
  ['HR', 25, 5, 5],
  ['HU', 27, 5, 5],
  ['IE', 23, 0, 0],
  ['IT', 22, 4, 4],
  ['LT', 21, 5, 5],
  ['LU', 17, 3, 3],
  ['LV', 21, 5, 5],
  ['MT', 18, 5, 5],
  ['NL', 21, 9, 9],
  ['PL', 23, 5, 5],
  ['PT', 23, 6, 6],
  ['RO', 21, 11, 11],
  ['SE', 25, 6, 6],
  ['SI', 22, 5, 5],
  ['SK', 23, 5, 5],
];

/** What held before the latest changes, and the day of each change. */
const EARLIER: ReadonlyArray<{ until: string; rates: Rates }> = [
  { until: '2025-07-01', rates: ['EE', 22, 9, 9] },
  { until: '2026-01-01', rates: ['FI', 25.5, 14, 14] },
  { until: '2025-08-01', rates: ['RO', 19, 5, 5] },
];

const row = ([country, standard, reduced, digital]: Rates) => ({ country, union: 'EU', standard, reduced, digital });

/**
 * The union's rates, dated where they have changed lately. A day begins when it begins in the shop's time zone, as every
 * day of a shop does.
 */
export function taxRatesEu(timeZone: string): TaxTable {
  return RATES.flatMap((rates) => {
    const earlier = EARLIER.find((candidate) => candidate.rates[0] === rates[0]);
    const changed = earlier && fromLocalTime(earlier.until, timeZone);
    if (!earlier || !changed) return [row(rates)];
    return [
      { ...row(earlier.rates), until: changed },
      { ...row(rates), from: changed },
    ];
  });
}

/** The union's rates with days of universal time. */
export const TAX_RATES_EU: TaxTable = taxRatesEu('UTC');
