import type { FunnelDetail } from '@ruta/core/checks';
import { useAppDispatch } from '../base/store';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { mapDropped, mapSendFailed, useMapState } from './mapSlice';
import { unsavedMaps } from './unsavedMap';

/**
 * What was done to a map cannot be saved as it is: two people changed the same thing, and one of the two is chosen; or
 * the server refuses it, and it stands here until it is put right, tried again or dropped.
 */
export function MapHalt({ funnel }: { funnel: FunnelDetail }) {
  const dispatch = useAppDispatch();
  const { halt, problem, waiting } = useMapState();
  if (!halt) return null;
  const shownHere = `Your ${waiting.length === 1 ? 'change is' : 'changes are'} shown here and not saved.`;
  const drop = () => {
    dispatch(mapDropped());
    unsavedMaps.forget(funnel.id);
  };
  const send = () => {
    const kept = unsavedMaps.own(funnel.id);
    // Decided by a person: it stands on what there is now.
    if (kept) unsavedMaps.keep({ ...kept, problem: null, revision: funnel.revision, graph: funnel.graph });
    dispatch(mapSendFailed({ problem: null, halt: null }));
  };
  return (
    <Notice
      tone="care"
      isBar
      role="alert"
      actions={
        <>
          <Button onClick={send}>{halt === 'conflict' ? 'Use mine' : 'Try again'}</Button>
          <Button look={halt === 'conflict' ? 'main' : 'quiet'} onClick={drop}>
            {halt === 'conflict' ? 'Keep theirs' : 'Drop these changes'}
          </Button>
        </>
      }
    >
      <strong>{halt === 'conflict' ? `Somebody else has changed the same thing of “${funnel.name}” meanwhile.` : problem}</strong> {shownHere}
      {halt === 'refused' ? ' Change it, or take it back.' : null}
    </Notice>
  );
}
