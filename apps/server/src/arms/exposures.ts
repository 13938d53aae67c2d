import { STEP_KINDS } from '@ruta/core/funnel';
import { dayFinder } from '@ruta/core/shop';
import type { EventKind, TrackedEvent } from '@ruta/core/tracking';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { firstSeen, roundsSince } from './store';
import { roundVisitors } from './tables';
import { tallyInFunnel, tallyVisitor } from './tally';

/** What is recorded late belongs to a round that has ended meanwhile. */
const LATE_MS = 24 * 60 * 60 * 1000;

/** Events that may be what a test waits for: goals of stops, and addresses. What is paid is told by whoever writes it down. */
const GOALS: ReadonlySet<EventKind> = new Set(['lead.submitted' as const, ...STEP_KINDS.flatMap(({ goal }) => goal.event ?? [])]);

type Needs = Pick<Services, 'db' | 'clock' | 'changes'> & Parameters<typeof tallyInFunnel>[0];

/**
 * Keeps in which arm each visitor was first seen: whoever looks at a stop that a running test changes, in any of its arms.
 * The earliest view decides, so that events that come twice, late or out of order change nothing. What they do since is
 * counted onward.
 * @returns to be told of every recorded event
 */
export function keepExposures(services: Needs): (event: TrackedEvent) => void {
  const { db, clock, changes } = services;
  let stops: Map<string, Set<string>> | null = null;
  let dayOf: ((at: number) => string) | null = null;
  changes.onChange(() => {
    stops = null;
    dayOf = null;
  });
  return ({ kind, mode, arms, visitorId, funnelId, stepId, at, device }) => {
    if (mode === 'test' || !visitorId || !stepId) return;
    if (funnelId && GOALS.has(kind)) tallyInFunnel(services, funnelId, visitorId);
    if (kind !== 'page.viewed' || !arms) return;
    stops ??= new Map(roundsSince(db, clock.now() - LATE_MS).map((round) => [round.id, new Set(round.stops)]));
    for (const { roundId, armId } of arms) {
      if (!stops.get(roundId)?.has(stepId) || (firstSeen(db, roundId, visitorId) ?? Number.POSITIVE_INFINITY) <= at) continue;
      dayOf ??= dayFinder(loadShop(db).settings.timeZone);
      const first = { armId, firstAt: at, day: dayOf(at), device: device ?? ('' as const) };
      tallyVisitor(services, roundId, visitorId, () =>
        db
          .insert(roundVisitors)
          .values({ roundId, visitorId, ...first })
          .onConflictDoUpdate({ target: [roundVisitors.roundId, roundVisitors.visitorId], set: first })
          .run(),
      );
    }
  };
}
