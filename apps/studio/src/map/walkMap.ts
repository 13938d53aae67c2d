import { type Graph, routesFor, stepKindOf } from '@ruta/core/funnel';

/** The stop that an arrow key leads to from another: right along its goal, down along the other ways, left back to where one came from. */
export function walkFrom(graph: Graph, stepId: string, key: string): string | undefined {
  const step = graph.steps.find((candidate) => candidate.id === stepId);
  if (!step) return undefined;
  const { outcomes, goal } = stepKindOf(step.kind);
  const targets = outcomes.flatMap((outcome) =>
    routesFor(graph, stepId, outcome).map((route) => ({ to: route.to, isGoal: outcome === goal.outcome && !route.condition })),
  );
  if (key === 'ArrowRight') return (targets.find(({ isGoal }) => isGoal) ?? targets[0])?.to;
  if (key === 'ArrowDown') {
    const ahead = targets.find(({ isGoal }) => isGoal)?.to;
    return targets.find(({ to }) => to !== ahead)?.to ?? siblings(graph, stepId, 1);
  }
  if (key === 'ArrowUp') return siblings(graph, stepId, -1);
  if (key === 'ArrowLeft') return graph.routes.find((route) => route.to === stepId)?.from;
  return undefined;
}

/** The stop before or after among those that the same stop leads to. */
function siblings(graph: Graph, stepId: string, by: 1 | -1): string | undefined {
  const from = graph.routes.find((route) => route.to === stepId)?.from;
  const all = [...new Set(graph.routes.filter((route) => route.from === from).map((route) => route.to))];
  return all[all.indexOf(stepId) + by];
}
