import { SHARE_WAYS, type ShareWay } from '@ruta/core/elements';
import { stopsOf, useWorkspace } from '../../funnel/useFunnel';
import { Check, SelectField, TextArea } from '../../ui/Field';
import type { SheetProps } from './sheet';

export function ShareSheet({ element, change }: SheetProps<'share'>) {
  const { funnel } = useWorkspace();
  return (
    <>
      <SelectField label="What is passed on" value={element.stepId ?? ''} onChange={(event) => change({ stepId: event.target.value || null })}>
        <option value="">This page</option>
        {stopsOf(funnel).map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </SelectField>
      <TextArea
        label="Words beside the address"
        rows={3}
        maxLength={300}
        value={element.message}
        onChange={(event) => change({ message: event.target.value })}
      />
      <fieldset className="grid gap-1">
        <legend className="font-semibold mb-1">Ways</legend>
        {(Object.entries(SHARE_WAYS) as Array<[ShareWay, string]>).map(([way, name]) => (
          <Check
            key={way}
            label={name}
            checked={element.ways.includes(way)}
            disabled={element.ways.length === 1 && element.ways.includes(way)}
            onChange={(event) => change({ ways: event.target.checked ? [...element.ways, way] : element.ways.filter((other) => other !== way) })}
          />
        ))}
      </fieldset>
    </>
  );
}
