import { formatMoney } from '@ruta/core/money';
import { bundleWords, laterWords, lineSteps, partWords, type QuoteLine, type SummedQuote } from '@ruta/core/pricing';
import { countryName } from '@ruta/core/shop';

/** The lines and totals of a quote, today and later, each unfolding into how it came about: wherever a total is shown. */
export function QuoteTable({ quote, dueLabel, unfolded = false }: { quote: SummedQuote; dueLabel: string; unfolded?: boolean }) {
  const money = (amount: number) => formatMoney(amount, quote.currency);
  const rates = [...new Set(quote.lines.flatMap((line) => line.taxShares.filter((share) => share.tax > 0).map((share) => share.rate)))];
  const later = laterWords(quote);
  // With reverse charge the lines say prices as they are listed, and what is due comes without their tax.
  const shipping = quote.shipping ? (quote.pricesIncludeTax && !quote.reverseCharge ? quote.shipping.total : quote.shipping.net) : 0;
  const takenOff = quote.reverseCharge ? quote.lines.reduce((sum, line) => sum + line.amount, shipping - quote.discount) - quote.dueToday : 0;
  const all = quote.plans.reduce<number | null>((sum, { total }) => (sum === null || total === null ? null : sum + total), quote.dueToday);
  return (
    <>
      <table className="quote">
        <tbody>
          {quote.lines.map((line) => (
            <LineRow key={line.id} line={line} money={money} />
          ))}
          {quote.discount > 0 ? (
            <tr>
              <th scope="row">Code {quote.code?.code}</th>
              <td>−{money(quote.discount)}</td>
            </tr>
          ) : null}
          {quote.code?.applied && quote.discount === 0 && quote.plans.some((plan) => plan.codeDiscount > 0) ? (
            <tr>
              <th scope="row">Code {quote.code.code}</th>
              <td>from the first payment</td>
            </tr>
          ) : null}
          {quote.shipping ? (
            <tr>
              <th scope="row">Shipping to {countryName(quote.taxCountry)}</th>
              <td>{quote.shipping.total === 0 ? 'Free' : money(quote.pricesIncludeTax && !quote.reverseCharge ? quote.shipping.total : quote.shipping.net)}</td>
            </tr>
          ) : null}
          {takenOff > 0 ? (
            <tr>
              <th scope="row">Tax taken off (reverse charge)</th>
              <td>−{money(takenOff)}</td>
            </tr>
          ) : null}
          {!quote.pricesIncludeTax && quote.tax > 0 ? (
            <tr>
              <th scope="row">Tax</th>
              <td>{money(quote.tax)}</td>
            </tr>
          ) : null}
        </tbody>
        <tfoot>
          <tr className="quote-due">
            <th scope="row">{dueLabel}</th>
            <td data-total="">{money(quote.dueToday)}</td>
          </tr>
          {quote.pricesIncludeTax && quote.tax > 0 ? (
            <tr className="quote-tax">
              <td colSpan={2}>
                includes {money(quote.tax)} tax ({countryName(quote.taxCountry)}
                {rates.length === 1 ? ` ${rates[0]} %` : ''})
              </td>
            </tr>
          ) : null}
          {quote.reverseCharge ? (
            <tr className="quote-tax">
              <td colSpan={2}>Reverse charge: the buyer accounts for the tax</td>
            </tr>
          ) : null}
          {quote.plans.length > 0 && all !== null ? (
            <tr className="quote-later">
              <th scope="row">All payments together</th>
              <td>{money(all)}</td>
            </tr>
          ) : null}
          {later.map((words) => (
            <tr key={words} className="quote-later">
              <td colSpan={2}>{words}</td>
            </tr>
          ))}
        </tfoot>
      </table>
      <details className="quote-steps" open={unfolded}>
        <summary>How this adds up</summary>
        <QuoteSteps quote={quote} />
      </details>
    </>
  );
}

function LineRow({ line, money }: { line: QuoteLine; money: (amount: number) => string }) {
  const part = partWords(line);
  const parts = bundleWords(line);
  // An old price is only comparable with what is asked for the same thing: the whole, or the same period.
  const regular = line.part === 'whole' || line.part === 'period' ? line.regularUnit * line.quantity : 0;
  return (
    <tr>
      <th scope="row">
        {line.name}
        {line.quantity > 1 ? ` × ${line.quantity}` : ''}
        {part ? <span className="quote-part"> {part}</span> : null}
        {parts ? <span className="quote-part"> {parts}</span> : null}
      </th>
      <td>
        {regular > line.amount ? (
          <>
            <span className="unseen">Regular price </span>
            <s>{money(regular)}</s>{' '}
          </>
        ) : null}
        {line.amount === 0 ? 'Free' : money(line.amount)}
      </td>
    </tr>
  );
}

/** Every line of today with each step of its sum, and shipping. */
function QuoteSteps({ quote }: { quote: SummedQuote }) {
  const money = (amount: number) => formatMoney(amount, quote.currency);
  const { shipping } = quote;
  return (
    <dl>
      {quote.lines.map((line) => (
        <div key={line.id}>
          <dt>{line.name}</dt>
          {lineSteps(line, quote).map((step) => (
            <dd key={step.label}>
              <span>{step.label}</span> <span>{step.value}</span>
            </dd>
          ))}
        </div>
      ))}
      {shipping ? (
        <div>
          <dt>Shipping</dt>
          <dd>
            <span>
              {shipping.zone}, {shipping.reason}
            </span>{' '}
            <span>{money(shipping.listed)}</span>
          </dd>
          {shipping.paidBefore > 0 ? (
            <dd>
              <span>Paid before</span> <span>−{money(shipping.paidBefore)}</span>
            </dd>
          ) : null}
          <dd>
            <span>{shipping.rate > 0 ? `Tax, ${shipping.rate} %` : 'No tax'}</span> <span>{money(shipping.tax)}</span>
          </dd>
        </div>
      ) : null}
    </dl>
  );
}
