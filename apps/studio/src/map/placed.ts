import { BANDS, bandOf, type Graph } from '@ruta/core/funnel';

export const STOP_WIDTH = 176;
export const STOP_HEIGHT = 192;
export const GAP_ACROSS = 28;
/** So many letters of a plate are shown. */
export const PLATE_LETTERS = 30;

export interface Point {
  x: number;
  y: number;
}

export interface PlacedBand {
  name: string;
  left: number;
  right: number;
}

/** A line of the map: its corners, and where its plate stands. */
export interface PlacedLine {
  points: Point[];
  plate: Point;
}

export interface Layout {
  positions: Record<string, Point>;
  lines: Record<string, PlacedLine>;
  bands: PlacedBand[];
}

/** From where to where each band reaches, by the steps that stand in it. */
export function bandsOf(graph: Graph, positions: Record<string, Point>): PlacedBand[] {
  return BANDS.flatMap((name, band) => {
    const xs = graph.steps.filter((step) => bandOf(graph, step) === band).map((step) => positions[step.id]?.x ?? 0);
    if (xs.length === 0) return [];
    return [{ name, left: Math.min(...xs) - GAP_ACROSS / 2, right: Math.max(...xs) + STOP_WIDTH + GAP_ACROSS / 2 }];
  });
}

const CORNER = 10;

/** The path of a line with rounded corners, as SVG takes it. */
export function pathOf(points: readonly Point[]): string {
  const [first, ...rest] = points;
  if (!first) return '';
  let path = `M ${first.x} ${first.y}`;
  rest.forEach((point, index) => {
    const before = points[index] as Point;
    const after = rest[index + 1];
    if (!after) {
      path += ` L ${point.x} ${point.y}`;
      return;
    }
    const toward = (from: Point, to: Point, by: number): Point => {
      const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
      const part = Math.min(by, length / 2) / length;
      return { x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part };
    };
    const [enter, leave] = [toward(point, before, CORNER), toward(point, after, CORNER)];
    path += ` L ${enter.x} ${enter.y} Q ${point.x} ${point.y} ${leave.x} ${leave.y}`;
  });
  return path;
}

const HEAD_LENGTH = 11;
const HEAD_HALF = 5.5;

/** The head of an arrow at the end of a line, as SVG takes it: which way the line leads. */
export function headOf(points: readonly Point[]): string {
  const end = points.at(-1);
  const before = points.findLast((point) => end !== undefined && (point.x !== end.x || point.y !== end.y));
  if (!end || !before) return '';
  const length = Math.hypot(end.x - before.x, end.y - before.y);
  const [x, y] = [(end.x - before.x) / length, (end.y - before.y) / length];
  const base = { x: end.x - x * HEAD_LENGTH, y: end.y - y * HEAD_LENGTH };
  return `M ${end.x} ${end.y} L ${base.x - y * HEAD_HALF} ${base.y + x * HEAD_HALF} L ${base.x + y * HEAD_HALF} ${base.y - x * HEAD_HALF} Z`;
}
