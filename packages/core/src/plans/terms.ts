import type { Code } from '../codes';
import { isEligible } from '../codes';
import { type StoredQuote, sentClasses } from '../pricing';
import type { PlanTerms } from './plan';

/**
 * The terms of every plan that a payment's quote begins: what later charges are quoted from.
 * @param code the order's code, as it stood at the purchase; without effect where the quote did not apply it
 * @param before quotes of the same order that were paid before, for what was sent with them
 * @returns one for each plan, in the order of the lines: the tie rule of a fixed code asks for it
 */
export function planTermsOf(quote: StoredQuote, code: Code | undefined, before: ReadonlyArray<Pick<StoredQuote, 'lines'>> = []): PlanTerms[] {
  const sent = [...before, quote].flatMap(({ lines }) => lines.filter(({ part }) => part !== 'set-up fee'));
  const classes = [...new Set(sentClasses(sent))];
  const { taxCountry, taxRegion, taxNumber } = quote;
  const buyer = {
    country: taxCountry,
    ...(taxRegion === undefined ? {} : { region: taxRegion }),
    ...(taxNumber?.valid && !taxNumber.unconfirmed ? { taxNumber: taxNumber.number, ...(quote.reverseCharge ? { validTaxNumber: true } : {}) } : {}),
  };
  const promised = promisedTo(quote, code);
  const owing = new Set(quote.plans.map(({ lineId }) => lineId));
  return quote.lines.flatMap((line) => {
    const { lineId } = line;
    if (line.part === 'set-up fee' || !owing.has(lineId)) return [];
    const { productId, editionId, priceId, name, role, kind, taxClass, price, quantity, parts, unit, weight } = line;
    return [
      {
        line: {
          ...{ id: lineId, productId, name, role, kind, taxClass, price, quantity, agreed: unit },
          ...(editionId === undefined ? {} : { editionId }),
          ...(priceId === undefined ? {} : { priceId }),
          ...(parts ? { parts } : {}),
          weight: weight / quantity,
        },
        buyer,
        code: promised(lineId),
        sentClasses: classes,
      },
    ];
  });
}

/** What is left of a code for the charges of each plan: all of one for every payment; of one for the first only, where it is promised to a later charge. */
function promisedTo(quote: StoredQuote, code: Code | undefined): (lineId: string) => Code | null {
  if (!code || !quote.code?.applied) return () => null;
  // It held at the purchase: neither its minimum nor its time is asked again.
  const kept: Code = { ...code, on: true, minimum: undefined, from: undefined, until: undefined, limit: undefined, limitPerBuyer: undefined };
  if (code.payments === 'every') return () => kept;
  const discounted = new Set(quote.plans.flatMap(({ lineId, codeDiscount }) => (codeDiscount > 0 ? [lineId] : [])));
  const isSpentToday = quote.lines.some((line) => line.part !== 'set-up fee' && line.amount > 0 && isEligible(code, line));
  return (lineId) => (!isSpentToday && discounted.has(lineId) ? kept : null);
}
