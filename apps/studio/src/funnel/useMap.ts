import type { FunnelDetail } from '@ruta/core/checks';
import type { Graph, GraphOperation, MapEdit } from '@ruta/core/funnel';
import { useCallback, useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { currentToken, problemOf } from '../base/api';
import { type RootState, useAppDispatch } from '../base/store';
import { funnelApi } from './api';
import { keepChanges, keptChanges } from './keptMap';
import { fitsOn, mapChanged, mapDropped, mapOpened, mapRedone, mapSendBegan, mapSendFailed, mapSent, mapStateOf, mapUndone, useMapState } from './mapSlice';
import { touchesTheSame } from './touches';

const QUIET_MS = 400;
const RETRY_MS = 4000;

export interface MapHand {
  /** Does something to the map; what cannot be done there changes nothing. */
  change: (edit: Pick<MapEdit, 'operations'> & { copies?: Record<string, string> }, mergeKey?: string) => void;
  undo: () => void;
  redo: () => void;
}

/** Changes the map of the funnel that is open. */
export function useMapHand(graph: Graph): MapHand {
  const dispatch = useAppDispatch();
  const change = useCallback<MapHand['change']>(
    ({ operations, copies = {} }, mergeKey) => {
      if (operations.length > 0) dispatch(mapChanged({ graph, change: { operations, copies, mergeKey: mergeKey ?? null }, at: Date.now() }));
    },
    [dispatch, graph],
  );
  const undo = useCallback(() => dispatch(mapUndone(graph)), [dispatch, graph]);
  const redo = useCallback(() => dispatch(mapRedone(graph)), [dispatch, graph]);
  return { change, undo, redo };
}

/** Ctrl Z and Ctrl Shift Z take back and do again, wherever on the screen the focus is. */
export function useUndoKeys({ undo, redo }: Pick<MapHand, 'undo' | 'redo'>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as Element | null;
      if (!(event.metaKey || event.ctrlKey) || event.key.toLowerCase() !== 'z' || target?.closest?.('[role=dialog]')) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [undo, redo]);
}

/**
 * Keeps a funnel's map on the server as it is here: each change is sent a moment after it was made, in its order, and
 * again while the server is away. What another person changed meanwhile is kept; the same thing changed by both is asked
 * about.
 */
export function useMapSaving(funnel: FunnelDetail | undefined): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { funnelId, waiting, sending, problem, conflict } = useMapState();
  const id = funnel?.id;

  useEffect(() => {
    if (id) dispatch(mapOpened({ funnelId: id, waiting: keptChanges(id) }));
  }, [id, dispatch]);
  useEffect(() => {
    if (funnelId) keepChanges(funnelId, waiting);
  }, [funnelId, waiting]);
  useEffect(() => {
    if (!funnel || funnel.id !== funnelId || waiting.length === 0 || sending > 0 || conflict) return;
    const timer = setTimeout(() => void send(dispatch, store.getState, funnel), problem ? RETRY_MS : QUIET_MS);
    return () => clearTimeout(timer);
  }, [funnel, funnelId, waiting, sending, problem, conflict, dispatch, store]);
  const latest = useRef(funnel);
  useEffect(() => {
    if (funnel) latest.current = funnel;
  }, [funnel]);
  useEffect(
    () => () => {
      // Left for another screen or funnel before it was sent: it is sent now.
      const left = latest.current;
      const state = mapStateOf(store.getState());
      if (!left || left.id !== id || left.id !== state.funnelId || state.waiting.length === 0 || state.sending > 0 || state.conflict) return;
      void send(dispatch, store.getState, left);
    },
    [id, dispatch, store],
  );
  useEffect(() => {
    const onLeave = () => {
      const state = mapStateOf(store.getState());
      if (!funnel || state.waiting.length === 0 || state.sending > 0 || state.conflict) return;
      // The window is closing: a request that outlives it carries what waits.
      void fetch(`/api/funnels/${funnel.id}/map`, {
        method: 'POST',
        keepalive: true,
        headers: { 'content-type': 'application/json', 'x-csrf-token': currentToken() ?? '' },
        body: JSON.stringify(bodyOf(funnel.revision, state.waiting)),
      }).catch(() => {
        // It is kept in the window's own storage.
      });
    };
    addEventListener('pagehide', onLeave);
    return () => removeEventListener('pagehide', onLeave);
  }, [funnel, store]);
}

const bodyOf = (revision: number, waiting: ReadonlyArray<{ operations: GraphOperation[]; copies: Record<string, string> }>) => ({
  revision,
  operations: waiting.flatMap(({ operations }) => operations),
  copies: Object.assign({}, ...waiting.map(({ copies }) => copies)) as Record<string, string>,
});

type Dispatch = ReturnType<typeof useAppDispatch>;

async function send(dispatch: Dispatch, state: () => RootState, funnel: FunnelDetail): Promise<void> {
  const { waiting } = mapStateOf(state());
  dispatch(mapSendBegan());
  try {
    const saved = await dispatch(funnelApi.endpoints.changeMap.initiate({ id: funnel.id, ...bodyOf(funnel.revision, waiting) }, { track: false })).unwrap();
    // Both at once, so that nothing is shown twice or not at all between them.
    dispatch(funnelApi.util.updateQueryData('funnel', funnel.id, () => saved));
    // The screen may have been left, or another funnel opened: what was sent waits no longer here either.
    keepChanges(funnel.id, keptChanges(funnel.id).slice(waiting.length));
    if (mapStateOf(state()).funnelId === funnel.id) dispatch(mapSent(Date.now()));
  } catch (error) {
    // What another funnel has waiting is not touched; this one's is kept, and sent when it is opened again.
    if (mapStateOf(state()).funnelId !== funnel.id) return;
    const refused = problemOf(error);
    if (refused.status === 409) return meet(dispatch, state, funnel, refused.errors[0]?.message ?? refused.title);
    if (refused.status === 422 || refused.status === 400) {
      // It can never be saved as it is: the map goes back to what there is, and says why.
      dispatch(mapDropped());
      dispatch(mapSendFailed({ problem: `Taken back: ${refused.errors[0]?.message ?? refused.title}`, conflict: false }));
      return;
    }
    dispatch(mapSendFailed({ problem: `Not saved: ${refused.title}`, conflict: false }));
  }
}

/** Somebody else has changed the map: our own change follows theirs, unless both are of the same thing. */
async function meet(dispatch: Dispatch, state: () => RootState, funnel: FunnelDetail, words: string): Promise<void> {
  const theirs = await dispatch(funnelApi.endpoints.funnel.initiate(funnel.id, { forceRefetch: true, subscribe: false }))
    .unwrap()
    .catch(() => null);
  const { funnelId, waiting } = mapStateOf(state());
  if (funnelId !== funnel.id) return;
  const operations = waiting.flatMap((change) => change.operations);
  if (!theirs) return void dispatch(mapSendFailed({ problem: 'Not saved: the server cannot be reached.', conflict: false }));
  // An address that is taken is no meeting of two people.
  if (theirs.revision === funnel.revision) {
    dispatch(mapDropped());
    return void dispatch(mapSendFailed({ problem: `Taken back: ${words}`, conflict: false }));
  }
  const fits = fitsOn(theirs.graph, waiting) && !touchesTheSame(operations, funnel.graph, theirs.graph);
  dispatch(
    mapSendFailed(
      fits
        ? { problem: 'Somebody else has changed this map too. Saving yours on top of theirs.', conflict: false }
        : { problem: 'Somebody else has changed the same thing meanwhile.', conflict: true },
    ),
  );
}
