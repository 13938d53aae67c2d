import { STEP_KINDS, type StepKind } from '@ruta/core/funnel';
import { useState } from 'react';
import { useParams } from 'react-router';
import { useRows } from '../lists/useRows';
import { SelectField, TextField } from '../ui/Field';
import type { FieldError } from '../ui/fieldError';
import { funnelApi } from './api';

interface ChooserProps {
  label: string;
  value: string;
  onChange: (stepId: string) => void;
  /** Only steps of these kinds. */
  kinds?: readonly StepKind[];
  /** What stands for no step at all; without it one has to be chosen. */
  none?: string;
  error?: FieldError;
}

interface Group {
  id: string;
  name: string;
  steps: Array<{ id: string; name: string; kind: StepKind }>;
}

/** Chooses a step: of the funnel that is open, or of any funnel of the shop where none is. */
export function StepChooser(props: ChooserProps) {
  const { funnelId } = useParams();
  return funnelId ? <OfFunnel {...props} funnelId={funnelId} /> : <OfShop {...props} />;
}

function OfFunnel({ funnelId, ...props }: ChooserProps & { funnelId: string }) {
  const { data } = funnelApi.useFunnelQuery(funnelId);
  return <Choice {...props} groups={data ? [{ id: data.id, name: data.name, steps: data.graph.steps }] : []} />;
}

/** Chooses a public step of another funnel. */
export const OtherStepChooser = ({ exceptFunnelId, ...props }: Omit<ChooserProps, 'kinds' | 'none'> & { exceptFunnelId: string }) => (
  <OfShop {...props} kinds={PUBLIC_KINDS} exceptFunnelId={exceptFunnelId} isLive />
);
const PUBLIC_KINDS = STEP_KINDS.filter(({ isPublic }) => isPublic).map(({ kind }): StepKind => kind);

function OfShop({ exceptFunnelId, isLive, ...props }: ChooserProps & { exceptFunnelId?: string; isLive?: boolean }) {
  const [search, setSearch] = useState('');
  const { rows, hasMore } = useRows(funnelApi.useFunnelsInfiniteQuery({ search: search.trim() }));
  return (
    <>
      {hasMore || search ? <TextField label="Find a funnel" type="search" value={search} onChange={(event) => setSearch(event.target.value)} /> : null}
      <Choice
        {...props}
        groups={(rows ?? []).filter(({ id, live }) => id !== exceptFunnelId && (live || !isLive)).map(({ id, name, stops }) => ({ id, name, steps: stops }))}
      />
    </>
  );
}

function Choice({ label, value, onChange, kinds, none, error, groups }: ChooserProps & { groups: Group[] }) {
  const { data: named } = funnelApi.useStepsNamedQuery([value], { skip: value === '' });
  const offered = groups
    .map((group) => ({ ...group, steps: group.steps.filter(({ kind }) => !kinds || kinds.includes(kind)) }))
    .filter(({ steps }) => steps.length > 0);
  const isListed = offered.some(({ steps }) => steps.some(({ id }) => id === value));
  const [known] = named ?? [];
  return (
    <SelectField label={label} value={value} error={error} onChange={(event) => onChange(event.target.value)}>
      <option value="">{none ?? 'Choose a step'}</option>
      {value && !isListed ? <option value={value}>{known ? `${known.name}, ${known.funnelName}` : 'A step that is gone'}</option> : null}
      {offered.map(({ id, name, steps }) => (
        <optgroup key={id} label={name}>
          {steps.map((step) => (
            <option key={step.id} value={step.id}>
              {step.name}
            </option>
          ))}
        </optgroup>
      ))}
    </SelectField>
  );
}
