import { type Delivery, WEBHOOK_EVENTS, type Webhook, type WebhookEvent } from '@ruta/core/webhooks';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { formatTime } from '../base/format';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { FormProblem, SelectField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Badge } from '../ui/Page';
import { connectionsApi } from './api';

const STATES = { sent: 'Taken', waiting: 'Still tried', failed: 'Not taken' } as const;
const TONES = { sent: 'go', waiting: 'way', failed: 'stop' } as const;
const POLL_MS = 3000;

/** What a program was told, what it answered, and a way to tell it once more. */
export default function WebhookLog({ webhook, onClose }: { webhook: Webhook; onClose: () => void }) {
  const [state, setState] = useState<'all' | Delivery['state']>('all');
  const { data: shop } = shopApi.useShopQuery();
  const found = connectionsApi.useDeliveriesInfiniteQuery({ id: webhook.id, state }, { pollingInterval: POLL_MS });
  const list = useRows(found);
  const timeZone = shop?.settings.timeZone ?? 'UTC';
  return (
    <Modal open onClose={onClose} title={`Log of ${webhook.name}`} description={webhook.url} wide>
      <SelectField label="Messages" value={state} onChange={(event) => setState(event.target.value as typeof state)}>
        <option value="all">All</option>
        {Object.entries(STATES).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </SelectField>
      <FormProblem>{found.error ? problemOf(found.error).title : null}</FormProblem>
      {list.rows?.length === 0 ? <p className="text-soft mt-3">{state === 'all' ? 'Nothing was told yet.' : 'There are none.'}</p> : null}
      <ul className="mt-3">
        {list.rows?.map((delivery) => (
          <Message key={delivery.id} delivery={delivery} timeZone={timeZone} />
        ))}
      </ul>
      {list.hasMore ? <Button onClick={list.loadMore}>Show more</Button> : null}
    </Modal>
  );
}

/** What the other side said, in words. */
function answerWords({ status, answer, attempts }: Delivery): string {
  const tries = attempts > 1 ? ` after ${attempts} tries` : '';
  if (attempts === 0) return answer ?? 'Not sent yet';
  return `${status === null ? (answer ?? 'Nobody answered') : `Answered ${status}`}${tries}`;
}

function Message({ delivery, timeZone }: { delivery: Delivery; timeZone: string }) {
  const [again, { isLoading, error }] = connectionsApi.useSendDeliveryAgainMutation();
  const { id, event, at, state, status, answer, body, nextAt } = delivery;
  return (
    <li className="border-b border-line py-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Badge tone={TONES[state]}>{STATES[state]}</Badge>
        <span className="font-semibold">{WEBHOOK_EVENTS[event as WebhookEvent] ?? event}</span>
        <span className="text-soft">{formatTime(at, timeZone)}</span>
        <Button look="quiet" className="ml-auto" disabled={isLoading} aria-label={`Send ${id} again`} onClick={() => void again(id)}>
          Send again
        </Button>
      </div>
      <p className="text-soft wrap-anywhere">
        {answerWords(delivery)}
        {nextAt !== null && delivery.attempts > 0 ? `; tried again ${formatTime(nextAt, timeZone)}` : ''}
      </p>
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      {body ? (
        <details>
          <summary className="cursor-pointer text-soft">What was told{status !== null && answer ? ', and the answer' : ''}</summary>
          <pre className="mt-1 rounded-md bg-band px-3 py-2 font-mono text-sm whitespace-pre-wrap wrap-anywhere">
            {JSON.stringify(JSON.parse(body), null, 2)}
          </pre>
          {status !== null && answer ? (
            <pre className="mt-1 rounded-md border border-line px-3 py-2 font-mono text-sm whitespace-pre-wrap wrap-anywhere">{answer}</pre>
          ) : null}
        </details>
      ) : null}
    </li>
  );
}
