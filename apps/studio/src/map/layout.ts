import { BANDS, bandOf, type Graph, stopsInOrder } from '@ruta/core/funnel';
import ELK, { type ElkExtendedEdge } from 'elkjs/lib/elk-api.js';
import workerUrl from 'elkjs/lib/elk-worker.min.js?url';

export const STOP_WIDTH = 176;
export const STOP_HEIGHT = 192;
const GAP_ACROSS = 28;
const GAP_DOWN = 56;
const PLATE_HEIGHT = 26;
/** About the width of a letter on a plate. */
const LETTER = 6.7;
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

let elk: InstanceType<typeof ELK> | null = null;

/**
 * Places the stops in bands from left to right and leads the lines around them with as few crossings as it finds; people
 * never move boxes. Runs in a worker.
 * @param plates the words on each line, by the route's id, so that there is room for them
 */
export async function layOut(graph: Graph, plates: Record<string, string>): Promise<Layout> {
  elk ??= new ELK({ workerUrl });
  const order = stopsInOrder(graph);
  const placed = await elk.layout({
    id: 'map',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.partitioning.activate': 'true',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': String(GAP_ACROSS),
      'elk.layered.spacing.edgeNodeBetweenLayers': '26',
      'elk.layered.spacing.edgeEdgeBetweenLayers': '18',
      'elk.spacing.nodeNode': String(GAP_DOWN),
      'elk.spacing.edgeNode': '26',
      'elk.spacing.edgeEdge': '20',
      'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
      'elk.layered.crossingMinimization.forceNodeModelOrder': 'false',
      'elk.layered.thoroughness': '20',
      'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
      'elk.edgeLabels.placement': 'CENTER',
    },
    children: order.map((step) => ({
      id: step.id,
      width: STOP_WIDTH,
      height: STOP_HEIGHT,
      layoutOptions: { 'elk.partitioning.partition': String(bandOf(graph, step)) },
    })),
    edges: graph.routes.map((route) => {
      const words = plates[route.id] ?? '';
      return {
        id: route.id,
        sources: [route.from],
        targets: [route.to],
        labels: [
          {
            text: words || '+',
            width: Math.max(66, Math.min(words.length, PLATE_LETTERS) * LETTER + 40),
            height: PLATE_HEIGHT,
            layoutOptions: { 'elk.edgeLabels.inline': 'true' },
          },
        ],
      };
    }),
  });
  const positions = Object.fromEntries((placed.children ?? []).map((node) => [node.id, { x: node.x ?? 0, y: node.y ?? 0 }]));
  const bands = BANDS.flatMap((name, band) => {
    const xs = graph.steps.filter((step) => bandOf(graph, step) === band).map((step) => positions[step.id]?.x ?? 0);
    if (xs.length === 0) return [];
    return [{ name, left: Math.min(...xs) - GAP_ACROSS / 2, right: Math.max(...xs) + STOP_WIDTH + GAP_ACROSS / 2 }];
  });
  return { positions, lines: Object.fromEntries((placed.edges ?? []).map((edge) => [edge.id, lineOf(edge)])), bands };
}

function lineOf(edge: ElkExtendedEdge): PlacedLine {
  const [section] = edge.sections ?? [];
  const points = section ? [section.startPoint, ...(section.bendPoints ?? []), section.endPoint] : [];
  const [label] = edge.labels ?? [];
  const half = Math.floor(points.length / 2);
  const middle = points[half] ?? { x: 0, y: 0 };
  const plate = label?.x === undefined || label.y === undefined ? middle : { x: label.x + (label.width ?? 0) / 2, y: label.y + (label.height ?? 0) / 2 };
  return { points, plate };
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
