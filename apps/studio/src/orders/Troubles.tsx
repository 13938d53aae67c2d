import { CONSEQUENCE_WORDS, type OrderDetail } from '@ruta/core/orders';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { Button } from '../ui/Button';
import { Panel } from '../ui/Page';
import { ordersApi } from './api';

/** What a payment should have brought and could not, while its money was taken; each can be done again. */
export function Troubles({ order, timeZone }: { order: Pick<OrderDetail, 'id' | 'troubles'>; timeZone: string }) {
  const [doAgain, { error, isLoading }] = ordersApi.useDoAgainMutation();
  if (order.troubles.length === 0) return null;
  return (
    <Panel title="Could not be done">
      <p className="text-soft">The money was taken and is written down. This is still missing:</p>
      <ul>
        {order.troubles.map(({ id, what, message, at }) => (
          <li key={id} className="flex items-center justify-between gap-3 border-b border-line last:border-0 py-2">
            <span className="min-w-0">
              <span className="font-semibold first-letter:uppercase inline-block">{CONSEQUENCE_WORDS[what]}</span>
              <span className="block text-soft break-words">
                {formatTime(at, timeZone)}: {message}
              </span>
            </span>
            <Button disabled={isLoading} onClick={() => doAgain({ orderId: order.id, troubleId: id })}>
              Try again
            </Button>
          </li>
        ))}
      </ul>
      {error ? (
        <p role="alert" className="text-stop mt-2">
          {problemOf(error).title}
        </p>
      ) : null}
    </Panel>
  );
}
