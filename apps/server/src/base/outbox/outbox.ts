import { and, asc, eq, gt, inArray, isNull, lte, notInArray, or, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { builtOnce, type Db } from '../db';
import { newId } from '../ids';
import type { Services } from '../services';
import { outbox } from './tables';

export type OutboxRow = typeof outbox.$inferSelect;

/**
 * One kind of thing that is done outside. A further kind is one more file in `kinds`, its name in the tuple of `registry.ts`, and how it is sent in
 * `server.ts`.
 */
export interface OutboxKind<Kind extends string, Payload extends z.ZodObject> {
  kind: Kind;
  payload: Payload;
  /** Tried for as long as it takes: money that is to be given back. */
  tireless?: true;
  /** One line of what it is and to whom, for the story of an order and for what waits for a person. */
  words: (payload: z.infer<Payload>) => { to: string; subject: string };
}

/** Completes a record, with its types taken from what it says. */
export const outboxKind = <const Kind extends string, Payload extends z.ZodObject>(record: OutboxKind<Kind, Payload>) => record;

export interface OutboxEntry<Payload> {
  payload: Payload;
  /** The same key is never queued twice. */
  idempotencyKey: string;
  orderId?: string | null;
  contactId?: string | null;
  /** Not before so long from now, in milliseconds. */
  waits?: number;
}

const given = (name: string) => sql.placeholder(name);
const addRow = builtOnce((db) =>
  db
    .insert(outbox)
    .values({
      orderId: given('orderId'),
      contactId: given('contactId'),
      idempotencyKey: given('idempotencyKey'),
      kind: given('kind'),
      payload: given('payload'),
      id: given('id'),
      attempts: 0,
      nextAt: given('nextAt'),
      createdAt: given('now'),
    })
    .onConflictDoNothing()
    .prepare(),
);

/** Queues something to be done outside, in the transaction of its cause. */
export function enqueue<Payload extends z.ZodObject>(
  tx: Db,
  services: Pick<Services, 'clock'>,
  { kind }: OutboxKind<string, Payload>,
  { payload, waits = 0, ...entry }: OutboxEntry<z.input<Payload>>,
): void {
  const now = services.clock.now();
  addRow(tx).run({ orderId: null, contactId: null, ...entry, kind, payload, id: newId(services.clock, 'outbox'), now, nextAt: now + waits });
}

/** With growing waits of at most four hours these are three days. */
const MAX_ATTEMPTS = 26;
const FIRST_WAIT_MS = 2000;
const LONGEST_WAIT_MS = 4 * 60 * 60 * 1000;
const BATCH = 20;

/** A clock that was set back: what was queued by it is due, and does not wait until it has caught up. */
const isFromAhead = (now: number) => or(gt(outbox.createdAt, now + AHEAD_MS), gt(outbox.nextAt, now + LONGEST_WAIT_MS));
const AHEAD_MS = 60_000;

type Send = (row: OutboxRow) => Promise<void>;

/**
 * Sends what is due: at least once, with growing waits between tries. A row that has failed for three days
 * gives up visibly, unless it is of a kind that never does; `sendAgain` queues it anew.
 * @param ofKind these kinds alone, or all others: programs that answer slowly hold up no mail
 */
export async function sendDue(
  services: Pick<Services, 'db' | 'clock' | 'log' | 'writes'>,
  send: Send,
  ofKind: { only: string[] } | { except: string[] } = { except: [] },
  isTireless: (kind: string) => boolean = () => false,
): Promise<void> {
  const { db, clock } = services;
  // What cannot be marked as sent would be sent again and again.
  if (services.writes.standing()) return;
  const isAsked = 'only' in ofKind ? inArray(outbox.kind, ofKind.only) : notInArray(outbox.kind, ofKind.except);
  const due = db
    .select()
    .from(outbox)
    .where(and(isNull(outbox.sentAt), isNull(outbox.failedAt), or(lte(outbox.nextAt, clock.now()), isFromAhead(clock.now())), isAsked))
    .orderBy(asc(outbox.createdAt))
    .limit(BATCH)
    .all();
  const sendRow = async (row: OutboxRow) => {
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
          nextAt: clock.now() + Math.min(FIRST_WAIT_MS * 3 ** (attempts - 1), LONGEST_WAIT_MS),
          failedAt: attempts >= MAX_ATTEMPTS && !isTireless(row.kind) ? clock.now() : null,
        })
        .where(eq(outbox.id, row.id))
        .run();
    }
  };
  if ('only' in ofKind) await Promise.all(due.map(sendRow));
  else for (const row of due) await sendRow(row);
}

/** Has what waits for a moment sent at once; what is sent or tried already is left as it is. */
export const sendNow = (services: Pick<Services, 'db' | 'clock'>, idempotencyKey: string): void => sendAt(services, idempotencyKey, services.clock.now());

/** Sets the moment at which something that still waits is sent; what is due, sent or tried already is left as it is. */
export function sendAt({ db, clock }: Pick<Services, 'db' | 'clock'>, idempotencyKey: string, at: number): void {
  const waits = and(isNull(outbox.sentAt), eq(outbox.attempts, 0), gt(outbox.nextAt, clock.now()));
  db.update(outbox)
    .set({ nextAt: at })
    .where(and(eq(outbox.idempotencyKey, idempotencyKey), waits))
    .run();
}

/** Whether something was queued under a key. */
export function isQueued(db: Db, idempotencyKey: string): boolean {
  return db.select({ id: outbox.id }).from(outbox).where(eq(outbox.idempotencyKey, idempotencyKey)).get() !== undefined;
}

/** Queues a row that gave up once more. */
export function sendAgain(services: Pick<Services, 'db' | 'clock'>, id: string): void {
  services.db.update(outbox).set({ failedAt: null, attempts: 0, nextAt: services.clock.now() }).where(eq(outbox.id, id)).run();
}
