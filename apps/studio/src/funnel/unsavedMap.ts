import type { Graph } from '@ruta/core/funnel';
import { type Kept, unsavedStore } from '../base/unsavedStore';
import type { WaitingChange } from './mapSlice';

interface UnsavedMapDraft {
  funnelId: string;
  /** The funnel's name, to speak of it by. */
  name: string;
  /** The server's revision that the changes were made on, and its map then. */
  revision: number;
  graph: Graph;
  waiting: WaitingChange[];
}

/** Changes of a map that the server does not have yet. */
export type UnsavedMap = UnsavedMapDraft & Kept;

/** The maps that the server does not have as they were changed here; one entry for each funnel. */
export const unsavedMaps = unsavedStore<UnsavedMapDraft>('ruta.map.', ({ funnelId }) => funnelId);

/** Everything that waits, in its order, as the server takes it. */
export const bodyOf = (revision: number, waiting: readonly WaitingChange[]) => ({
  revision,
  operations: waiting.flatMap(({ operations }) => operations),
  copies: Object.assign({}, ...waiting.map(({ copies }) => copies)) as Record<string, string>,
});
