import { countryName, formatMoney, type Quote } from '@ruta/core';

/** The lines and totals of a quote: on the checkout, the thank-you page and nowhere computed anew. */
export function QuoteTable({ quote, dueLabel }: { quote: Quote; dueLabel: string }) {
  const money = (amount: number) => formatMoney(amount, quote.currency);
  const rates = [...new Set(quote.lines.filter((line) => line.tax > 0).map((line) => line.rate))];
  return (
    <table className="quote">
      <tbody>
        {quote.lines.map((line) => (
          <tr key={line.id}>
            <th scope="row">
              {line.name}
              {line.quantity > 1 ? ` × ${line.quantity}` : ''}
            </th>
            <td>
              {line.regularUnit * line.quantity > line.amount ? (
                <>
                  <span className="unseen">Regular price </span>
                  <s>{money(line.regularUnit * line.quantity)}</s>{' '}
                </>
              ) : null}
              {line.amount === 0 ? 'Free' : money(line.amount)}
            </td>
          </tr>
        ))}
        {quote.discount > 0 ? (
          <tr>
            <th scope="row">Code {quote.code?.code}</th>
            <td>−{money(quote.discount)}</td>
          </tr>
        ) : null}
        {quote.shipping ? (
          <tr>
            <th scope="row">Post to {countryName(quote.taxCountry)}</th>
            <td>{money(quote.pricesIncludeTax ? quote.shipping.total : quote.shipping.net)}</td>
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
      </tfoot>
    </table>
  );
}
