import { wordsAtCommas } from '@ruta/core/formats';
import { type MadeLeadSource, NewLeadSourceSchema } from '@ruta/core/leads';
import { Inbox, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { Button, IconButton } from '../ui/Button';
import { FormProblem, TextArea, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Panel } from '../ui/Page';
import { connectionsApi } from './api';

/** Leads from elsewhere: each place has an address of its own, for a pasted form, a program or a webhook. */
export function LeadSources() {
  const { data: sources = [], error } = connectionsApi.useLeadSourcesQuery();
  const [isAdding, setAdding] = useState(false);
  const [made, setMade] = useState<MadeLeadSource | null>(null);
  const [remove, removing] = connectionsApi.useRemoveLeadSourceMutation();
  return (
    <Panel>
      <div className="flex items-start gap-4">
        <Inbox size={26} className="mt-1" aria-hidden="true" />
        <div className="flex-1 min-w-0">
          <h2>Leads from elsewhere</h2>
          <p className="text-soft mb-2">
            A form on another site, a program, or an ad platform’s own form by its webhook: each sends to an address of its own, and who comes stands in
            Contacts.
          </p>
          <ul>
            {sources.map((source) => (
              <li key={source.id} className="flex items-center gap-3 border-b border-line py-2">
                <span className="flex-1 min-w-0 wrap-anywhere">
                  <strong>{source.name}</strong>
                  <span className="block text-soft">
                    {source.received === 0 ? 'Waiting for the first one' : source.received === 1 ? 'One lead so far' : `${source.received} leads so far`}
                    {source.tags.length > 0 ? ` · tagged ${source.tags.join(', ')}` : ''}
                  </span>
                </span>
                <IconButton name={`Take no more from ${source.name}`} disabled={removing.isLoading} onClick={() => void remove(source.id)}>
                  <Trash2 size={16} />
                </IconButton>
              </li>
            ))}
          </ul>
          <FormProblem>{error ? problemOf(error).title : removing.error ? problemOf(removing.error).title : null}</FormProblem>
          <p className="mt-3">
            <Button onClick={() => setAdding(true)}>Add a place</Button>
          </p>
        </div>
      </div>
      {isAdding ? (
        <AddSource
          onClose={() => setAdding(false)}
          onMade={(source) => {
            setAdding(false);
            setMade(source);
          }}
        />
      ) : null}
      {made ? <SourceAddress source={made} onClose={() => setMade(null)} /> : null}
    </Panel>
  );
}

function AddSource({ onClose, onMade }: { onClose: () => void; onMade: (source: MadeLeadSource) => void }) {
  const [add, { error, isLoading }] = connectionsApi.useAddLeadSourceMutation();
  const [name, setName] = useState('');
  const [tags, setTags] = useState('');
  const [fields, setFields] = useState('');
  const [thanksUrl, setThanksUrl] = useState('');
  const [tried, setTried] = useState(false);
  const typed = {
    name,
    tags: wordsAtCommas(tags),
    fields: Object.fromEntries(
      fields
        .split('\n')
        .map((line) => line.split('=').map((part) => part.trim()))
        .filter(([from, to]) => from && to),
    ),
    thanksUrl: thanksUrl.trim() || null,
  };
  const read = NewLeadSourceSchema.safeParse(typed);
  const wrong = (path: string) => (tried ? read.error?.issues.find((issue) => issue.path[0] === path)?.message : undefined);
  return (
    <Modal open onClose={onClose} title="A place that sends leads" unsaved={name !== '' || tags !== '' || fields !== '' || thanksUrl !== ''}>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={async (event) => {
          event.preventDefault();
          setTried(true);
          if (!read.success) return;
          const made = await add(read.data)
            .unwrap()
            .catch(() => null);
          if (made) onMade(made);
        }}
      >
        <TextField
          label="Name"
          hint="Where they come from; it stands with each contact."
          value={name}
          error={wrong('name')}
          onChange={(event) => setName(event.target.value)}
        />
        <TextField label="Tags" hint="With commas between them." value={tags} error={wrong('tags')} onChange={(event) => setTags(event.target.value)} />
        <TextArea
          label="What is called otherwise there"
          hint="One a line: their name = ours. Usual names of address and name are known by themselves; everything else is kept as an answer."
          rows={3}
          placeholder="adresse_mail = email"
          value={fields}
          error={wrong('fields')}
          onChange={(event) => setFields(event.target.value)}
        />
        <TextField
          label="Where a form leads afterwards"
          type="url"
          placeholder="https://"
          value={thanksUrl}
          error={wrong('thanksUrl')}
          onChange={(event) => setThanksUrl(event.target.value)}
        />
        <FormProblem>{error ? (problemOf(error).errors[0]?.message ?? problemOf(error).title) : null}</FormProblem>
        <Button look="main" type="submit" disabled={isLoading}>
          Make its address
        </Button>
      </form>
    </Modal>
  );
}

function SourceAddress({ source, onClose }: { source: MadeLeadSource; onClose: () => void }) {
  const form = `<form method="post" action="${source.address}">\n  <label>First name <input name="first_name"></label>\n  <label>E-mail <input name="email" type="email" required></label>\n  <button>Send</button>\n</form>`;
  const box = 'block w-full rounded-md border border-line bg-ground p-3 font-mono text-sm whitespace-pre-wrap wrap-anywhere';
  return (
    <Modal
      open
      onClose={onClose}
      title={`The address of ${source.name}`}
      description="It holds the key and is shown this once. Whoever has it can send leads."
      wide
    >
      <div className="grid gap-4">
        <div>
          <h3 className="font-semibold mb-1">Address, also for a webhook</h3>
          <code className={box} data-lead-address="">
            {source.address}
          </code>
        </div>
        <div>
          <h3 className="font-semibold mb-1">A form to paste into another site</h3>
          <code className={box}>{form}</code>
        </div>
        <div>
          <h3 className="font-semibold mb-1">From a program</h3>
          <code
            className={box}
          >{`curl -X POST ${source.address} -H 'content-type: application/json' -d '{"email": "name@example.test", "first_name": "Name"}'`}</code>
        </div>
      </div>
    </Modal>
  );
}
