import type { FunnelDetail } from '@ruta/core/checks';
import { useAppDispatch } from '../base/store';
import { Button } from '../ui/Button';
import { mapDropped, mapSendFailed, useMapState } from './mapSlice';

/** The same thing of a map was changed by two people: one of the two is chosen, and nothing is overwritten unseen. */
export function MapConflict({ funnel }: { funnel: FunnelDetail }) {
  const dispatch = useAppDispatch();
  const { conflict, waiting } = useMapState();
  if (!conflict) return null;
  return (
    <aside role="alert" className="flex flex-wrap items-center gap-3 px-5 py-2.5 bg-way-tint border-b border-line">
      <span className="mr-auto">
        <strong>Somebody else has changed the same thing of “{funnel.name}” meanwhile.</strong> Your {waiting.length === 1 ? 'change is' : 'changes are'} shown
        here and not saved.
      </span>
      <Button onClick={() => dispatch(mapSendFailed({ problem: 'Saving yours.', conflict: false }))}>Use mine</Button>
      <Button look="main" onClick={() => dispatch(mapDropped())}>
        Keep theirs
      </Button>
    </aside>
  );
}
