import type { FunnelDetail } from '@ruta/core/checks';
import type { Graph, MapEdit } from '@ruta/core/funnel';
import { useCallback, useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { currentToken } from '../base/api';
import { type RootState, useAppDispatch } from '../base/store';
import { type MapState, mapChanged, mapClosed, mapOpened, mapRedone, mapStateOf, mapUndone, useMapState } from './mapSlice';
import { standingOfMap } from './mapStanding';
import { sendMap } from './sendMaps';
import { bodyOf, unsavedMaps } from './unsavedMap';

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

/** Ctrl Z and Ctrl Shift Z take back and do again; in a field they belong to what is typed there, as everywhere. */
export function useUndoKeys({ undo, redo }: Pick<MapHand, 'undo' | 'redo'>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as Element | null;
      if (!(event.metaKey || event.ctrlKey) || event.key.toLowerCase() !== 'z' || target?.closest?.('input, textarea, [role=dialog]')) return;
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
 * about. What is not sent when the map is left, whichever way, is set aside in the browser and sent from there.
 */
export function useMapSaving(funnel: FunnelDetail | undefined): void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { funnelId, waiting, sending, problem, halt } = useMapState();
  const id = funnel?.id;
  const latest = useRef(funnel);
  useEffect(() => {
    if (funnel) latest.current = funnel;
  }, [funnel]);

  useEffect(() => {
    const opened = latest.current;
    if (!id || opened?.id !== id) return;
    dispatch(mapOpened({ funnelId: id, ...takeUp(opened) }));
    return () => {
      // Left for another screen or funnel before it was sent: it is sent now.
      const left = latest.current?.id === id ? latest.current : opened;
      keepOpen(left, mapStateOf(store.getState()));
      dispatch(mapClosed());
      void sendMap(dispatch, store.getState, id);
    };
  }, [id, dispatch, store]);
  useEffect(() => {
    if (funnel && funnel.id === funnelId) keepOpen(funnel, { waiting, halt, problem });
  }, [funnel, funnelId, waiting, halt, problem]);
  useEffect(() => {
    if (!funnelId || waiting.length === 0 || sending > 0 || halt) return;
    const timer = setTimeout(() => void sendMap(dispatch, store.getState, funnelId), problem ? RETRY_MS : QUIET_MS);
    return () => clearTimeout(timer);
  }, [funnelId, waiting, sending, problem, halt, dispatch, store]);
  useEffect(() => {
    const onLeave = () => {
      const state = mapStateOf(store.getState());
      if (!funnel || funnel.id !== state.funnelId) return;
      keepOpen(funnel, state);
      const entry = unsavedMaps.own(funnel.id);
      if (!entry || entry.problem || state.sending > 0) return;
      // The window is closing: a request that outlives it carries what waits.
      void fetch(`/api/funnels/${funnel.id}/map`, {
        method: 'POST',
        keepalive: true,
        headers: { 'content-type': 'application/json', 'x-csrf-token': currentToken() ?? '' },
        body: JSON.stringify(bodyOf(entry.revision, entry.waiting)),
      }).catch(() => {
        // It stands in the browser's storage and is sent when the studio is opened again.
      });
    };
    addEventListener('pagehide', onLeave);
    return () => removeEventListener('pagehide', onLeave);
  }, [funnel, store]);
}

/** Keeps what waits of the open map; what it was made on stays the same until something of it is sent. */
function keepOpen(funnel: FunnelDetail, { waiting, halt, problem }: Pick<MapState, 'waiting' | 'halt' | 'problem'>): void {
  if (waiting.length === 0) {
    unsavedMaps.forget(funnel.id);
    return;
  }
  const { revision, graph } = unsavedMaps.own(funnel.id) ?? funnel;
  unsavedMaps.keep({ funnelId: funnel.id, name: funnel.name, revision, graph, waiting: [...waiting], problem: halt ? problem : null });
}

/** What was set aside of a map that is opened again: this window's own from now on. */
function takeUp(funnel: FunnelDetail): Pick<MapState, 'waiting' | 'halt' | 'problem'> {
  const kept = unsavedMaps.find(funnel.id);
  const nothing = { waiting: [], halt: null, problem: null };
  if (!kept) return nothing;
  unsavedMaps.forget(kept.funnelId, kept.windowId);
  if (kept.revision === funnel.revision) {
    unsavedMaps.keep(kept);
    return { waiting: kept.waiting, halt: kept.problem ? 'refused' : null, problem: kept.problem };
  }
  const standing = standingOfMap(kept, funnel.graph);
  if (standing === 'arrived') return nothing;
  const { revision, graph } = standing === 'follows' ? funnel : kept;
  unsavedMaps.keep({ ...kept, revision, graph });
  if (standing === 'follows') return { waiting: kept.waiting, halt: null, problem: null };
  return { waiting: kept.waiting, halt: 'conflict', problem: 'Somebody else has changed the same thing meanwhile.' };
}
