import { and, eq, isNotNull } from 'drizzle-orm';
import type { Db } from '../base/db';
import { steps } from '../funnel/tables';
import { events } from './tables';

/** The steps whose pages a visitor has seen, as they are counted, and whether one of them was a checkout. */
export function seenBy(db: Db, visitorId: string): { steps: string[]; checkout: boolean } {
  const rows = db
    .selectDistinct({ stepId: events.stepId, kind: steps.kind })
    .from(events)
    .leftJoin(steps, eq(steps.id, events.stepId))
    .where(and(eq(events.visitorId, visitorId), eq(events.kind, 'page.viewed'), isNotNull(events.stepId)))
    .all();
  return { steps: rows.flatMap(({ stepId }) => stepId ?? []), checkout: rows.some(({ kind }) => kind === 'checkout') };
}
