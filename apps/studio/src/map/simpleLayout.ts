import { BANDS, bandOf, type Graph, stopsInOrder } from '@ruta/core/funnel';
import { bandsOf, type Layout, type PlacedLine, type Point, STOP_HEIGHT, STOP_WIDTH } from './placed';

/** So many steps of a band stand in one row. */
const IN_A_ROW = 8;
const ACROSS = STOP_WIDTH + 90;
const DOWN = STOP_HEIGHT + 70;
const PORT = 88;

/** A line from the right of one place to the left of another, with a corner between; backwards it goes below both. */
function lineBetween(from: Point, to: Point): PlacedLine {
  const start = { x: from.x + STOP_WIDTH, y: from.y + PORT };
  const end = { x: to.x, y: to.y + PORT };
  if (end.x > start.x) {
    const middle = (start.x + end.x) / 2;
    const points = start.y === end.y ? [start, end] : [start, { x: middle, y: start.y }, { x: middle, y: end.y }, end];
    return { points, plate: { x: middle, y: (start.y + end.y) / 2 } };
  }
  const below = Math.max(from.y, to.y) + STOP_HEIGHT + 28;
  const points = [start, { x: start.x + 24, y: start.y }, { x: start.x + 24, y: below }, { x: end.x - 24, y: below }, { x: end.x - 24, y: end.y }, end];
  return { points, plate: { x: (start.x + end.x) / 2, y: below } };
}

const linesOf = (graph: Graph, positions: Record<string, Point>): Record<string, PlacedLine> =>
  Object.fromEntries(
    graph.routes.flatMap(({ id, from, to }) => {
      const [start, end] = [positions[from], positions[to]];
      return start && end ? [[id, lineBetween(start, end)] as const] : [];
    }),
  );

/** Places the steps band by band in the order in which people pass them, at once however many they are. */
export function layOutSimply(graph: Graph): Layout {
  const positions: Record<string, Point> = {};
  const order = stopsInOrder(graph);
  let left = 0;
  for (const [band] of BANDS.entries()) {
    const steps = order.filter((step) => bandOf(graph, step) === band);
    for (const [index, step] of steps.entries()) positions[step.id] = { x: left + (index % IN_A_ROW) * ACROSS, y: Math.floor(index / IN_A_ROW) * DOWN };
    left += Math.min(steps.length, IN_A_ROW) * ACROSS;
  }
  return { positions, lines: linesOf(graph, positions), bands: bandsOf(graph, positions) };
}

/**
 * A layout for a graph that has changed since: what was placed stays where it is, what is new stands below what it comes
 * from, where there is room. So a change is seen at once, however long the whole takes to be laid out anew.
 */
export function adapted(before: Layout, graph: Graph): Layout {
  const positions: Record<string, Point> = {};
  for (const { id } of graph.steps) {
    const known = before.positions[id];
    if (known) positions[id] = known;
  }
  const isTaken = (place: Point) => Object.values(positions).some(({ x, y }) => Math.abs(x - place.x) < STOP_WIDTH && Math.abs(y - place.y) < STOP_HEIGHT);
  for (const step of stopsInOrder(graph)) {
    if (positions[step.id]) continue;
    const source = graph.routes.find(({ to, from }) => to === step.id && positions[from])?.from;
    const target = graph.routes.find(({ from, to }) => from === step.id && positions[to])?.to;
    const neighbour = positions[source ?? target ?? ''] ?? { x: 0, y: 0 };
    const place = { x: neighbour.x + (source ? ACROSS / 2 : -ACROSS), y: neighbour.y };
    while (isTaken(place)) place.y += DOWN;
    positions[step.id] = place;
  }
  const simple = linesOf(graph, positions);
  const lines = Object.fromEntries(
    graph.routes.flatMap(({ id, from, to }) => {
      const line = before.lines[id];
      const [start, end] = [line?.points[0], line?.points.at(-1)];
      const [source, sink] = [positions[from], positions[to]];
      // A line stays as it was led as long as it still begins and ends at its steps.
      const holds =
        start &&
        end &&
        source &&
        sink &&
        Math.abs(start.x - (source.x + STOP_WIDTH)) < 2 &&
        start.y >= source.y &&
        start.y <= source.y + STOP_HEIGHT &&
        Math.abs(end.x - sink.x) < 2 &&
        end.y >= sink.y &&
        end.y <= sink.y + STOP_HEIGHT;
      const drawn = holds ? line : simple[id];
      return drawn ? [[id, drawn] as const] : [];
    }),
  );
  return { positions, lines, bands: bandsOf(graph, positions) };
}
