import { SHARE_WAYS, type ShareWay } from '@ruta/core/elements';
import { publicSteps, sharedStep } from '@ruta/core/funnel';
import { useWorkspace } from '../../funnel/useFunnel';
import { Check, SelectField, TextArea } from '../../ui/Field';
import type { SheetProps } from './sheet';

export function ShareSheet({ element, change }: SheetProps<'share'>) {
  const { funnel } = useWorkspace();
  const steps = publicSteps(funnel.graph);
  const first = sharedStep(funnel.graph, null);
  const chosen = steps.some(({ id }) => id === element.stepId) ? (element.stepId ?? '') : '';
  return (
    <>
      <SelectField
        label="What to share"
        hint="Thank-you pages and offers belong to one order, so they cannot be shared."
        value={chosen}
        onChange={(event) => change({ stepId: event.target.value || null })}
      >
        <option value="">First page of the funnel{first ? `: ${first.name}` : ''}</option>
        {steps.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </SelectField>
      <TextArea label="Message" rows={3} maxLength={300} value={element.message} onChange={(event) => change({ message: event.target.value })} />
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
