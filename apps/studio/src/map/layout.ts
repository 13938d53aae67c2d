import { BANDS, bandOf, type Graph, stopsInOrder } from '@ruta/core/funnel';
import ELK from 'elkjs/lib/elk-api.js';
import workerUrl from 'elkjs/lib/elk-worker.min.js?url';

export const STOP_WIDTH = 176;
export const STOP_HEIGHT = 192;
const GAP_ACROSS = 110;
const GAP_DOWN = 70;

export interface PlacedBand {
  name: string;
  left: number;
  right: number;
}

export interface Layout {
  positions: Record<string, { x: number; y: number }>;
  bands: PlacedBand[];
}

let elk: InstanceType<typeof ELK> | null = null;

/** Places the stops in bands from left to right; people never move boxes. Runs in a worker. */
export async function layOut(graph: Graph): Promise<Layout> {
  elk ??= new ELK({ workerUrl });
  const order = stopsInOrder(graph);
  const placed = await elk.layout({
    id: 'map',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.partitioning.activate': 'true',
      'elk.layered.spacing.nodeNodeBetweenLayers': String(GAP_ACROSS),
      'elk.spacing.nodeNode': String(GAP_DOWN),
      'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
      'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
    },
    children: order.map((step) => ({
      id: step.id,
      width: STOP_WIDTH,
      height: STOP_HEIGHT,
      layoutOptions: { 'elk.partitioning.partition': String(bandOf(graph, step)) },
    })),
    edges: graph.routes.map((route) => ({ id: route.id, sources: [route.from], targets: [route.to] })),
  });
  const positions = Object.fromEntries((placed.children ?? []).map((node) => [node.id, { x: node.x ?? 0, y: node.y ?? 0 }]));
  const bands = BANDS.flatMap((name, band) => {
    const xs = graph.steps.filter((step) => bandOf(graph, step) === band).map((step) => positions[step.id]?.x ?? 0);
    if (xs.length === 0) return [];
    return [{ name, left: Math.min(...xs) - GAP_ACROSS / 2, right: Math.max(...xs) + STOP_WIDTH + GAP_ACROSS / 2 }];
  });
  return { positions, bands };
}
