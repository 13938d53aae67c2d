import { isGoal, type StepKind, type TrackedEvent } from '@ruta/core';
import { eq, sql } from 'drizzle-orm';
import type { Logger } from 'pino';
import type { Db } from '../db/open';
import { steps } from '../funnel/tables';
import { events, stepVisitors, visitors } from './tables';

/** How long views are gathered before they are written together: one flush to disk for many visitors. */
const GATHER_MS = 20;
const MAX_GATHERED = 2000;

export type VisitorRow = typeof visitors.$inferSelect;

/**
 * Writes the log of events and the roll-up beside it. What belongs to an order or a lead is written at once, in the
 * transaction of its cause; views are gathered for a moment, so that thousands a second need few commits.
 */
export class Recorder {
  private gathered: TrackedEvent[] = [];
  private touched = new Map<string, VisitorRow>();
  private timer: NodeJS.Timeout | null = null;
  private readonly stepKinds = new Map<string, StepKind>();

  constructor(
    private readonly db: Db,
    private readonly log: Logger,
  ) {}

  /** Records an event in the caller's transaction. An id that was recorded before changes nothing. */
  record(tx: Db, event: TrackedEvent): void {
    const written = tx.insert(events).values(event).onConflictDoNothing().run();
    if (written.changes > 0) this.rollUp(tx, event);
  }

  /** Records an event and its visitor within a few milliseconds, together with others. */
  gather(event: TrackedEvent, visitor: VisitorRow): void {
    this.gathered.push(event);
    this.touched.set(visitor.id, visitor);
    if (this.gathered.length >= MAX_GATHERED) this.flush();
    else this.timer ??= setTimeout(() => this.flush(), GATHER_MS);
  }

  /** Writes what has been gathered. */
  flush(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const [eventRows, visitorRows] = [this.gathered, [...this.touched.values()]];
    this.gathered = [];
    this.touched = new Map();
    if (eventRows.length === 0) return;
    try {
      this.db.transaction((tx) => {
        for (const visitor of visitorRows) saveVisitor(tx, visitor);
        for (const event of eventRows) this.record(tx, event);
      });
    } catch (error) {
      this.log.error({ err: error, lost: eventRows.length }, 'views could not be written');
    }
  }

  /** A visitor as last known: perhaps not written yet. */
  visitor(id: string): VisitorRow | undefined {
    return this.touched.get(id) ?? this.db.select().from(visitors).where(eq(visitors.id, id)).get();
  }

  /** Makes the roll-up anew from the log; gives the same numbers as the one kept along the way. */
  rebuild(): void {
    this.flush();
    this.db.transaction((tx) => {
      tx.delete(stepVisitors).run();
      for (const event of tx.select().from(events).orderBy(events.at).all()) this.rollUp(tx, event);
    });
  }

  /** Keeps when a visitor first came to a step and first reached its goal. */
  private rollUp(tx: Db, event: TrackedEvent): void {
    const { stepId, visitorId, funnelId, at } = event;
    if (!stepId || !visitorId || !funnelId || event.mode === 'test') return;
    const kind = this.stepKind(tx, stepId);
    const goalAt = kind && isGoal(kind, event.kind) ? at : null;
    tx.insert(stepVisitors)
      .values({ stepId, visitorId, funnelId, firstAt: at, goalAt })
      .onConflictDoUpdate({
        target: [stepVisitors.stepId, stepVisitors.visitorId],
        set: {
          firstAt: sql`min(${stepVisitors.firstAt}, ${at})`,
          ...(goalAt === null ? {} : { goalAt: sql`min(coalesce(${stepVisitors.goalAt}, ${at}), ${at})` }),
        },
      })
      .run();
  }

  private stepKind(tx: Db, stepId: string): StepKind | undefined {
    let kind = this.stepKinds.get(stepId);
    if (!kind) {
      kind = tx.select({ kind: steps.kind }).from(steps).where(eq(steps.id, stepId)).get()?.kind;
      if (kind) this.stepKinds.set(stepId, kind);
    }
    return kind;
  }
}

/** Writes a visitor, new or known. */
export function saveVisitor(tx: Db, visitor: VisitorRow): void {
  const { id: _id, firstAt: _firstAt, firstCampaign: _firstCampaign, ...changing } = visitor;
  tx.insert(visitors).values(visitor).onConflictDoUpdate({ target: visitors.id, set: changing }).run();
}
