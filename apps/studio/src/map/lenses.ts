import type { FunnelDetail } from '@ruta/core/checks';
import type { FactNames } from '@ruta/core/facts';
import { carriesGoal, type Graph, type Route } from '@ruta/core/funnel';
import type { FunnelFigures } from '@ruta/core/reports';
import { formatCount, formatRate } from '../base/format';
import { routeWords } from '../funnel/outcomeWords';
import { PLATE_LETTERS } from './placed';

export const LENSES = { build: 'Build', traffic: 'Traffic', money: 'Money', forecast: 'Forecast' } as const;
export type Lens = keyof typeof LENSES;

/** How a route's line is drawn, and what stands on it. */
export interface LineLook {
  kind: 'yes' | 'no' | 'conditional';
  /** Cut to what fits on a plate. */
  words: string;
  /** All of it, for whoever points at it. */
  title: string;
  figure: string | null;
  width: number;
  /** The running test that leads people along another line here. */
  test: string | null;
}

const THIN = 4;
const THICK = 11;

const cut = (words: string) => (words.length > PLATE_LETTERS ? `${words.slice(0, PLATE_LETTERS - 1).trimEnd()}…` : words);

/** The words on a line: what a plain yes says is seen by its colour. */
export function plateOf(route: Route, names: FactNames): string {
  if (!route.condition && (route.outcome === 'next' || route.outcome === 'paid' || route.outcome === 'submitted' || route.outcome === 'accepted')) return '';
  return cut(routeWords(route, names));
}

/** How every line looks through a lens. */
export function lineLooks(
  graph: Graph,
  figures: FunnelFigures | undefined,
  names: FactNames,
  lens: Lens,
  tests: FunnelDetail['tests'] = [],
): Record<string, LineLook> {
  const people = new Map(figures?.routes.map((row) => [row.routeId, row.people]));
  const most = Math.max(1, ...people.values());
  return Object.fromEntries(
    graph.routes.map((route): [string, LineLook] => {
      const kind = route.condition ? 'conditional' : route.outcome === 'declined' || route.outcome === 'closed' ? 'no' : 'yes';
      const went = people.get(route.id) ?? 0;
      const came = figures?.steps.find((row) => row.stepId === route.from);
      const isCounted = lens === 'traffic' && figures !== undefined;
      // Until routes were counted, a stop’s own rate is that of the one way to its goal.
      const rate = came && came.came > 0 ? (went > 0 ? went / came.came : carriesGoal(graph, route) ? came.rate : 0) : null;
      return [
        route.id,
        {
          kind,
          words: plateOf(route, names),
          title: routeWords(route, names) + (isCounted ? `: ${formatCount(went)} people` : ''),
          figure: isCounted && rate !== null ? formatRate(Math.min(1, rate)) : null,
          width: isCounted ? THIN + ((THICK - THIN) * went) / most : THIN,
          test: tests.find(({ routeIds }) => routeIds.includes(route.id))?.name ?? null,
        },
      ];
    }),
  );
}
