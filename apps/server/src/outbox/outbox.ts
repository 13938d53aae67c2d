import { and, asc, eq, isNull, lte } from 'drizzle-orm';
import type { Db } from '../db/open';
import { newId } from '../ids';
import type { Services } from '../services';
import { outbox } from './tables';

export type OutboxRow = typeof outbox.$inferSelect;

export interface OutboxEntry {
  kind: OutboxRow['kind'];
  payload: Record<string, unknown>;
  /** The same key is never queued twice. */
  idempotencyKey: string;
  orderId?: string | null;
  contactId?: string | null;
}

/** Queues something to be done outside, in the transaction of its cause. */
export function enqueue(tx: Db, services: Pick<Services, 'clock'>, entry: OutboxEntry): void {
  const now = services.clock.now();
  tx.insert(outbox)
    .values({ orderId: null, contactId: null, ...entry, id: newId(services.clock, 'outbox'), attempts: 0, nextAt: now, createdAt: now })
    .onConflictDoNothing()
    .run();
}

const MAX_ATTEMPTS = 8;
const FIRST_WAIT_MS = 2000;
const BATCH = 20;

type Send = (row: OutboxRow) => Promise<void>;

/**
 * Sends what is due: at least once, with growing waits between tries. A row that has failed eight times gives up
 * visibly; `sendAgain` queues it anew.
 */
export async function sendDue(services: Pick<Services, 'db' | 'clock' | 'log'>, send: Send): Promise<void> {
  const { db, clock } = services;
  const due = db
    .select()
    .from(outbox)
    .where(and(isNull(outbox.sentAt), isNull(outbox.failedAt), lte(outbox.nextAt, clock.now())))
    .orderBy(asc(outbox.createdAt))
    .limit(BATCH)
    .all();
  for (const row of due) {
    try {
      await send(row);
      db.update(outbox).set({ sentAt: clock.now(), lastError: null }).where(eq(outbox.id, row.id)).run();
    } catch (error) {
      const attempts = row.attempts + 1;
      const lastError = error instanceof Error ? error.message : String(error);
      services.log.warn({ outbox: row.id, kind: row.kind, attempts, reason: lastError }, 'sending failed');
      db.update(outbox)
        .set({
          attempts,
          lastError,
          nextAt: clock.now() + FIRST_WAIT_MS * 3 ** Math.min(attempts - 1, 7),
          failedAt: attempts >= MAX_ATTEMPTS ? clock.now() : null,
        })
        .where(eq(outbox.id, row.id))
        .run();
    }
  }
}

/** Queues a row that gave up once more. */
export function sendAgain(services: Pick<Services, 'db' | 'clock'>, id: string): void {
  services.db.update(outbox).set({ failedAt: null, attempts: 0, nextAt: services.clock.now() }).where(eq(outbox.id, id)).run();
}
