import { BaseEdge, type Edge, EdgeLabelRenderer, type EdgeProps } from '@xyflow/react';
import { createContext, useContext } from 'react';
import { AddStop, type AddStopProps } from './AddStop';
import type { LineLook } from './lenses';
import { headOf, type PlacedLine, pathOf } from './placed';

export type RouteData = { look: LineLook; line: PlacedLine };

/** A line under test is a double line. */
const EXPERIMENT_COLOUR = '#6A4BA3';
const GAP = 2;

export const LINE_COLOURS: Record<LineLook['kind'], string> = { yes: '#0B6B4F', no: '#7B8A8D', conditional: '#6A4BA3' };

/** What the plus on a line does; null where the map is only looked at. */
export const InsertContext = createContext<((routeId: string) => AddStopProps | null) | null>(null);

/** A route of the map: yes solid green, no dashed grey, a condition violet with its words on a plate, and a plus to put a stop there. */
export function RouteLine({ id, data }: EdgeProps<Edge<RouteData>>) {
  const insert = useContext(InsertContext);
  if (!data) return null;
  const { look, line } = data;
  const plus = insert?.(id) ?? null;
  const colour = LINE_COLOURS[look.kind];
  return (
    <>
      {look.test ? <BaseEdge path={pathOf(line.points)} style={{ stroke: EXPERIMENT_COLOUR, strokeWidth: look.width + 4 * GAP }} /> : null}
      {look.test ? <BaseEdge path={pathOf(line.points)} style={{ stroke: '#FFFFFF', strokeWidth: look.width + 2 * GAP }} /> : null}
      <BaseEdge path={pathOf(line.points)} style={{ stroke: colour, strokeWidth: look.width, ...(look.kind === 'no' ? { strokeDasharray: '7 6' } : {}) }} />
      <path d={headOf(line.points)} fill={colour} data-arrowhead="" />
      <EdgeLabelRenderer>
        <div
          className="map-words group nodrag nopan absolute z-10 flex items-center gap-1 pointer-events-auto"
          style={{ transform: `translate(-50%, -50%) translate(${line.plate.x}px, ${line.plate.y}px)` }}
        >
          {look.words || look.figure ? (
            <span
              title={look.title}
              className="rounded-md border-[1.5px] bg-white px-2 py-0.5 text-center leading-tight whitespace-nowrap"
              style={{ borderColor: colour, color: colour }}
            >
              {look.figure ? <strong className="figures">{look.figure} </strong> : null}
              <span className="map-caption">{look.words}</span>
            </span>
          ) : null}
          {plus ? <AddStop {...plus} /> : null}
          {plus ? (
            <span className="hidden group-has-[:focus-visible]:inline rounded-md bg-ink px-2 py-0.5 text-white whitespace-nowrap" aria-hidden="true">
              {plus.place}
            </span>
          ) : null}
        </div>
      </EdgeLabelRenderer>
    </>
  );
}
