import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { problemOf } from '../base/api';
import { funnelApi } from '../funnel/api';
import { planTestApi } from '../funnel/planTestApi';
import { useRows } from '../lists/useRows';
import { Button } from '../ui/Button';
import { FormProblem, SelectField, TextField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Waiting } from '../ui/Page';

/** Begins a test: where, and what it is about. What differs is made afterwards, on the page, the offer or the map itself. */
export function NewTestDialog({ onClose }: { onClose: () => void }) {
  const query = funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' });
  const { rows } = useRows(query);
  const [plan, { error, isLoading }] = planTestApi.usePlanTestMutation();
  const navigate = useNavigate();
  const [funnelId, setFunnelId] = useState('');
  const [stepId, setStepId] = useState('');
  const [name, setName] = useState('');
  const [missing, setMissing] = useState(false);
  const live = rows?.filter((row) => row.live) ?? [];
  const funnel = live.find((row) => row.id === funnelId) ?? live[0];
  const stop = funnel?.stops.find((candidate) => candidate.id === stepId) ?? funnel?.stops[0];
  const send = async () => {
    if (!funnel || !stop) return;
    if (name.trim() === '') return setMissing(true);
    const made = await plan({ funnelId: funnel.id, stepId: stop.id, name })
      .unwrap()
      .catch(() => null);
    if (made) void navigate(`/experiments/${made.id}`);
  };
  const content: ReactNode = !rows ? (
    <Waiting error={query.error} retry={query.refetch} />
  ) : !funnel || !stop ? (
    <p>No funnel is live yet. Publish one first: a test compares what visitors see.</p>
  ) : (
    <form
      noValidate
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <div className="grid sm:grid-cols-2 gap-4">
        <SelectField label="Funnel" value={funnel.id} onChange={(event) => setFunnelId(event.target.value)}>
          {live.map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </SelectField>
        <SelectField label="At the stop" hint="Where visitors first meet what differs." value={stop.id} onChange={(event) => setStepId(event.target.value)}>
          {funnel.stops.map((each) => (
            <option key={each.id} value={each.id}>
              {each.name}
            </option>
          ))}
        </SelectField>
      </div>
      <TextField
        label="What is tried"
        hint="A headline, a price, a bump, another way through. One thing at a time."
        value={name}
        maxLength={80}
        autoFocus
        error={missing && name.trim() === '' ? 'Give the test a name.' : undefined}
        onChange={(event) => setName(event.target.value)}
      />
      <FormProblem>{error ? problemOf(error).title : null}</FormProblem>
      <div>
        <Button look="main" type="submit" disabled={isLoading}>
          Plan this test
        </Button>
      </div>
    </form>
  );
  return (
    <Modal open onClose={onClose} unsaved={name.trim() !== ''} title="Plan a test" description="Visitors see nothing of it before you start it.">
      {content}
    </Modal>
  );
}
