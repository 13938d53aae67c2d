import type { Graph, GraphOperation } from '@ruta/core/funnel';
import { describe, expect, it } from 'vitest';
import {
  type MapState,
  mapChanged,
  mapDropped,
  mapOpened,
  mapRedone,
  mapSendBegan,
  mapSendFailed,
  mapSent,
  mapSlice,
  mapUndone,
  withWaiting,
} from '../src/funnel/mapSlice';
import { standingOfMap } from '../src/funnel/mapStanding';
import { touchesTheSame } from '../src/funnel/touches';

const step = (id: string, name: string): Graph['steps'][number] => ({ id: `stp_${id}`, kind: 'sales', name, slug: id, sells: [] });
const graph: Graph = { entryId: 'stp_one000', steps: [step('one000', 'One'), step('two000', 'Two')], routes: [] };
const rename = (name: string, id = 'stp_one000'): GraphOperation => ({ kind: 'changeStep', stepId: id, changes: { name } });
const { reducer } = mapSlice;
const opened = () => reducer(undefined, mapOpened({ funnelId: 'fun_1', waiting: [] }));
const now = (state: MapState) => withWaiting(graph, state.waiting);
const change = (state: MapState, operation: GraphOperation, mergeKey: string | null, at: number) =>
  reducer(state, mapChanged({ graph: now(state), change: { operations: [operation], mergeKey }, at }));
const nameNow = (state: MapState) => now(state).steps[0]?.name;

describe('what is done to a map', () => {
  it('shows at once, letters typed into one field wait as one change and are taken back as one', () => {
    let state = opened();
    for (const [index, name] of ['O', 'Or', 'Order'].entries()) state = change(state, rename(name), 'name', index * 100);
    expect(nameNow(state)).toBe('Order');
    expect([state.waiting.length, state.undo.length]).toEqual([1, 1]);
    state = reducer(state, mapUndone(now(state)));
    expect(nameNow(state)).toBe('One');
    state = reducer(state, mapRedone(now(state)));
    expect(nameNow(state)).toBe('Order');
  });

  it('keeps what is done while a change is on its way, and sends it next', () => {
    let state = reducer(change(opened(), rename('First'), 'name', 0), mapSendBegan(1));
    state = change(state, rename('Second'), 'name', 100);
    expect(state.waiting).toHaveLength(2);
    state = reducer(state, mapSent({ count: 1, at: 1 }));
    expect(state.waiting.map(({ operations }) => operations)).toEqual([[rename('Second')]]);
  });

  it('is shown without what fits no more, and goes back to what there is once it is given up', () => {
    const removed: Graph = { ...graph, steps: graph.steps.slice(1), entryId: 'stp_two000' };
    const state = change(opened(), rename('Gone'), null, 0);
    expect(withWaiting(removed, state.waiting)).toEqual(removed);
    expect(reducer(state, mapDropped())).toMatchObject({ waiting: [], undo: [], halt: null });
  });

  it('meets what somebody else did only where both are of the same thing', () => {
    const theirs: Graph = { ...graph, steps: [step('one000', 'Theirs'), step('two000', 'Two')] };
    expect(touchesTheSame([rename('Mine')], graph, theirs)).toBe(true);
    expect(touchesTheSame([rename('Mine', 'stp_two000')], graph, theirs)).toBe(false);
    expect(touchesTheSame([{ kind: 'addStep', step: step('new000', 'New') }], graph, theirs)).toBe(false);
  });

  it('is known as arrived, as one that can follow, or as one to choose of, when the server has another map', () => {
    const waiting = change(opened(), rename('Mine'), null, 0).waiting;
    const arrived: Graph = { ...graph, steps: [step('two000', 'Two'), step('one000', 'Mine')] };
    const elsewhere: Graph = { ...graph, steps: [step('one000', 'One'), step('two000', 'Theirs')] };
    const same: Graph = { ...graph, steps: [step('one000', 'Theirs'), step('two000', 'Two')] };
    const gone: Graph = { ...graph, steps: graph.steps.slice(1), entryId: 'stp_two000' };
    expect([arrived, elsewhere, same, gone].map((theirs) => standingOfMap({ graph, waiting }, theirs))).toEqual([
      'arrived',
      'follows',
      'conflicts',
      'conflicts',
    ]);
  });

  it('stands as it was typed when the server refuses it, and is tried again once more is done', () => {
    let state = reducer(change(opened(), rename('Taken'), 'name', 0), mapSendBegan(1));
    state = reducer(state, mapSendFailed({ problem: 'No.', halt: 'refused' }));
    expect([nameNow(state), state.halt, state.undo.length]).toEqual(['Taken', 'refused', 1]);
    state = change(state, rename('Free'), 'name', 100);
    expect([nameNow(state), state.halt, state.problem, state.waiting.length]).toEqual(['Free', null, null, 1]);
  });
});
