import { type AfterForm, type ElementOf, FIELD_KINDS, type FieldKind, type FieldOfForm, FormAfterSchema, MOST_STAGES, words } from '@ruta/core/elements';
import { wordsAtCommas } from '@ruta/core/formats';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { IconButton } from '../ui/Button';
import { Check, SelectField, TextArea, TextField } from '../ui/Field';
import { Items } from './elements/Items';

type Questions = ElementOf<'form'>;

/** Everything inside a form: fields, stages, consent, tags, and what happens next. The address is always asked. */
export function FormFields({ element, change }: { element: Questions; change: (changes: Record<string, unknown>) => void }) {
  const { fields, stages, consent, after } = element;
  const [wayOn, setWayOn] = useState<keyof typeof AFTER>(after?.kind ?? 'route');
  const set = (index: number, changes: Partial<FieldOfForm>) => change({ fields: fields.with(index, { ...(fields[index] as FieldOfForm), ...changes }) });
  const move = (index: number, by: number) => change({ fields: fields.toSpliced(index, 1).toSpliced(index + by, 0, fields[index] as FieldOfForm) });
  return (
    <>
      {fields.map((field, index) => (
        <FieldSettings
          key={field.key}
          field={field}
          stages={stages}
          set={(changes) => set(index, changes)}
          onUp={index === 0 ? undefined : () => move(index, -1)}
          onDown={index === fields.length - 1 ? undefined : () => move(index, 1)}
          onRemove={field.key === 'email' ? undefined : () => change({ fields: fields.toSpliced(index, 1) })}
        />
      ))}
      <AddField fields={fields} onAdd={(field) => change({ fields: [...fields, field] })} />
      <Check
        label="Ask for consent"
        hint="Its wording is typed on the page, and kept with every answer."
        checked={consent !== undefined}
        onChange={(event) => change({ consent: event.target.checked ? { words: words('Yes, write to me.'), required: false } : undefined })}
      />
      {consent ? (
        <Check
          label="Nothing is sent without it"
          checked={consent.required}
          onChange={(event) => change({ consent: { ...consent, required: event.target.checked } })}
        />
      ) : null}
      <Check
        label="In several stages"
        hint="One after the other; without script all of them at once."
        checked={stages !== undefined}
        onChange={(event) => change({ stages: event.target.checked ? ['First', 'Then'] : undefined })}
      />
      {stages ? (
        <Items
          items={stages.map((title) => ({ title }))}
          noun="stage"
          nameOf={({ title }) => title}
          make={() => ({ title: 'One more' })}
          onChange={(next) => change({ stages: next.map(({ title }) => title) })}
          most={MOST_STAGES}
          least={2}
        >
          {(item, setItem) => (
            <TextField
              label="Name of the stage"
              maxLength={80}
              value={item.title}
              error={item.title.trim() === '' ? 'Give the stage a name.' : undefined}
              onChange={(event) => setItem({ title: event.target.value })}
            />
          )}
        </Items>
      ) : null}
      <TagsField tags={element.tags ?? []} onChange={(tags) => change({ tags: tags.length > 0 ? tags : undefined })} />
      <SelectField
        label="What happens next"
        value={wayOn}
        onChange={(event) => {
          const kind = event.target.value as keyof typeof AFTER;
          setWayOn(kind);
          // An address is kept only once it is one.
          if (kind !== 'address') change({ after: AFTER[kind]() });
        }}
      >
        <option value="route">They go on as the map says</option>
        <option value="message">They stay, and are told something</option>
        <option value="address">They go to an address</option>
      </SelectField>
      {wayOn === 'address' ? (
        <AfterAddress url={after?.kind === 'address' ? after.url : ''} onChange={(url) => change({ after: { kind: 'address', url } })} />
      ) : null}
      {after?.kind === 'message' ? (
        <TextArea
          label="What they are told"
          rows={3}
          maxLength={600}
          value={after.words}
          error={after.words.trim() === '' ? 'Write what is said.' : undefined}
          onChange={(event) => change({ after: { kind: 'message', words: event.target.value } })}
        />
      ) : null}
    </>
  );
}

function FieldSettings(props: {
  field: FieldOfForm;
  stages: string[] | undefined;
  set: (changes: Partial<FieldOfForm>) => void;
  onUp: (() => void) | undefined;
  onDown: (() => void) | undefined;
  onRemove: (() => void) | undefined;
}) {
  const { field, stages, set } = props;
  const isListed = field.kind === 'choice' || field.kind === 'several';
  return (
    <fieldset className="rounded-md border border-line p-3 grid gap-2">
      <legend className="sr-only">{field.label}</legend>
      <div className="flex items-center gap-0.5">
        <span className="flex-1 font-semibold truncate">{FIELD_KINDS[field.kind]}</span>
        <IconButton name={`Move ${field.label} up`} disabled={!props.onUp} onClick={props.onUp}>
          <ArrowUp size={15} />
        </IconButton>
        <IconButton name={`Move ${field.label} down`} disabled={!props.onDown} onClick={props.onDown}>
          <ArrowDown size={15} />
        </IconButton>
        <IconButton name={`Remove ${field.label}`} disabled={!props.onRemove} onClick={props.onRemove}>
          <Trash2 size={15} />
        </IconButton>
      </div>
      <TextField
        label="Label"
        value={field.label}
        maxLength={120}
        error={field.label.trim() === '' ? 'Give the field a label.' : undefined}
        onChange={(event) => set({ label: event.target.value })}
      />
      {isListed ? (
        <TextArea
          label="Answers, one a line"
          rows={3}
          defaultValue={field.choices?.join('\n')}
          onChange={(event) =>
            set({
              choices: event.target.value
                .split('\n')
                .map((line) => line.trim().slice(0, 80))
                .filter(Boolean),
            })
          }
        />
      ) : null}
      {field.kind === 'hidden' ? (
        <TextField
          label="What it holds"
          hint={`A link with ?${field.key}=… fills it instead.`}
          maxLength={200}
          value={field.value ?? ''}
          onChange={(event) => set({ value: event.target.value })}
        />
      ) : field.key === 'email' ? (
        <p className="text-soft">Always asked.</p>
      ) : (
        <Check label="Must be filled in" checked={field.required} onChange={(event) => set({ required: event.target.checked })} />
      )}
      {stages ? (
        <SelectField label="Stage" value={Math.min(field.stage ?? 0, stages.length - 1)} onChange={(event) => set({ stage: Number(event.target.value) })}>
          {stages.map((title, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: stages have no identity of their own
            <option key={index} value={index}>
              {index + 1}. {title}
            </option>
          ))}
        </SelectField>
      ) : null}
    </fieldset>
  );
}

const LABELS: Partial<Record<FieldKind, string>> = {
  choice: 'Which one?',
  several: 'Which of these?',
  check: 'I agree',
  phone: 'Phone',
  date: 'When?',
  number: 'How many?',
  hidden: 'Source',
};

function AddField({ fields, onAdd }: { fields: FieldOfForm[]; onAdd: (field: FieldOfForm) => void }) {
  const names = [
    { key: 'firstName', label: 'First name' },
    { key: 'lastName', label: 'Last name' },
  ].filter(({ key }) => !fields.some((field) => field.key === key));
  return (
    <SelectField
      label="Add a field"
      value=""
      onChange={(event) => {
        const name = names.find(({ key }) => key === event.target.value);
        if (name) return onAdd({ ...name, kind: 'text', required: true });
        const kind = event.target.value as FieldKind;
        onAdd({
          key: freshKey(fields),
          label: LABELS[kind] ?? 'A question',
          kind,
          required: false,
          ...(kind === 'choice' || kind === 'several' ? { choices: ['First', 'Second'] } : {}),
        });
      }}
    >
      <option value="">Choose</option>
      {names.map(({ key, label }) => (
        <option key={key} value={key}>
          {label}
        </option>
      ))}
      {(Object.entries(FIELD_KINDS) as Array<[FieldKind, string]>)
        .filter(([kind]) => kind !== 'email')
        .map(([kind, name]) => (
          <option key={kind} value={kind}>
            {name}
          </option>
        ))}
    </SelectField>
  );
}

/** What a form does at first when another way of going on is chosen. */
const AFTER = {
  route: () => undefined,
  message: (): AfterForm => ({ kind: 'message', words: 'Thank you. Look into your mailbox.' }),
  address: () => undefined,
};

/** Where a form leads once it was sent; kept once it is an address. */
function AfterAddress({ url, onChange }: { url: string; onChange: (url: string) => void }) {
  const [typed, setTyped] = useState(url);
  const read = FormAfterSchema.safeParse({ kind: 'address', url: typed.trim() });
  return (
    <TextField
      label="Address"
      type="url"
      placeholder="https://"
      value={typed}
      error={typed.trim() === '' || read.success ? undefined : read.error.issues[0]?.message}
      onChange={(event) => {
        setTyped(event.target.value);
        const next = FormAfterSchema.safeParse({ kind: 'address', url: event.target.value.trim() });
        if (next.success && next.data.kind === 'address') onChange(next.data.url);
      }}
    />
  );
}

const MAX_TAG = 60;
const MAX_TAGS = 20;

/** Tags, typed with commas between them; kept as they are typed until the field is left. */
function TagsField({ tags, onChange }: { tags: string[]; onChange: (tags: string[]) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const read = (text: string) =>
    wordsAtCommas(text)
      .map((tag) => tag.slice(0, MAX_TAG))
      .slice(0, MAX_TAGS);
  return (
    <TextField
      label="Tags for who sends it"
      hint="With commas between them. Conditions and promotions can ask for them."
      value={typed ?? tags.join(', ')}
      onChange={(event) => {
        setTyped(event.target.value);
        onChange(read(event.target.value));
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

function freshKey(fields: FieldOfForm[]): string {
  for (let n = 1; ; n++) if (!fields.some((field) => field.key === `question${n}`)) return `question${n}`;
}
