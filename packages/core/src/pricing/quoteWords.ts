import { intervalWords } from '../catalog';
import { type Currency, formatMoney } from '../money';
import type { Quote, QuoteLine, SummedQuote } from './quote';

const DAY_WORDS = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });

/** The day of an ISO 8601 date as it stands there, for buyers: `14 December 2026`. */
export function dateWords(date: string): string {
  return DAY_WORDS.format(new Date(`${date.slice(0, 10)}T00:00:00Z`));
}

/** What part of a plan a line of today is, for the line itself: `1st of 4 payments`, `14 days free`. Empty for a plain sale. */
export function partWords(line: Pick<QuoteLine, 'part' | 'of' | 'price' | 'amount'>): string {
  const { price } = line;
  switch (line.part) {
    case 'instalment':
      return `1st of ${line.of} payments`;
    case 'period':
      return price.kind === 'subscription'
        ? `first ${price.interval.every === 1 ? '' : `${price.interval.every} `}${price.interval.unit}${price.interval.every === 1 ? '' : 's'}`
        : '';
    case 'trial':
      return price.kind === 'subscription' && price.trial
        ? `${price.trial.days} ${price.trial.days === 1 ? 'day' : 'days'} ${line.amount === 0 ? 'free' : 'on trial'}`
        : '';
    case 'set-up fee':
    case 'whole':
      return '';
  }
}

/**
 * What is due later, one sentence a plan: `Then 3 payments of €45.00, the last on 23 February 2027, €135.00 in all.`
 * Amounts include tax, discounts and shipping as the quote has them.
 */
export function laterWords(quote: Pick<Quote, 'currency' | 'lines' | 'plans'>): string[] {
  const money = (amount: number) => formatMoney(amount, quote.currency as Currency);
  const isAlone = new Set(quote.lines.map((line) => line.lineId)).size === 1;
  return quote.plans.flatMap((plan) => {
    const line = quote.lines.find((candidate) => candidate.lineId === plan.lineId);
    if (!line || (line.price.kind !== 'instalments' && line.price.kind !== 'subscription')) return [];
    const { first, changesTo, last, charges, total } = plan;
    const name = isAlone ? 'Then' : `${line.name}: then`;
    const often = intervalWords(line.price.interval);
    if (charges === null || last === null || total === null) {
      if (changesTo === null) return [`${name} ${money(first.total)} ${often}, from ${dateWords(first.date)} until you cancel.`];
      return [`${name} ${money(first.total)} on ${dateWords(first.date)}, and ${money(changesTo)} ${often} after that until you cancel.`];
    }
    if (charges === 1) return [`${name} ${money(first.total)} on ${dateWords(first.date)}.`];
    const amounts =
      changesTo === null
        ? `${charges} payments of ${money(first.total)}`
        : `${charges} payments, the first ${money(first.total)}, the last ${money(last.total)}`;
    return [`${name} ${amounts} ${often}, from ${dateWords(first.date)} to ${dateWords(last.date)}, ${money(total)} in all.`];
  });
}

/** One step of a sum, for people. */
export interface SumStep {
  label: string;
  value: string;
}

/** How a line of today came about, step by step: unit, discounts, what tax is reckoned on, rate, tax. */
export function lineSteps(line: QuoteLine, quote: Pick<Quote, 'currency' | 'pricesIncludeTax' | 'reverseCharge' | 'code'>): SumStep[] {
  const money = (amount: number) => formatMoney(amount, quote.currency as Currency);
  const steps: SumStep[] = [];
  const add = (label: string, value: string) => steps.push({ label, value });
  add('Regular price of one', money(line.regularUnit));
  if (line.currentUnit !== line.regularUnit) add('Sale price of one', money(line.currentUnit));
  if (line.unit !== line.currentUnit) add('With the offer’s own discount', money(line.unit));
  if (line.offerDearer) add('The offer’s discount came out dearer, so the current price holds', money(line.unit));
  if (line.quantity > 1) add(`× ${line.quantity}`, money(line.lineAmount));
  if (line.part !== 'whole' && line.part !== 'set-up fee') add(`Due today (${partWords(line)})`, money(line.amount));
  if (line.codeDiscount > 0) {
    add(`Code ${quote.code?.code ?? ''}`, `−${money(line.codeDiscount)}`);
    add('After discounts', money(line.discounted));
  }
  for (const share of line.taxShares) {
    const base = line.taxShares.length > 1 ? `${money(share.base)} at ${share.taxClass} rate: ` : '';
    if (quote.reverseCharge) add(`${base}Reverse charge, without tax`, money(share.net));
    else if (share.rate === 0) add(`${base}No tax here`, money(0));
    else if (quote.pricesIncludeTax)
      add(`${base}Tax within, ${share.rate} %: ${money(share.base)} × ${share.rate} ÷ ${Number((100 + share.rate).toFixed(4))}`, money(share.tax));
    else add(`${base}Tax on top, ${share.rate} % of ${money(share.base)}`, money(share.tax));
  }
  add('To pay today', money(line.total));
  return steps;
}

/** What the pay button says where nothing is due today: there is no amount to pay. */
export const freeWords = (quote: Pick<SummedQuote, 'plans'>): string => (quote.plans.length > 0 ? 'Start the free trial' : 'Complete the order, free');

/** A bundle's parts in words: `with Star Wheel, Red Torch × 2`; empty for what is no bundle. */
export function bundleWords({ parts = [], quantity }: Pick<QuoteLine, 'parts' | 'quantity'>): string {
  const named = parts.map((part) => (part.quantity * quantity > 1 ? `${part.name} × ${part.quantity * quantity}` : part.name));
  return named.length > 0 ? `with ${named.join(', ')}` : '';
}
