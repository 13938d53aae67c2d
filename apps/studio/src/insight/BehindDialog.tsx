import type { ReportRow } from '@ruta/core/reports';
import { Link } from 'react-router';
import { problemOf } from '../base/api';
import { formatAmount, formatCount, formatTime } from '../base/format';
import { FormProblem } from '../ui/Field';
import { Heads } from '../ui/Heads';
import { Modal } from '../ui/Modal';
import { useCards } from '../ui/useCards';
import { insightApi, type ReportAsk } from './api';

/** The orders that a row is made of, each with its buyer. */
export function BehindDialog(props: { ask: ReportAsk; row: ReportRow; name: string; currency: string; timeZone: string; onClose: () => void }) {
  const cards = useCards();
  const { ask, row, name, currency, timeZone, onClose } = props;
  const { data, error } = insightApi.useBehindQuery({ ...ask, key: row.key });
  return (
    <Modal open wide onClose={onClose} title={`Orders behind ${name}`} {...(data ? { description: words(data.count, data.revenue, currency) } : {})}>
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      {data ? (
        <div className="overflow-x-auto">
          <table {...cards.table} className="w-full text-left figures">
            <Heads cards={cards} names={['Order', 'Buyer', 'Bought', { figures: 'Counts here' }]} />
            <tbody {...cards.group}>
              {data.orders.map((order) => (
                <tr {...cards.row} key={order.id} className="border-t border-line align-top">
                  <td {...cards.cell('')} className="py-1.5 pr-4 whitespace-nowrap">
                    <Link className="text-info underline font-semibold" to={`/sales/orders/${order.id}`}>
                      {order.number ?? 'Gift'}
                    </Link>
                    <span className="block text-soft">{formatTime(order.paidAt, timeZone)}</span>
                  </td>
                  <td {...cards.cell('Buyer')} className="py-1.5 pr-4 wrap-anywhere">
                    {order.contactId ? (
                      <Link className="text-info underline" to={`/sales/contacts/${order.contactId}`}>
                        {order.name || order.email}
                      </Link>
                    ) : (
                      order.name || order.email
                    )}
                  </td>
                  <td {...cards.cell('Bought')} className="py-1.5 pr-4">
                    {order.goods}
                  </td>
                  <td {...cards.cell('Counts here')} className="py-1.5 text-right">
                    {formatAmount(order.revenue, currency)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {data.count > data.orders.length ? <p className="text-soft mt-2">The newest {data.orders.length} are shown; the sum is of all.</p> : null}
        </div>
      ) : null}
    </Modal>
  );
}

const words = (count: number, revenue: number, currency: string): string =>
  `${formatCount(count)} ${count === 1 ? 'order' : 'orders'}, ${formatAmount(revenue, currency)} net revenue`;
