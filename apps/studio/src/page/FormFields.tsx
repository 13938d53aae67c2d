import type { ElementOf } from '@ruta/core/elements';

type Field = ElementOf<'form'>['fields'][number];

import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { IconButton } from '../ui/Button';
import { Check, SelectField, TextArea, TextField } from '../ui/Field';

/** The fields inside a form: add, order, label, require. The address is always asked. */
export function FormFields({ element, change }: { element: ElementOf<'form'>; change: (changes: Record<string, unknown>) => void }) {
  const { fields } = element;
  const set = (index: number, changes: Partial<Field>) => change({ fields: fields.with(index, { ...(fields[index] as Field), ...changes }) });
  const move = (index: number, by: number) => change({ fields: fields.toSpliced(index, 1).toSpliced(index + by, 0, fields[index] as Field) });
  return (
    <>
      {fields.map((field, index) => (
        <fieldset key={field.key} className="rounded-md border border-line p-3 grid gap-2">
          <legend className="sr-only">{field.label}</legend>
          <div className="flex items-center gap-0.5">
            <span className="flex-1 font-semibold truncate">{field.kind === 'email' ? 'E-mail' : field.kind === 'choice' ? 'Choice' : 'Text'}</span>
            <IconButton name={`Move ${field.label} up`} disabled={index === 0} onClick={() => move(index, -1)}>
              <ArrowUp size={15} />
            </IconButton>
            <IconButton name={`Move ${field.label} down`} disabled={index === fields.length - 1} onClick={() => move(index, 1)}>
              <ArrowDown size={15} />
            </IconButton>
            <IconButton name={`Remove ${field.label}`} disabled={field.key === 'email'} onClick={() => change({ fields: fields.toSpliced(index, 1) })}>
              <Trash2 size={15} />
            </IconButton>
          </div>
          <TextField
            label="Label"
            value={field.label}
            maxLength={120}
            error={field.label.trim() === '' ? 'Give the field a label.' : undefined}
            onChange={(event) => set(index, { label: event.target.value })}
          />
          {field.kind === 'choice' ? (
            <TextArea
              label="Answers, one a line"
              rows={3}
              defaultValue={field.choices?.join('\n')}
              onChange={(event) =>
                set(index, {
                  choices: event.target.value
                    .split('\n')
                    .map((line) => line.trim().slice(0, 80))
                    .filter(Boolean),
                })
              }
            />
          ) : null}
          {field.key === 'email' ? (
            <p className="text-soft">Always asked.</p>
          ) : (
            <Check label="Must be filled in" checked={field.required} onChange={(event) => set(index, { required: event.target.checked })} />
          )}
        </fieldset>
      ))}
      <SelectField
        label="Add a field"
        value=""
        onChange={(event) => {
          const kind = event.target.value as 'text' | 'choice' | 'firstName' | 'lastName';
          if (kind === 'firstName' || kind === 'lastName')
            change({ fields: [...fields, { key: kind, label: kind === 'firstName' ? 'First name' : 'Last name', kind: 'text', required: true }] });
          else
            change({
              fields: [
                ...fields,
                {
                  key: freshKey(fields),
                  label: kind === 'choice' ? 'Which one?' : 'A question',
                  kind,
                  required: false,
                  ...(kind === 'choice' ? { choices: ['First', 'Second'] } : {}),
                },
              ],
            });
        }}
      >
        <option value="">Choose</option>
        {['firstName', 'lastName']
          .filter((key) => !fields.some((field) => field.key === key))
          .map((key) => (
            <option key={key} value={key}>
              {key === 'firstName' ? 'First name' : 'Last name'}
            </option>
          ))}
        <option value="text">A question, answered in words</option>
        <option value="choice">A question with answers to choose from</option>
      </SelectField>
    </>
  );
}

function freshKey(fields: Field[]): string {
  for (let n = 1; ; n++) if (!fields.some((field) => field.key === `question${n}`)) return `question${n}`;
}
