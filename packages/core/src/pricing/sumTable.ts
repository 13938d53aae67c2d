import { type Currency, formatMoney } from '../money';
import { countryName } from '../shop';
import type { QuoteLine, SummedQuote } from './quote';
import { bundleWords, laterWords, partWords } from './quoteWords';
import type { StoredQuote } from './storedQuote';

/** One row of the table of what was bought and what it comes to. */
export interface SumRow {
  /** Stands for the row within its table. */
  id: string;
  /** A line, or what changes the sum, adds up to what is due; notes and what is due later stand below it. */
  kind: 'line' | 'change' | 'due' | 'note' | 'all' | 'later';
  label: string;
  /** Which part of a plan, and what a bundle holds. */
  details: string[];
  /** As people read it; empty for a row of words alone. */
  value: string;
  /** What it adds to the sum, minor units; what is due for `due`; 0 where it adds nothing. */
  amount: number;
  /** The regular price, where less is asked; as people read it. */
  was?: string;
}

/**
 * What was bought and what it comes to, row by row: the one table that screens, order pages, mails and their plain text are
 * made of. Lines and changes add up to what is due.
 * @param dueLabel what the sum is called: `Today`, `Paid`
 */
export function sumTable(quote: SummedQuote & Pick<Partial<StoredQuote>, 'sellerTaxNumber'>, dueLabel: string): SumRow[] {
  const money = (amount: number) => formatMoney(amount, quote.currency as Currency);
  const row = (id: string, kind: SumRow['kind'], label: string, amount: number, value = money(amount)): SumRow => ({
    id,
    kind,
    label,
    details: [],
    value,
    amount,
  });
  const note = (id: string, kind: 'note' | 'later', label: string) => row(id, kind, label, 0, '');
  const { shipping, code } = quote;
  // With reverse charge the lines say prices as they are listed, and what is due comes without their tax.
  const sent = shipping ? (quote.pricesIncludeTax && !quote.reverseCharge ? shipping.total : shipping.net) : 0;
  const onTop = quote.pricesIncludeTax ? 0 : quote.tax;
  const takenOff = quote.lines.reduce((sum, line) => sum + line.amount, sent + onTop - quote.discount) - quote.dueToday;
  const rates = [...new Set(quote.lines.flatMap((line) => line.taxShares.filter((share) => share.tax > 0).map((share) => share.rate)))];
  const place = `${countryName(quote.taxCountry)}${rates.length === 1 ? ` ${rates[0]} %` : ''}`;
  const isPromised = code?.applied === true && quote.discount === 0 && quote.plans.some((plan) => plan.codeDiscount > 0);
  const all = quote.plans.reduce<number | null>((sum, { total }) => (sum === null || total === null ? null : sum + total), quote.dueToday);
  return [
    ...quote.lines.map((line) => lineRow(line, money)),
    ...(quote.discount > 0 ? [row('code', 'change', `Code ${code?.code ?? ''}`, -quote.discount, `−${money(quote.discount)}`)] : []),
    ...(isPromised ? [row('code', 'change', `Code ${code?.code ?? ''}`, 0, 'from the first payment')] : []),
    ...(shipping ? [row('shipping', 'change', `Shipping to ${countryName(quote.taxCountry)}`, sent, shipping.total === 0 ? 'Free' : money(sent))] : []),
    ...(takenOff > 0 ? [row('taken-off', 'change', 'Tax taken off (reverse charge)', -takenOff, `−${money(takenOff)}`)] : []),
    ...(onTop > 0 ? [row('tax', 'change', 'Tax', onTop)] : []),
    row('due', 'due', dueLabel, quote.dueToday),
    ...(quote.pricesIncludeTax && quote.tax > 0 ? [note('tax-within', 'note', `includes ${money(quote.tax)} tax (${place})`)] : []),
    ...(quote.reverseCharge ? [note('reverse-charge', 'note', 'Reverse charge: the buyer accounts for the tax')] : []),
    ...(quote.taxNumber?.unconfirmed && quote.tax > 0
      ? [note('tax-number-unconfirmed', 'note', 'The register of business tax numbers has not confirmed this number, so that tax is charged')]
      : []),
    ...(quote.taxNumber?.valid ? [note('tax-number', 'note', `Tax number of the buyer: ${quote.taxNumber.number}`)] : []),
    ...(quote.sellerTaxNumber ? [note('seller-tax-number', 'note', `Tax number of the seller: ${quote.sellerTaxNumber}`)] : []),
    ...(quote.plans.length > 0 && all !== null ? [row('all', 'all', 'All payments together', all)] : []),
    ...laterWords(quote).map((words, index) => note(`later-${index}`, 'later', words)),
  ];
}

function lineRow(line: QuoteLine, money: (amount: number) => string): SumRow {
  // An old price is only comparable with what is asked for the same thing: the whole, or the same period.
  const was = line.part === 'whole' || line.part === 'period' ? (line.struckUnit === undefined ? line.regularUnit : (line.struckUnit ?? 0)) * line.quantity : 0;
  return {
    id: line.id,
    kind: 'line',
    label: `${line.name}${line.quantity > 1 ? ` × ${line.quantity}` : ''}`,
    details: [partWords(line), bundleWords(line)].filter(Boolean),
    value: line.amount === 0 ? 'Free' : money(line.amount),
    amount: line.amount,
    ...(was > line.amount ? { was: money(was) } : {}),
  };
}

/** The same in plain text, a row a line. */
export const sumText = (rows: readonly SumRow[]): string[] =>
  rows.map(({ label, details, value }) => [[label, ...details].join(', '), value].filter(Boolean).join(': '));
