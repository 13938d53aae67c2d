import { type OnMove, useReactFlow, type Viewport } from '@xyflow/react';
import { type RefObject, useEffect, useRef } from 'react';
import { type Layout, STOP_HEIGHT } from './placed';

const FIT = { padding: 0.12, maxZoom: 1.15 };
/** Words on the map are never smaller than this, in pixels of the screen. */
const LEAST_TYPE = 12;
/** Nearer than the first everything is said; from there on steps say two lines, beyond the second their name alone, and beyond the third nothing. */
const [MIDDLE, FAR, TINY] = [0.72, 0.42, 0.3];
/** A map that does not fit at a distance at which its names can be read begins at its first step. */
const BEGINNING = { zoom: 0.5, margin: 48 };

/** How a person last looked at the map of a funnel; of others it is fitted. */
const lookedAt = new Map<string, Viewport>();

/**
 * How near the map is and what of it is seen. It is fitted until a person moves it; then it stays as they have it, also when a
 * sheet opens beside it, when it changes and when they come back.
 */
export function useMapView(funnelId: string, holder: RefObject<HTMLDivElement | null>, layout: Layout | null, hasSheet: boolean) {
  const flow = useReactFlow();
  const isReady = layout !== null;
  const arrived = useRef('');
  const tell = (zoom: number) => {
    holder.current?.style.setProperty('--least-type', `${LEAST_TYPE / zoom}px`);
    holder.current?.toggleAttribute('data-middle', zoom < MIDDLE);
    holder.current?.toggleAttribute('data-far', zoom < FAR);
    holder.current?.toggleAttribute('data-tiny', zoom < TINY);
  };
  async function fitOrBegin(): Promise<void> {
    await flow.fitView(FIT);
    const [first] = Object.values(layout?.positions ?? {}).toSorted((one, other) => one.x - other.x);
    if (!first || flow.getZoom() >= FAR) return;
    const { zoom, margin } = BEGINNING;
    const height = holder.current?.clientHeight ?? 0;
    await flow.setViewport({ x: margin - first.x * zoom, y: height / 2 - (first.y + STOP_HEIGHT / 2) * zoom, zoom });
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: fitted anew when the map or its room changes
  useEffect(() => {
    if (!isReady) return;
    const frame = requestAnimationFrame(() => {
      const known = lookedAt.get(funnelId);
      if (!known) void fitOrBegin().then(() => tell(flow.getZoom()));
      else if (arrived.current !== funnelId) void flow.setViewport(known).then(() => tell(flow.getZoom()));
      arrived.current = funnelId;
    });
    return () => cancelAnimationFrame(frame);
  }, [layout, hasSheet, isReady, funnelId]);
  const onMove: OnMove = (event, viewport) => {
    tell(viewport.zoom);
    // Moved by hand, and not by being fitted.
    if (event) lookedAt.set(funnelId, viewport);
  };
  return {
    onMove,
    /** What was zoomed by a button is kept as well. */
    keep: () => void lookedAt.set(funnelId, flow.getViewport()),
    fit() {
      lookedAt.delete(funnelId);
      void flow.fitView(FIT);
    },
  };
}
