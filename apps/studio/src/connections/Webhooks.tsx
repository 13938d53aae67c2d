import { WEBHOOK_EVENTS, type Webhook, type WebhookEvent, type WebhookSecret } from '@ruta/core/webhooks';
import { Webhook as WebhookIcon } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { FormProblem } from '../ui/Field';
import { Badge, Panel } from '../ui/Page';
import { connectionsApi } from './api';
import { RemoveReceiver } from './RemoveReceiver';
import { standingWords } from './standingWords';
import { WebhookDialog } from './WebhookDialog';
import { WebhookSecretDialog } from './WebhookSecretDialog';

const MessageLog = lazy(() => import('./MessageLog'));

/** Programs outside that are told what happens: each with its address, its events, a secret and a log. */
export function Webhooks() {
  const { data: webhooks = [], error } = connectionsApi.useWebhooksQuery(undefined, { pollingInterval: POLL_MS });
  const [remove, removing] = connectionsApi.useRemoveWebhookMutation();
  const [editing, setEditing] = useState<Webhook | 'new' | null>(null);
  const [secret, setSecret] = useState<WebhookSecret | null>(null);
  const [log, setLog] = useState<Webhook | null>(null);
  return (
    <Panel>
      <div className="flex items-start gap-4">
        <WebhookIcon size={26} className="mt-1" aria-hidden="true" />
        <div className="flex-1 min-w-0">
          <h2>Webhooks</h2>
          <p className="text-soft mb-2">
            Tell a program of yours what happens here: each message is signed, tried for three days, and kept in a log. They follow the Standard Webhooks
            convention.
          </p>
          <ul>
            {webhooks.map((webhook) => (
              <li key={webhook.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-2">
                <span className="flex-1 min-w-52 wrap-anywhere">
                  <strong>{webhook.name}</strong> {webhook.isOn ? null : <Badge tone="plain">Off</Badge>}{' '}
                  {webhook.failed > 0 ? <Badge tone="stop">Not taken</Badge> : null}
                  <span className="block text-soft">{webhook.url}</span>
                  <span className="block text-soft">{standingWords(webhook)}</span>
                </span>
                <Button look="quiet" aria-label={`Log of ${webhook.name}`} onClick={() => setLog(webhook)}>
                  Log
                </Button>
                <Button look="quiet" aria-label={`Change ${webhook.name}`} onClick={() => setEditing(webhook)}>
                  Change
                </Button>
                <RemoveReceiver name={webhook.name} isLoading={removing.isLoading} error={removing.error} onRemove={() => void remove(webhook.id)} />
              </li>
            ))}
          </ul>
          <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
          <p className="mt-3">
            <Button onClick={() => setEditing('new')}>Add a webhook</Button>
          </p>
        </div>
      </div>
      {editing ? (
        <WebhookDialog
          webhook={editing === 'new' ? null : editing}
          onClose={() => setEditing(null)}
          onSecret={(made) => {
            setEditing(null);
            setSecret(made);
          }}
        />
      ) : null}
      {secret ? <WebhookSecretDialog made={secret} onClose={() => setSecret(null)} /> : null}
      {log ? (
        <Suspense>
          <MessageLog
            receiver={{ id: log.id, name: log.name, where: log.url }}
            eventWords={(event) => WEBHOOK_EVENTS[event as WebhookEvent] ?? event}
            onClose={() => setLog(null)}
          />
        </Suspense>
      ) : null}
    </Panel>
  );
}

const POLL_MS = 5000;
