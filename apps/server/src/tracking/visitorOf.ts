import type { Tracked, VisitorRow } from './recorder';

/** Who ordered, as far as their own browser is known; null where nobody was counted. */
export function visitorOf(
  { recorder }: Pick<Tracked, 'recorder'>,
  { visitorId, browserId }: { visitorId: string | null; browserId: string | null },
): VisitorRow | null {
  if (visitorId === null) return null;
  return (browserId ? recorder.visitor(browserId) : undefined) ?? recorder.visitor(visitorId) ?? null;
}
