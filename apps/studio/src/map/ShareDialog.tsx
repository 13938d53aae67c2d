import type { FunnelDetail } from '@ruta/core/checks';
import { chainFrom, chainStarts, type FunnelRow, type MapEdit, shareOn } from '@ruta/core/funnel';
import { useState } from 'react';
import { newId } from '../base/newId';
import { funnelApi } from '../funnel/api';
import { StopMark } from '../funnel/StopMark';
import { useRows } from '../lists/useRows';
import { Button } from '../ui/Button';
import { SelectField } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { Waiting } from '../ui/Page';

interface DialogProps {
  funnel: FunnelDetail;
  routeId: string;
  onClose: () => void;
  onShare: (edit: MapEdit, stepId: string) => void;
}

/** Chooses the offers of another funnel to put on a route: changed there once, shown here too. */
export function ShareDialog(props: DialogProps) {
  const { funnel, onClose } = props;
  const query = funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' });
  const { rows } = useRows(query);
  const others = rows?.filter((row) => row.id !== funnel.id && row.stops.some((stop) => stop.kind === 'offer'));
  return (
    <Modal
      open
      onClose={onClose}
      title="Offers of another funnel"
      description="They stand here as they do there: changed once, shown in both."
      returnsFocus={false}
    >
      {!others ? (
        <Waiting error={query.error} retry={query.refetch} />
      ) : others.length === 0 ? (
        <p>No other funnel has an offer after its payment yet.</p>
      ) : (
        <Choice {...props} rows={others} />
      )}
    </Modal>
  );
}

function Choice({ funnel, routeId, rows, onShare }: DialogProps & { rows: FunnelRow[] }) {
  const [funnelId, setFunnelId] = useState(rows[0]?.id ?? '');
  const { data: graph, error, refetch } = funnelApi.useOffersToShareQuery(funnelId);
  const [startId, setStartId] = useState('');
  // What a funnel only shares itself is shared from where it is changed.
  const starts = (graph ? chainStarts(graph) : []).filter((step) => !step.sharedFrom);
  const start = starts.find((step) => step.id === startId) ?? starts[0];
  const chain = graph && start ? chainFrom(graph, [start.id]) : [];
  const isHere = chain.some((step) => funnel.graph.steps.some((each) => each.sharedFrom?.stepId === step.id));
  const put = () => {
    if (!graph || !start) return;
    const edit = shareOn(funnel.graph, routeId, { funnelId, graph }, start.id, newId);
    const first = edit.operations.find((operation) => operation.kind === 'addStep');
    if (first) onShare(edit, first.step.id);
  };
  return (
    <div className="grid gap-4 justify-items-start">
      <SelectField label="From the funnel" value={funnelId} onChange={(event) => setFunnelId(event.target.value)}>
        {rows.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      {graph ? null : <Waiting error={error} retry={refetch} />}
      {starts.length > 1 ? (
        <SelectField label="Beginning with" value={start?.id ?? ''} onChange={(event) => setStartId(event.target.value)}>
          {starts.map((step) => (
            <option key={step.id} value={step.id}>
              {step.name}
            </option>
          ))}
        </SelectField>
      ) : null}
      {graph && !start ? <p>What it offers is shared from another funnel itself. Choose that one.</p> : null}
      {chain.length > 0 ? (
        <div>
          <p className="font-semibold">This puts here:</p>
          <ul className="grid gap-1 mt-1">
            {chain.map((step) => (
              <li key={step.id} className="flex items-center gap-2">
                <StopMark kind={step.kind} current={false} size={18} /> {step.name}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {isHere ? <p role="status">They stand on this map already. Offers are shared once in a funnel.</p> : null}
      <Button look="main" disabled={!graph || !start || isHere} onClick={put}>
        Share these offers
      </Button>
    </div>
  );
}
