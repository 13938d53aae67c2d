import { formatMoney } from '@ruta/core/money';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Panel } from '../ui/Page';
import { connectionsApi } from './api';

/** Money that a processor took and that no order here knows of; nothing is shown where there is none. */
export function UnknownCharges({ timeZone }: { timeZone: string }) {
  const { data: charges = [] } = connectionsApi.useUnknownChargesQuery();
  const [refund, refunding] = connectionsApi.useRefundUnknownMutation();
  const [note, noting] = connectionsApi.useDealtWithMutation();
  if (charges.length === 0) return null;
  const problem = refunding.error ?? noting.error;
  const isBusy = refunding.isLoading || noting.isLoading;
  return (
    <Panel title="Money that no order here knows of">
      <p className="text-soft">
        A processor took it, most likely after the backup that was put back. Refund it, or note that you have entered it in your books.
      </p>
      <ul>
        {charges.map(({ id, provider, providerChargeId, amount, currency, cardLast4, foundAt }) => (
          <li key={id} className="flex flex-wrap items-center justify-between gap-3 border-b border-line last:border-0 py-2">
            <span className="min-w-0">
              <span className="font-semibold figures">{formatMoney(amount, currency)}</span>
              <span className="block text-soft wrap-anywhere">
                <span className="capitalize">{provider}</span> <code className="font-mono">{providerChargeId}</code>
                {cardLast4 ? `, card ending ${cardLast4}` : ''}, found {formatTime(foundAt, timeZone)}
              </span>
            </span>
            <span className="flex gap-2">
              <Button disabled={isBusy} onClick={() => refund(id)}>
                Refund {formatMoney(amount, currency)}
              </Button>
              <Button look="quiet" disabled={isBusy} onClick={() => note(id)}>
                Mark as dealt with
              </Button>
            </span>
          </li>
        ))}
      </ul>
      <FormProblem>{problem ? problemOf(problem).title : null}</FormProblem>
    </Panel>
  );
}
