import { createSlice, type PayloadAction, type WithSlice } from '@reduxjs/toolkit';
import { applyToGraph, type Graph, type GraphOperation } from '@ruta/core/funnel';
import { type RootState, rootReducer, useAppSelector } from '../base/store';

/** A change of the map that the server does not have yet. */
export interface WaitingChange {
  operations: GraphOperation[];
  /** New stops whose page is a copy of another’s. */
  copies: Record<string, string>;
  /** Typing in one field is one change, however many letters it was. */
  mergeKey: string | null;
}

interface HistoryEntry {
  operations: GraphOperation[];
  mergeKey: string | null;
  at: number;
}

export interface MapState {
  funnelId: string | null;
  waiting: WaitingChange[];
  /** How many of those that wait are on their way. */
  sending: number;
  undo: HistoryEntry[];
  redo: HistoryEntry[];
  savedAt: number | null;
  problem: string | null;
  /** Nothing is sent until a person decides: somebody else has changed the same, or the server will not have it. */
  halt: 'conflict' | 'refused' | null;
}

const initialState: MapState = { funnelId: null, waiting: [], sending: 0, undo: [], redo: [], savedAt: null, problem: null, halt: null };

const MERGE_MS = 1500;
const MAX_HISTORY = 200;

/** A graph with everything done to it here that the server does not have yet. What fits no more is left out. */
export function withWaiting(graph: Graph, waiting: readonly WaitingChange[]): Graph {
  let current = graph;
  for (const { operations } of waiting) {
    try {
      current = applyToGraph(current, operations).graph;
    } catch {
      // Told when the server refuses it; the map shows what there is.
    }
  }
  return current;
}

/** What was done to a funnel's map and to what its stops sell: shown at once, sent in turn, and taken back in turn. */
export const mapSlice = createSlice({
  name: 'map',
  initialState,
  reducers: {
    mapOpened(state, { payload }: PayloadAction<Pick<MapState, 'funnelId'> & Partial<Pick<MapState, 'waiting' | 'halt' | 'problem'>>>) {
      Object.assign(state, { ...initialState, ...payload });
    },
    mapClosed(state) {
      Object.assign(state, initialState);
    },
    mapChanged(state, { payload }: PayloadAction<{ graph: Graph; change: Omit<WaitingChange, 'copies'> & { copies?: Record<string, string> }; at: number }>) {
      const { graph, change, at } = payload;
      const { inverse } = applyToGraph(graph, change.operations);
      const last = state.undo.at(-1);
      if (last && change.mergeKey !== null && last.mergeKey === change.mergeKey && at - last.at < MERGE_MS) last.at = at;
      else state.undo.push({ operations: inverse, mergeKey: change.mergeKey, at });
      if (state.undo.length > MAX_HISTORY) state.undo.shift();
      state.redo = [];
      queue(state, { copies: {}, ...change });
      tryAgain(state);
    },
    mapUndone(state, { payload: graph }: PayloadAction<Graph>) {
      step(state, graph, state.undo, state.redo);
    },
    mapRedone(state, { payload: graph }: PayloadAction<Graph>) {
      step(state, graph, state.redo, state.undo);
    },
    mapSendBegan(state, { payload: count }: PayloadAction<number>) {
      state.sending = count;
    },
    mapSent(state, { payload: { count, at } }: PayloadAction<{ count: number; at: number }>) {
      state.waiting.splice(0, count);
      Object.assign(state, { sending: 0, savedAt: at, problem: null, halt: null });
    },
    mapSendFailed(state, { payload }: PayloadAction<Pick<MapState, 'problem' | 'halt'>>) {
      Object.assign(state, { sending: 0, ...payload });
    },
    /** Gives up what waits: the map is as the server has it. */
    mapDropped(state) {
      Object.assign(state, { waiting: [], sending: 0, undo: [], redo: [], problem: null, halt: null });
    },
  },
});

/** What was refused may be put right by what was done since. */
function tryAgain(state: MapState): void {
  if (state.halt === 'refused') Object.assign(state, { halt: null, problem: null });
}

/** Lets a change wait; letters typed into one field replace what waits of it. */
function queue(state: MapState, change: WaitingChange): void {
  const last = state.waiting.at(-1);
  const isWaitingStill = state.waiting.length > state.sending;
  if (last && isWaitingStill && change.mergeKey !== null && last.mergeKey === change.mergeKey) last.operations = change.operations;
  else state.waiting.push(change);
}

/** Applies the newest entry of one history and puts its inverse on the other; one that fits no more is passed. */
function step(state: MapState, graph: Graph, from: HistoryEntry[], to: HistoryEntry[]): void {
  const entry = from.pop();
  if (!entry) return;
  try {
    const { inverse } = applyToGraph(graph, entry.operations);
    to.push({ operations: inverse, mergeKey: null, at: entry.at });
    queue(state, { operations: entry.operations, copies: {}, mergeKey: null });
    tryAgain(state);
  } catch {
    state.problem = 'This cannot be taken back any more: the map has changed since.';
  }
}

export const { mapOpened, mapClosed, mapChanged, mapUndone, mapRedone, mapSendBegan, mapSent, mapSendFailed, mapDropped } = mapSlice.actions;

declare module '../base/store' {
  export interface LazySlices extends WithSlice<typeof mapSlice> {}
}
const injected = mapSlice.injectInto(rootReducer);

export const useMapState = () => useAppSelector((state) => injected.selectSlice(state));
/** The same, outside of rendering. */
export const mapStateOf = (state: RootState): MapState => injected.selectSlice(state);
