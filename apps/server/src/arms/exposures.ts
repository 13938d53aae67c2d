import { dayFinder } from '@ruta/core/shop';
import type { TrackedEvent } from '@ruta/core/tracking';
import { sql } from 'drizzle-orm';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { roundsSince } from './store';
import { roundVisitors } from './tables';

/** What is recorded late belongs to a round that has ended meanwhile. */
const LATE_MS = 24 * 60 * 60 * 1000;

/**
 * Keeps in which arm each visitor was first seen: whoever looks at a stop that a running test changes, in any of its arms.
 * The earliest view decides, so that events that come twice, late or out of order change nothing.
 * @returns to be told of every recorded event
 */
export function keepExposures({ db, clock, changes }: Pick<Services, 'db' | 'clock' | 'changes'>): (event: TrackedEvent) => void {
  let stops: Map<string, Set<string>> | null = null;
  let dayOf: ((at: number) => string) | null = null;
  changes.onChange(() => {
    stops = null;
    dayOf = null;
  });
  return ({ kind, mode, arms, visitorId, stepId, at, device }) => {
    if (kind !== 'page.viewed' || mode === 'test' || !arms || !visitorId || !stepId) return;
    stops ??= new Map(roundsSince(db, clock.now() - LATE_MS).map((round) => [round.id, new Set(round.stops)]));
    for (const { roundId, armId } of arms) {
      if (!stops.get(roundId)?.has(stepId)) continue;
      dayOf ??= dayFinder(loadShop(db).settings.timeZone);
      db.insert(roundVisitors)
        .values({ roundId, visitorId, armId, firstAt: at, day: dayOf(at), device: device ?? '' })
        .onConflictDoUpdate({
          target: [roundVisitors.roundId, roundVisitors.visitorId],
          set: { firstAt: sql`excluded.first_at`, armId: sql`excluded.arm_id`, day: sql`excluded.day`, device: sql`excluded.device` },
          setWhere: sql`excluded.first_at < ${roundVisitors.firstAt}`,
        })
        .run();
    }
  };
}
