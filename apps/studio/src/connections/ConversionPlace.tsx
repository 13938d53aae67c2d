import { DEFAULT_TEMPLATE, type Destination, TEMPLATE_VALUES } from '@ruta/core/conversions';
import { Check, SelectField, TextArea, TextField } from '../ui/Field';
import type { FieldError } from '../ui/fieldError';

const KINDS: Record<Destination['kind'], string> = { skylark: 'Skylark, ads', http: 'Another program, by HTTP' };
const EMPTY: { [Kind in Destination['kind']]: Extract<Destination, { kind: Kind }> } = {
  skylark: { kind: 'skylark', pixelId: '', isInBrowser: true },
  http: { kind: 'http', url: '', template: DEFAULT_TEMPLATE },
};

/** Where a conversion goes, and what lets it in there. */
export function ConversionPlace(props: {
  destination: Destination;
  token: string;
  hasToken: boolean;
  wrong: (...path: string[]) => FieldError;
  onDestination: (destination: Destination) => void;
  onToken: (token: string) => void;
}) {
  const { destination, wrong, onDestination } = props;
  return (
    <>
      <SelectField label="Told to" value={destination.kind} onChange={({ target }) => onDestination(EMPTY[target.value as Destination['kind']])}>
        {Object.entries(KINDS).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </SelectField>
      {destination.kind === 'skylark' ? (
        <TextField
          label="Id of the pixel"
          value={destination.pixelId}
          error={wrong('destination', 'pixelId')}
          onChange={({ target }) => onDestination({ ...destination, pixelId: target.value })}
        />
      ) : (
        <TextField
          label="Address"
          type="url"
          placeholder="https://"
          value={destination.url}
          error={wrong('destination', 'url')}
          onChange={({ target }) => onDestination({ ...destination, url: target.value })}
        />
      )}
      <TextField
        label="Token"
        type="password"
        autoComplete="off"
        hint={
          props.hasToken
            ? 'One is kept, encrypted. Type another to replace it.'
            : destination.kind === 'http'
              ? 'Sent as “Authorization: Bearer”; leave it empty if none is wanted.'
              : 'Kept encrypted and never shown again.'
        }
        value={props.token}
        error={wrong('token')}
        onChange={({ target }) => props.onToken(target.value)}
      />
      {destination.kind === 'skylark' ? (
        <Check
          label="Also by a pixel on your pages"
          hint="Only in browsers that agreed to marketing, where you ask. With the same ids, so that nothing is counted twice."
          checked={destination.isInBrowser}
          onChange={({ target }) => onDestination({ ...destination, isInBrowser: target.checked })}
        />
      ) : (
        <div>
          <TextArea
            label="Body"
            rows={9}
            spellCheck={false}
            className="w-full rounded-md border bg-white px-3 py-2 font-mono text-sm border-[#98a5a1]"
            value={destination.template}
            error={wrong('destination', 'template')}
            onChange={({ target }) => onDestination({ ...destination, template: target.value })}
          />
          <details className="mt-1">
            <summary className="cursor-pointer text-soft">What can stand in it</summary>
            <dl className="mt-1 grid gap-x-4 sm:grid-cols-2">
              {Object.entries(TEMPLATE_VALUES).map(([name, words]) => (
                <div key={name} className="flex gap-2">
                  <dt className="font-mono text-sm">{`{{${name}}}`}</dt>
                  <dd className="text-soft">{words}</dd>
                </div>
              ))}
            </dl>
          </details>
        </div>
      )}
    </>
  );
}
