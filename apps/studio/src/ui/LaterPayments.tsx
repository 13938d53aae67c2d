import { formatMoney } from '@ruta/core/money';
import { dateWords, type LaterPayment } from '@ruta/core/pricing';

/** What falls due after today, payment by payment; of an endless plan the next ones. `total` is everything together, null without an end. */
export function LaterPayments(props: { payments: LaterPayment[]; currency: string; endless: boolean; total?: number | null }) {
  const { payments, currency, endless, total } = props;
  if (payments.length === 0) return null;
  return (
    <table className="w-full mt-3 figures">
      <caption className="text-left font-semibold pb-1">Later</caption>
      <tbody>
        {payments.map((payment) => (
          <tr key={payment.due} className="border-t border-line">
            <th scope="row" className="text-left font-normal py-1">
              {dateWords(payment.date)}
            </th>
            <td className="text-right">{formatMoney(payment.total, currency)}</td>
          </tr>
        ))}
        {total === undefined ? null : (
          <tr className="border-t border-line">
            <th scope="row" className="text-left font-normal py-1">
              {endless ? 'and so on' : 'In all, with today'}
            </th>
            <td className="text-right font-semibold">{total === null ? 'no end' : formatMoney(total, currency)}</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
