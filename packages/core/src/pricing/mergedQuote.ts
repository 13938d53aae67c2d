import type { StoredQuote } from './storedQuote';

/**
 * Several quotes of one order as one: what was bought at the checkout and what was added since, in one list with one
 * total. Nothing is computed anew; every amount is the sum of what was charged.
 * @throws RangeError if there is no quote
 */
export function mergedQuote(quotes: readonly StoredQuote[]): StoredQuote {
  const [first, ...rest] = quotes;
  if (!first) throw new RangeError('There is nothing to put together.');
  return rest.reduce(joined, first);
}

function joined(one: StoredQuote, other: StoredQuote): StoredQuote {
  const { shipping } = one;
  const sent = other.shipping;
  const later = (a: number | null, b: number | null) => (a === null || b === null ? null : a + b);
  return {
    ...one,
    lines: [...one.lines, ...other.lines],
    shipping:
      shipping && sent
        ? { ...sent, paidBefore: shipping.paidBefore, net: shipping.net + sent.net, tax: shipping.tax + sent.tax, total: shipping.total + sent.total }
        : (sent ?? shipping),
    // Where parcels go decides the country, whichever payment they came with.
    taxCountry: shipping ? one.taxCountry : sent ? other.taxCountry : one.taxCountry,
    code: one.code?.applied ? { ...one.code, discount: one.code.discount + (other.code?.applied ? other.code.discount : 0) } : (other.code ?? one.code),
    goods: one.goods + other.goods,
    discount: one.discount + other.discount,
    tax: one.tax + other.tax,
    dueToday: one.dueToday + other.dueToday,
    orderTotal: one.orderTotal + other.orderTotal,
    plans: [...one.plans, ...other.plans],
    endless: one.endless || other.endless,
    dueLater: later(one.dueLater, other.dueLater),
    total: later(one.total, other.total),
    problems: [...one.problems, ...other.problems],
  };
}
