import type { Graph } from '@ruta/core/funnel';
import { useEffect, useRef, useState } from 'react';
import { layOut } from './layout';
import type { Layout } from './placed';
import { adapted, layOutSimply } from './simpleLayout';

/** So long nothing is shown but that it is being laid out; then the steps stand there band by band meanwhile. */
const PATIENCE_MS = 2000;
/** So many layouts are kept, so that a map that is opened again is there at once. */
const KEPT = 12;
const kept = new Map<string, Layout>();

function keep(shape: string, layout: Layout): void {
  kept.delete(shape);
  kept.set(shape, layout);
  const [oldest] = kept.keys();
  if (kept.size > KEPT && oldest !== undefined) kept.delete(oldest);
}

export interface LaidOut {
  layout: Layout | null;
  /** It is being laid out anew: what is shown until then has been placed in haste. */
  isAtWork: boolean;
  /** The careful layout failed, so the simple one stays. */
  hasFailed: boolean;
}

/**
 * The layout of a map, made in a worker. The last one of the same shape is there at once; a map that has changed keeps its
 * places and gets the new ones beside them until it is laid out anew.
 * @param shape stands for everything that moves something
 * @param plates the words on each line, by the route's id
 */
export function useLayout(shape: string, graph: Graph, plates: () => Record<string, string>): LaidOut {
  const [state, setState] = useState<LaidOut>(() => ({ layout: kept.get(shape) ?? null, isAtWork: !kept.has(shape), hasFailed: false }));
  const latest = useRef({ graph, plates });
  latest.current = { graph, plates };
  useEffect(() => {
    const known = kept.get(shape);
    if (known) {
      setState({ layout: known, isAtWork: false, hasFailed: false });
      return;
    }
    let isCurrent = true;
    const { graph: drawn, plates: wordsOf } = latest.current;
    setState(({ layout }) => ({ layout: layout && adapted(layout, drawn), isAtWork: true, hasFailed: false }));
    const simply = () => setState((now) => ({ ...now, layout: now.layout ?? layOutSimply(drawn) }));
    const patience = setTimeout(simply, PATIENCE_MS);
    layOut(drawn, wordsOf())
      .then((layout) => {
        if (!isCurrent) return;
        keep(shape, layout);
        setState({ layout, isAtWork: false, hasFailed: false });
      })
      .catch((error: Error) => {
        if (!isCurrent) return;
        console.error(error);
        setState((now) => ({ layout: now.layout ?? layOutSimply(drawn), isAtWork: false, hasFailed: true }));
      })
      .finally(() => clearTimeout(patience));
    return () => {
      isCurrent = false;
      clearTimeout(patience);
    };
  }, [shape]);
  return state;
}
