import { NewWebhookSchema, WEBHOOK_EVENTS, type Webhook, type WebhookEvent, type WebhookSecret } from '@ruta/core/webhooks';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button } from '../ui/Button';
import { Check, FormProblem, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { connectionsApi } from './api';

const EVENTS = Object.entries(WEBHOOK_EVENTS) as Array<[WebhookEvent, string]>;

/** What a program is told, and where it listens. */
export function WebhookDialog(props: { webhook: Webhook | null; onClose: () => void; onSecret: (made: WebhookSecret) => void }) {
  const { webhook } = props;
  const [add, adding] = connectionsApi.useAddWebhookMutation();
  const [change, changing] = connectionsApi.useChangeWebhookMutation();
  const [rotate, rotating] = connectionsApi.useRotateSecretMutation();
  const [draft, setDraft] = useState({
    name: webhook?.name ?? '',
    url: webhook?.url ?? '',
    events: webhook?.events ?? (['order.paid', 'lead.submitted'] as WebhookEvent[]),
  });
  const [isOn, setOn] = useState(webhook?.isOn ?? true);
  const [tried, setTried] = useState(false);
  const read = NewWebhookSchema.safeParse(draft);
  const wrong = (field: string) => (tried && !read.success ? read.error.issues.find(({ path }) => path[0] === field)?.message : undefined);
  const failure = adding.error ?? changing.error ?? rotating.error;
  const before = webhook ?? { name: '', url: '', events: draft.events, isOn: true };
  const unsaved = JSON.stringify([draft.name, draft.url, draft.events, isOn]) !== JSON.stringify([before.name, before.url, before.events, before.isOn]);
  async function save() {
    setTried(true);
    if (!read.success) return;
    if (webhook) {
      const done = await change({ id: webhook.id, ...read.data, isOn })
        .unwrap()
        .catch(() => null);
      if (done) props.onClose();
    } else {
      const made = await add(read.data)
        .unwrap()
        .catch(() => null);
      if (made) props.onSecret(made);
    }
  }
  return (
    <Modal open onClose={props.onClose} title={webhook ? `Change ${webhook.name}` : 'Add a webhook'} unsaved={unsaved}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <TextField
          label="Name"
          hint="Only your team sees it."
          maxLength={80}
          value={draft.name}
          error={wrong('name')}
          onChange={(event) => setDraft({ ...draft, name: event.target.value })}
        />
        <TextField
          label="Address"
          type="url"
          placeholder="https://"
          value={draft.url}
          error={wrong('url')}
          onChange={(event) => setDraft({ ...draft, url: event.target.value })}
        />
        <fieldset>
          <legend className="font-semibold mb-1">It is told that</legend>
          <div className="grid gap-1.5 sm:grid-cols-2">
            {EVENTS.map(([event, words]) => (
              <Check
                key={event}
                label={words}
                hint={event}
                checked={draft.events.includes(event)}
                onChange={({ target }) =>
                  setDraft({ ...draft, events: EVENTS.map(([each]) => each).filter((each) => (each === event ? target.checked : draft.events.includes(each))) })
                }
              />
            ))}
          </div>
          {wrong('events') ? (
            <p role="alert" className="mt-1 text-stop font-semibold">
              {wrong('events')}
            </p>
          ) : null}
        </fieldset>
        {webhook ? (
          <Check
            label="Switched on"
            hint="Off, it is told nothing; what happens meanwhile is not told later."
            checked={isOn}
            onChange={({ target }) => setOn(target.checked)}
          />
        ) : null}
        <FormProblem>{failure ? (problemOf(failure).errors[0]?.message ?? problemOf(failure).title) : null}</FormProblem>
        <div className="flex flex-wrap gap-2">
          <Button look="main" type="submit" disabled={adding.isLoading || changing.isLoading}>
            {webhook ? 'Save' : 'Add it'}
          </Button>
          {webhook ? (
            <Button
              look="quiet"
              // It closes this dialog; what is typed here is saved or taken back first.
              disabled={rotating.isLoading || unsaved}
              title={unsaved ? 'Save first what you changed here' : undefined}
              onClick={() =>
                rotate(webhook.id)
                  .unwrap()
                  .then(props.onSecret, () => undefined)
              }
            >
              New secret
            </Button>
          ) : null}
        </div>
      </form>
    </Modal>
  );
}
