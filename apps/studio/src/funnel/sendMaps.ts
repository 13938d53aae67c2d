import type { FunnelDetail } from '@ruta/core/checks';
import { problemOf } from '../base/api';
import type { RootState, store as studio } from '../base/store';
import { funnelApi } from './api';
import { type MapState, mapSendBegan, mapSendFailed, mapSent, mapStateOf } from './mapSlice';
import { standingOfMap } from './mapStanding';
import { bodyOf, type UnsavedMap, unsavedMaps } from './unsavedMap';

type Dispatch = typeof studio.dispatch;
type GetState = () => RootState;

/** What is on its way of each map: one request at a time, since each makes the revision that the next one builds on. */
const lines = new Map<string, Promise<unknown>>();

/** Sends what is kept of a map, after whatever of it is still on its way. What stands in the way is told where it waits. */
export function sendMap(dispatch: Dispatch, state: GetState, funnelId: string): Promise<void> {
  const before = lines.get(funnelId) ?? Promise.resolve();
  const sent = before.catch(() => undefined).then(() => sendNow(dispatch, state, funnelId));
  lines.set(funnelId, sent);
  return sent;
}

/**
 * Sends every map that was left with changes the server does not have, except one that is open: that one sends itself.
 * @returns whether something is left that can be tried again
 */
export async function sendLeftMaps(dispatch: Dispatch, state: GetState): Promise<boolean> {
  const left = () => unsavedMaps.all().filter((entry) => entry.problem === null && entry.funnelId !== mapStateOf(state()).funnelId);
  for (const { funnelId } of left()) await sendMap(dispatch, state, funnelId);
  return left().length > 0;
}

const isOpen = (state: GetState, funnelId: string) => mapStateOf(state()).funnelId === funnelId;
/** What is to be sent of a map: what this window has done to the one that is open, else whatever was left of it. */
const keptOf = (state: GetState, funnelId: string) => (isOpen(state, funnelId) ? unsavedMaps.own(funnelId) : unsavedMaps.find(funnelId));

async function sendNow(dispatch: Dispatch, state: GetState, funnelId: string): Promise<void> {
  const entry = keptOf(state, funnelId);
  if (!entry || entry.problem !== null) return;
  const count = entry.waiting.length;
  if (isOpen(state, funnelId)) dispatch(mapSendBegan(count));
  try {
    const saved = await dispatch(funnelApi.endpoints.changeMap.initiate({ id: funnelId, ...bodyOf(entry.revision, entry.waiting) }, { track: false })).unwrap();
    // Both at once, so that nothing is shown twice or not at all between them.
    dispatch(funnelApi.util.updateQueryData('funnel', funnelId, () => saved));
    settle(dispatch, state, entry, count, saved);
  } catch (error) {
    const refused = problemOf(error);
    const words = refused.errors[0]?.message ?? refused.title;
    if (refused.status === 409) await meet(dispatch, state, entry, words);
    else if (refused.status === 422 || refused.status === 400 || refused.status === 404) halt(dispatch, state, entry, { problem: words, halt: 'refused' });
    else later(dispatch, state, funnelId, refused.title);
  }
}

/** The server has the first so many of what waits; the rest was made on what it has now. */
function settle(dispatch: Dispatch, state: GetState, entry: UnsavedMap, count: number, { revision, graph }: Pick<FunnelDetail, 'revision' | 'graph'>): void {
  const { funnelId, windowId } = entry;
  const rest = (keptOf(state, funnelId)?.waiting ?? []).slice(count);
  if (isOpen(state, funnelId)) dispatch(mapSent({ count, at: Date.now() }));
  unsavedMaps.forget(funnelId, windowId);
  if (rest.length > 0) unsavedMaps.keep({ ...entry, problem: null, revision, graph, waiting: rest });
}

/** Keeps what waits for a person to decide: nothing more is tried by itself. */
function halt(dispatch: Dispatch, state: GetState, entry: UnsavedMap, told: Pick<MapState, 'halt'> & { problem: string }): void {
  if (isOpen(state, entry.funnelId)) dispatch(mapSendFailed(told));
  // What was done while it was on its way is kept too.
  const kept = keptOf(state, entry.funnelId) ?? entry;
  unsavedMaps.forget(entry.funnelId, entry.windowId);
  unsavedMaps.keep({ ...kept, problem: told.problem });
}

function later(dispatch: Dispatch, state: GetState, funnelId: string, why: string): void {
  if (isOpen(state, funnelId)) dispatch(mapSendFailed({ problem: `Not saved: ${why}`, halt: null }));
}

/** The server has another map: our own change arrived unseen, follows what somebody else did, or meets it. */
async function meet(dispatch: Dispatch, state: GetState, entry: UnsavedMap, words: string): Promise<void> {
  const { funnelId } = entry;
  const theirs = await dispatch(funnelApi.endpoints.funnel.initiate(funnelId, { forceRefetch: true, subscribe: false }))
    .unwrap()
    .catch(() => null);
  if (!theirs) return later(dispatch, state, funnelId, 'The server cannot be reached.');
  // An address that is taken is no meeting of two people.
  if (theirs.revision === entry.revision) return halt(dispatch, state, entry, { problem: words, halt: 'refused' });
  const standing = standingOfMap(entry, theirs.graph);
  if (standing === 'arrived') return settle(dispatch, state, entry, entry.waiting.length, theirs);
  if (standing === 'conflicts') return halt(dispatch, state, entry, { problem: 'Somebody else has changed the same thing meanwhile.', halt: 'conflict' });
  unsavedMaps.forget(funnelId, entry.windowId);
  unsavedMaps.keep({ ...(keptOf(state, funnelId) ?? entry), problem: null, revision: theirs.revision, graph: theirs.graph });
  return sendNow(dispatch, state, funnelId);
}
