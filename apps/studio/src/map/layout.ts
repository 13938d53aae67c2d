import { bandOf, type Graph, stopsInOrder } from '@ruta/core/funnel';
import ELK, { type ElkExtendedEdge } from 'elkjs/lib/elk-api.js';
import workerUrl from 'elkjs/lib/elk-worker.min.js?url';
import { bandsOf, GAP_ACROSS, type Layout, PLATE_LETTERS, type PlacedLine, type Point, STOP_HEIGHT, STOP_WIDTH } from './placed';

const GAP_DOWN = 56;
const PLATE_HEIGHT = 26;
/** About the width of a letter on a plate. */
const LETTER = 6.7;

/** With more steps than this, lines are led with less care and their plates get no room of their own. */
export const CAREFUL_UP_TO = 20;
const CAREFUL = { 'elk.layered.thoroughness': '20', 'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX' };
const QUICK = { 'elk.layered.thoroughness': '1', 'elk.layered.nodePlacement.strategy': 'BRANDES_KOEPF' };

let elk: InstanceType<typeof ELK> | null = null;
let isBusy = false;

/**
 * Places the stops in bands from left to right and leads the lines around them with as few crossings as it finds; people
 * never move boxes. Runs in a worker.
 * @param plates the words on each line, by the route's id, so that there is room for them
 */
export async function layOut(graph: Graph, plates: Record<string, string>): Promise<Layout> {
  // What is still being laid out is of no use any more.
  if (isBusy) {
    elk?.terminateWorker();
    elk = null;
  }
  elk ??= new ELK({ workerUrl });
  isBusy = true;
  const isCareful = graph.steps.length <= CAREFUL_UP_TO;
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
      ...(isCareful ? CAREFUL : QUICK),
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
        labels: !isCareful
          ? []
          : [
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
  isBusy = false;
  const positions = Object.fromEntries((placed.children ?? []).map((node) => [node.id, { x: node.x ?? 0, y: node.y ?? 0 }]));
  return { positions, lines: Object.fromEntries((placed.edges ?? []).map((edge) => [edge.id, lineOf(edge)])), bands: bandsOf(graph, positions) };
}

function lineOf(edge: ElkExtendedEdge): PlacedLine {
  const [section] = edge.sections ?? [];
  const points = section ? [section.startPoint, ...(section.bendPoints ?? []), section.endPoint] : [];
  const [label] = edge.labels ?? [];
  const middle = middleOf(points);
  const plate = label?.x === undefined || label.y === undefined ? middle : { x: label.x + (label.width ?? 0) / 2, y: label.y + (label.height ?? 0) / 2 };
  return { points, plate };
}

/** Where a plate without room of its own stands: in the middle of the longest level piece of its line. */
function middleOf(points: readonly Point[]): Point {
  let longest = { length: -1, at: points[0] ?? { x: 0, y: 0 } };
  points.slice(1).forEach((point, index) => {
    const before = points[index] as Point;
    const length = Math.abs(point.x - before.x);
    if (length > longest.length) longest = { length, at: { x: (point.x + before.x) / 2, y: (point.y + before.y) / 2 } };
  });
  return longest.at;
}
