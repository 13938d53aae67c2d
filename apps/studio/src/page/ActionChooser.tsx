import { type Action, ActionSchema } from '@ruta/core/elements';
import { sectionsIn } from '@ruta/core/page';
import { useState } from 'react';
import { stopsOf, useWorkspace } from '../funnel/useFunnel';
import { SelectField, TextField } from '../ui/Field';
import { useEditor } from './editorSlice';

/** An action as the list of choices names it. */
function keyOf(action: Action): string {
  if (action.kind === 'step') return action.stepId;
  if (action.kind === 'section') return action.sectionId;
  if (action.kind === 'pop-up') return action.popUpId;
  return action.kind === 'scroll' ? action.target : action.kind;
}

/** Where a button leads. An address is kept only once it is one. */
export function ActionChooser({ action, onChange }: { action: Action; onChange: (action: Action) => void }) {
  const { funnel } = useWorkspace();
  const [kind, setKind] = useState<string>(keyOf(action));
  const { page } = useEditor();
  const [url, setUrl] = useState(action.kind === 'address' ? action.url : '');
  const typed = ActionSchema.safeParse({ kind: 'address', url });
  return (
    <>
      <SelectField
        label="Leads to"
        value={kind}
        onChange={(event) => {
          const choice = event.target.value;
          setKind(choice);
          if (choice === 'next') onChange({ kind: 'next' });
          else if (choice === 'form' || choice === 'order-form') onChange({ kind: 'scroll', target: choice });
          else if (choice.startsWith('sec_')) onChange({ kind: 'section', sectionId: choice });
          else if (choice.startsWith('pop_')) onChange({ kind: 'pop-up', popUpId: choice });
          else if (choice === 'address') {
            if (typed.success) onChange(typed.data);
          } else onChange({ kind: 'step', stepId: choice });
        }}
      >
        <option value="next">The next stop</option>
        <optgroup label="A stop of this funnel">
          {stopsOf(funnel).map((stop) => (
            <option key={stop.id} value={stop.id}>
              {stop.name}
            </option>
          ))}
        </optgroup>
        <optgroup label="On this page">
          <option value="form">The form</option>
          <option value="order-form">The order form</option>
          {page
            ? sectionsIn(page, null).map(({ id, name }) => (
                <option key={id} value={id}>
                  Section: {name}
                </option>
              ))
            : null}
        </optgroup>
        {page?.popUps?.length ? (
          <optgroup label="Opens">
            {page.popUps.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </optgroup>
        ) : null}
        <option value="address">An address</option>
      </SelectField>
      {kind === 'address' ? (
        <TextField
          label="Address"
          type="url"
          placeholder="https://"
          value={url}
          error={url !== '' && !typed.success ? typed.error.issues[0]?.message : undefined}
          onChange={(event) => {
            setUrl(event.target.value);
            const next = ActionSchema.safeParse({ kind: 'address', url: event.target.value });
            if (next.success) onChange(next.data);
          }}
        />
      ) : null}
    </>
  );
}
