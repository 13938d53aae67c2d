import { type Currency, formatMoney } from '../money';
import { currentPrice } from './currentPrice';
import type { Interval, Price } from './price';

const ONE: Record<Interval['unit'], string> = { day: 'day', week: 'week', month: 'month', year: 'year' };

/** An interval as it follows an amount: `a month`, `every 3 months`. */
export function intervalWords({ every, unit }: Interval): string {
  return every === 1 ? `a ${ONE[unit]}` : `every ${every} ${ONE[unit]}s`;
}

/**
 * A price in plain words, as lists and buyers read it: `€138.00`, `4 × €45.00 a month`, `€9.00 a month, 14 days free`.
 * @param now Unix time in milliseconds, to know whether the sale is on
 */
export function priceWords(price: Price, currency: Currency, now: number): string {
  const money = (amount: number) => formatMoney(amount, currency, { short: true });
  const { current } = currentPrice(price, now);
  switch (price.kind) {
    case 'free':
      return 'Free';
    case 'one-time':
      return money(current);
    case 'instalments': {
      const each = Math.floor(current / price.count);
      const last = current - each * (price.count - 1);
      return `${price.count} × ${money(each)} ${intervalWords(price.interval)}${last === each ? '' : `, the last ${money(last)}`}`;
    }
    case 'subscription': {
      const parts = [`${money(current)} ${intervalWords(price.interval)}`];
      if (price.charges !== null) parts.push(price.charges === 1 ? 'once' : `${price.charges} times`);
      if (price.trial)
        parts.push(`${price.trial.days} ${price.trial.days === 1 ? 'day' : 'days'} ${price.trial.price > 0 ? `for ${money(price.trial.price)}` : 'free'}`);
      if (price.setUpFee) parts.push(`set-up ${money(price.setUpFee)}`);
      return parts.join(', ');
    }
    case 'pay-what-you-want':
      return price.minimum > 0 ? `from ${money(price.minimum)}, you choose` : 'you choose';
  }
}
