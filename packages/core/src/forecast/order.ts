import type { ForecastStop } from './input';

/**
 * Stops in an order in which each comes before those it leads to. Whoever cannot be reached is left out.
 * @throws RangeError naming the stops if they lead in a circle
 */
export function inOrder(stops: readonly ForecastStop[], entryId: string): ForecastStop[] {
  const byId = new Map(stops.map((stop) => [stop.id, stop]));
  const ordered: ForecastStop[] = [];
  const state = new Map<string, 'open' | 'done'>();
  const visit = (id: string, way: string[]): void => {
    const stop = byId.get(id);
    if (!stop || state.get(id) === 'done') return;
    if (state.get(id) === 'open') throw new RangeError(`These stops lead in a circle: ${[...way.slice(way.indexOf(stop.name)), stop.name].join(', ')}.`);
    state.set(id, 'open');
    for (const { to } of [...stop.yes, ...stop.no]) if (to !== null) visit(to, [...way, stop.name]);
    state.set(id, 'done');
    ordered.unshift(stop);
  };
  visit(entryId, []);
  return ordered;
}
