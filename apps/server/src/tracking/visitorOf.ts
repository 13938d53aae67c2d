import type { Tracked, VisitorRow } from './recorder';

/** Who ordered, as far as they are known; null where nobody was counted. */
export function visitorOf({ recorder }: Pick<Tracked, 'recorder'>, { visitorId }: { visitorId: string | null }): VisitorRow | null {
  return visitorId === null ? null : (recorder.visitor(visitorId) ?? null);
}
