import { type LaterPayment, quoteCart, type ShopTables } from '../pricing';
import type { PlanTerms } from './plan';

/**
 * What plans that were bought with one payment go on owing, quoted by the shop's present tables from what they were bought
 * at: nothing of it is stored. Plans that fall due together are one payment.
 * @param boughtAt Unix time in milliseconds
 * @param after only what falls due after this moment
 * @param most how many payments at most
 */
export function upcomingPayments(shop: ShopTables, terms: readonly PlanTerms[], boughtAt: number, after: number, most: number): LaterPayment[] {
  const [first] = terms;
  if (!first) return [];
  const next = Math.max(...terms.map((plan) => periodsWithin(plan, after - boughtAt))) + most;
  // One purchase has one code; plans that it was not promised to keep none of it.
  const code = terms.find((plan) => plan.code)?.code ?? undefined;
  const cart = { lines: terms.map((plan) => plan.line), buyer: first.buyer, sentClasses: first.sentClasses, code };
  const { later } = quoteCart(shop, cart, boughtAt, next);
  return later.filter((payment) => payment.due > after).slice(0, most);
}

const HOUR_MS = 60 * 60 * 1000;
/** Never longer than the true ones, so that no period is missed. */
const SHORTEST_MS = { day: 23 * HOUR_MS, week: 167 * HOUR_MS, month: 671 * HOUR_MS, year: 8759 * HOUR_MS };

/** How many payments of a plan may have fallen due in a stretch of time: at least so many are quoted to reach its end. */
function periodsWithin({ line: { price } }: PlanTerms, passed: number): number {
  return 'interval' in price ? Math.ceil(Math.max(0, passed) / (price.interval.every * SHORTEST_MS[price.interval.unit])) : 0;
}
