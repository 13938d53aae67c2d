import type { CurrentPrice } from '../catalog';
import { planDate, trialEnd } from './planDates';
import type { QuoteLineInput } from './quoteInput';

/** Which part of a line's plan a charge is. */
export type ChargePart = 'whole' | 'instalment' | 'period' | 'trial' | 'set-up fee';

/** A cart line with its unit price found. */
export interface PricedLine {
  line: QuoteLineInput;
  prices: CurrentPrice;
  /** After the offer's own discount, minor units. */
  unit: number;
  dearer: boolean;
  /** unit × quantity, minor units: once, all instalments together, or one period. */
  amount: number;
}

/** One amount of one line that falls due at one time, before the code. */
export interface Charge {
  of: PricedLine;
  part: ChargePart;
  /** Which instalment or period it is, from 1; 0 for the rest. */
  number: number;
  /** Unix time in milliseconds. */
  due: number;
  /** Minor units. */
  amount: number;
}

/** What of a line is due today: the whole, the first instalment or period, the trial, and a set-up fee as a line of its own. */
export function chargesToday(priced: PricedLine, now: number): Charge[] {
  const { line, amount } = priced;
  const { price, quantity } = line;
  const charge = (part: ChargePart, number: number, value: number): Charge => ({ of: priced, part, number, due: now, amount: value });
  if (price.kind === 'instalments') return [charge('instalment', 1, Math.floor(amount / price.count))];
  if (price.kind !== 'subscription') return [charge('whole', 0, amount)];
  const first = price.trial ? charge('trial', 0, price.trial.price * quantity) : charge('period', 1, amount);
  return price.setUpFee ? [first, charge('set-up fee', 0, price.setUpFee * quantity)] : [first];
}

/** How many charges a line's plan still has after today; Infinity for an endless one. */
export function laterCount({ price }: QuoteLineInput): number {
  if (price.kind === 'instalments') return price.count - 1;
  if (price.kind !== 'subscription') return 0;
  return (price.charges ?? Number.POSITIVE_INFINITY) - (price.trial ? 0 : 1);
}

/**
 * One later charge of a line, counted from 0. The first full charge sets day and time of all: today's, or the end of
 * the trial. Instalments are `floor(total / n)` each, the last absorbs the remainder.
 */
export function laterCharge(priced: PricedLine, index: number, now: number, timeZone: string): Charge {
  const { line, amount } = priced;
  const { price } = line;
  if (price.kind === 'instalments') {
    const number = index + 2;
    const each = Math.floor(amount / price.count);
    const value = number === price.count ? amount - each * (price.count - 1) : each;
    return { of: priced, part: 'instalment', number, due: planDate(now, price.interval, number - 1, timeZone), amount: value };
  }
  if (price.kind !== 'subscription') throw new RangeError('This price has no later charges.');
  const first = price.trial ? trialEnd(now, price.trial.days, timeZone) : now;
  const number = index + (price.trial ? 1 : 2);
  return { of: priced, part: 'period', number, due: planDate(first, price.interval, number - 1, timeZone), amount };
}

/** Later charges grouped by the moment they fall due. */
export interface DueGroup {
  due: number;
  charges: Charge[];
}

/** Of an endless plan no more charges than this are listed beside a long one, so that a daily one stays readable. */
const MOST_ENDLESS = 120;

/**
 * Everything that falls due after today, in order of time. Plans that end are listed to their end; endless ones for at
 * least `next` charges and as long as an ending one runs, within reason.
 */
export function laterGroups(lines: readonly PricedLine[], now: number, timeZone: string, next: number): DueGroup[] {
  const byDue = new Map<number, Charge[]>();
  const add = (charge: Charge) => {
    const group = byDue.get(charge.due);
    if (group) group.push(charge);
    else byDue.set(charge.due, [charge]);
  };
  let horizon = 0;
  const endless: PricedLine[] = [];
  for (const priced of lines) {
    const count = laterCount(priced.line);
    if (count === Number.POSITIVE_INFINITY) {
      endless.push(priced);
      horizon = Math.max(horizon, laterCharge(priced, next - 1, now, timeZone).due);
      continue;
    }
    for (let index = 0; index < count; index++) {
      const charge = laterCharge(priced, index, now, timeZone);
      horizon = Math.max(horizon, charge.due);
      add(charge);
    }
  }
  for (const priced of endless) {
    for (let index = 0; ; index++) {
      const charge = laterCharge(priced, index, now, timeZone);
      if (charge.due > horizon || index >= Math.max(next, MOST_ENDLESS)) break;
      add(charge);
    }
  }
  // Lines stay in the cart's order within one payment: the tie rule of a fixed code asks for it.
  const position = new Map(lines.map((priced, index) => [priced, index]));
  return [...byDue]
    .map(([due, charges]) => ({ due, charges: charges.sort((a, b) => (position.get(a.of) ?? 0) - (position.get(b.of) ?? 0)) }))
    .sort((a, b) => a.due - b.due);
}
