import { formatMoney } from '@ruta/core/money';
import { lineSteps, type SummedQuote, type SumRow, sumTable } from '@ruta/core/pricing';

/** The lines and totals of a quote, today and later, each unfolding into how it came about: wherever a total is shown. */
export function QuoteTable({ quote, dueLabel, unfolded = false }: { quote: SummedQuote; dueLabel: string; unfolded?: boolean }) {
  const rows = sumTable(quote, dueLabel);
  const isAbove = ({ kind }: SumRow) => kind === 'line' || kind === 'change';
  return (
    <>
      <table className="quote">
        <tbody>
          {rows.filter(isAbove).map((row) => (
            <AddedRow key={row.id} row={row} />
          ))}
        </tbody>
        <tfoot>
          {rows
            .filter((row) => !isAbove(row))
            .map((row) => (
              <FootRow key={row.id} row={row} />
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

function AddedRow({ row: { label, details, value, was } }: { row: SumRow }) {
  return (
    <tr>
      <th scope="row">
        {label}
        {details.map((words) => (
          <span key={words} className="quote-part">
            {' '}
            {words}
          </span>
        ))}
      </th>
      <td>
        {was ? (
          <>
            <span className="unseen">Regular price </span>
            <s>{was}</s>{' '}
          </>
        ) : null}
        {value}
      </td>
    </tr>
  );
}

function FootRow({ row: { kind, label, value } }: { row: SumRow }) {
  if (kind === 'note' || kind === 'later') {
    return (
      <tr className={kind === 'note' ? 'quote-tax' : 'quote-later'}>
        <td colSpan={2}>{label}</td>
      </tr>
    );
  }
  return (
    <tr className={kind === 'due' ? 'quote-due' : 'quote-later'}>
      <th scope="row">{label}</th>
      <td {...(kind === 'due' ? { 'data-total': '' } : {})}>{value}</td>
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
