import { type Currency, formatMoney } from '@ruta/core/money';
import type { OrderDetail, RefundView } from '@ruta/core/orders';
import { formatTime } from '../base/format';
import { Badge, Panel } from '../ui/Page';

const STATES: Record<RefundView['state'], { words: string; tone: 'go' | 'stop' | 'plain' }> = {
  pending: { words: 'Asked of the processor', tone: 'plain' },
  done: { words: 'Given back', tone: 'go' },
  refused: { words: 'Refused', tone: 'stop' },
};

/** What was given back of an order, or is about to be. */
export function Refunds({ order, timeZone }: { order: OrderDetail; timeZone: string }) {
  if (order.refunds.length === 0) return null;
  const nameOf = (id: string) => order.lines.find((line) => line.id === id)?.name ?? '';
  return (
    <Panel title="Refunds">
      <ul>
        {order.refunds.map((refund) => {
          const { words, tone } = STATES[refund.state];
          return (
            <li key={refund.id} className="flex justify-between gap-3 border-b border-line last:border-0 py-2">
              <span className="min-w-0 break-words">
                <Badge tone={tone}>{refund.way === 'noted' ? 'Noted, given back elsewhere' : words}</Badge>{' '}
                {refund.lines.map(({ id }) => nameOf(id)).join(', ')}
                <span className="block text-soft">
                  {formatTime(refund.doneAt ?? refund.createdAt, timeZone)}
                  {refund.reason ? `. ${refund.reason}` : ''}
                </span>
                {refund.failure ? (
                  <span className="block text-stop font-semibold">
                    The processor said: {refund.failure} Nothing was given back; look there, then try again.
                  </span>
                ) : null}
              </span>
              <span className={`figures ${refund.state === 'refused' ? 'line-through text-soft' : 'font-semibold'}`}>
                {formatMoney(refund.amount, order.currency as Currency)}
              </span>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
