import { type Currency, parseMoney, toDecimal } from '../money';
import { fromLocalTime, toLocalTime } from '../shop';

/** What cells are written and read with: amounts in the shop's currency, times in its zone. */
export interface CellTerms {
  currency: Currency;
  timeZone: string;
}

/** A moment written exactly, as ISO 8601 in UTC. */
const EXACT = /^\d{4}-\d{2}-\d{2}T[\d:.]+Z$/;

/** Says what is wrong with a cell of the row being read. */
export type Refuse = (column: string, message: string) => void;

/** Reads typed values from the cells of one row. An empty cell is undefined; a wrong one is refused at its column. */
export function cellReader(cells: Record<string, string>, refuse: Refuse, terms: CellTerms) {
  const text = (column: string): string | undefined => {
    const value = cells[column];
    return value === undefined || value.trim() === '' ? undefined : value;
  };
  return {
    text,
    amount(column: string): number | undefined {
      const value = text(column);
      if (value === undefined) return undefined;
      const parsed = parseMoney(value, terms.currency);
      if (parsed.ok) return parsed.amount;
      refuse(column, parsed.message);
      return undefined;
    },
    number(column: string): number | undefined {
      const value = text(column)?.trim();
      if (value === undefined) return undefined;
      if (/^\d{1,12}([.,]\d{1,4})?$/.test(value)) return Number(value.replace(',', '.'));
      refuse(column, 'Write a number in digits.');
      return undefined;
    },
    moment(column: string): number | undefined {
      const value = text(column);
      if (value === undefined) return undefined;
      const at = EXACT.test(value.trim()) ? Date.parse(value.trim()) : fromLocalTime(value, terms.timeZone);
      if (at !== null && !Number.isNaN(at)) return at;
      refuse(column, 'Write the date as 2026-03-31 or 2026-03-31 20:00.');
      return undefined;
    },
    yes(column: string): boolean | undefined {
      const value = text(column)?.trim().toLowerCase();
      if (value === undefined) return undefined;
      if (value === 'yes' || value === 'no') return value === 'yes';
      refuse(column, 'Write yes or no.');
      return undefined;
    },
    list(column: string, mark: RegExp): string[] | undefined {
      return text(column)
        ?.split(mark)
        .map((word) => word.trim())
        .filter((word) => word !== '');
    },
  };
}
export type CellReader = ReturnType<typeof cellReader>;

/** Writes values as cells; nothing is an empty cell. */
export function cellWriter({ currency, timeZone }: CellTerms) {
  return {
    amount: (value: number | null | undefined) => (value === null || value === undefined ? '' : toDecimal(value, currency)),
    number: (value: number | null | undefined) => (value === null || value === undefined ? '' : String(value)),
    moment: (value: number | null | undefined) => {
      if (value === null || value === undefined) return '';
      const local = toLocalTime(value, timeZone);
      // Seconds, and the second of two equal hours when clocks go back, can only be written as a moment of its own.
      return fromLocalTime(local, timeZone) === value ? local.replace('T', ' ') : new Date(value).toISOString();
    },
    yes: (value: boolean) => (value ? 'yes' : 'no'),
  };
}
export type CellWriter = ReturnType<typeof cellWriter>;
