import type { ListPage } from '@ruta/core/lists';
import type { Message, MessageCounts, MessageListQuery } from '@ruta/core/messages';
import type { TrackedEvent } from '@ruta/core/tracking';
import { and, eq, isNotNull, isNull, or, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { keyset, pageOf } from '../base/list';
import { outbox } from '../base/outbox/tables';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { messages } from './tables';

export type MessageRow = typeof messages.$inferSelect;

const KEY = 'message ';
/** The key of a message's row in the outbox. */
export const outboxKey = (messageId: string) => KEY + messageId;

const queued = sql`${outbox.idempotencyKey} = ${sql.raw(`'${KEY}'`)} || ${messages.id}`;
/** Given up: by the outbox, or without anybody to be told. */
const isFailed = and(isNull(messages.sentAt), or(isNotNull(outbox.failedAt), isNotNull(outbox.sentAt), isNull(outbox.id))) as SQL;
const state = sql<
  Message['state']
>`case when ${messages.isWithheld} then 'withheld' when ${isNotNull(messages.sentAt)} then 'sent' when ${isFailed} then 'failed' else 'waiting' end`;

/**
 * Notes a message about an event to a receiver, in the transaction in which the event is recorded.
 * @param withheld why it may not be sent; it then stands in the log with this reason
 * @returns its id; undefined if the receiver has one about this event already
 */
export function addMessage(
  { db, clock }: Pick<Services, 'db' | 'clock'>,
  receiverId: string,
  event: TrackedEvent,
  withheld: string | null = null,
): string | undefined {
  const id = newId(clock, 'message');
  const { changes } = db
    .insert(messages)
    .values({ id, receiverId, eventId: event.id, event: event.kind, at: event.at, attempts: 0, answer: withheld, isWithheld: withheld !== null })
    // An event that comes twice is told once.
    .onConflictDoNothing()
    .run();
  return changes > 0 ? id : undefined;
}

export const findMessage = (db: Db, id: string): MessageRow | undefined => db.select().from(messages).where(eq(messages.id, id)).get();

/** Keeps what became of a try. */
export function keepMessage(db: Db, id: string, changed: Partial<MessageRow>): void {
  db.update(messages).set(changed).where(eq(messages.id, id)).run();
}

/** How the messages to a receiver stand. */
export function messageCounts(db: Db, receiverId: string): MessageCounts {
  const counts: MessageCounts = { sent: 0, waiting: 0, failed: 0, withheld: 0 };
  const rows = db
    .select({ state, rows: sql<number>`count(*)` })
    .from(messages)
    .leftJoin(outbox, queued)
    .where(eq(messages.receiverId, receiverId))
    .groupBy(state)
    .all();
  for (const row of rows) counts[row.state] = row.rows;
  return counts;
}

const FIELDS = {
  id: messages.id,
  event: messages.event,
  eventId: messages.eventId,
  at: messages.at,
  attempts: messages.attempts,
  status: messages.status,
  answer: messages.answer,
  body: messages.body,
  nextAt: outbox.nextAt,
  state,
};

/** The log of a receiver, newest first. */
export function listMessages(db: Db, receiverId: string, query: MessageListQuery): ListPage<Message> {
  const asked = keyset({ columns: { at: messages.at }, id: messages.id }, query);
  const inState = query.state === 'all' ? undefined : eq(state, query.state);
  const rows = db
    .select(FIELDS)
    .from(messages)
    .leftJoin(outbox, queued)
    .where(and(eq(messages.receiverId, receiverId), inState, asked.after))
    .orderBy(...asked.order)
    .limit(asked.limit)
    .all()
    .map((row) => ({ ...row, nextAt: row.state === 'waiting' ? row.nextAt : null }));
  return pageOf(rows, asked, (row) => row.at);
}

/** Has a message sent once more, at once, with the same id and the same words. @throws Refusal 404 if there is none to send */
export function sendMessageAgain({ db, clock }: Pick<Services, 'db' | 'clock'>, messageId: string): void {
  const { changes } = db
    .update(outbox)
    .set({ sentAt: null, failedAt: null, attempts: 0, lastError: null, nextAt: clock.now() })
    .where(eq(outbox.idempotencyKey, outboxKey(messageId)))
    .run();
  if (changes === 0) throw notFound('This message');
  keepMessage(db, messageId, { sentAt: null });
}

/** Forgets the log of a receiver that was removed. */
export function forgetMessages(tx: Db, receiverId: string): void {
  tx.delete(messages).where(eq(messages.receiverId, receiverId)).run();
}
