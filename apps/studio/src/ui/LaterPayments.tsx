import { dateWords, formatMoney, type Quote } from '@ruta/core';

/** What falls due after today, payment by payment; of an endless plan the next ones. */
export function LaterPayments({ quote }: { quote: Quote }) {
  const money = (amount: number) => formatMoney(amount, quote.currency);
  if (quote.later.length === 0) return null;
  return (
    <table className="w-full mt-3 figures">
      <caption className="text-left font-semibold pb-1">Later</caption>
      <tbody>
        {quote.later.map((payment) => (
          <tr key={payment.due} className="border-t border-line">
            <th scope="row" className="text-left font-normal py-1">
              {dateWords(payment.date)}
            </th>
            <td className="text-right">{money(payment.total)}</td>
          </tr>
        ))}
        <tr className="border-t border-line">
          <th scope="row" className="text-left font-normal py-1">
            {quote.endless ? 'and so on' : 'In all, with today'}
          </th>
          <td className="text-right font-semibold">{quote.total === null ? 'no end' : money(quote.total)}</td>
        </tr>
      </tbody>
    </table>
  );
}
