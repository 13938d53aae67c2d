import type { ListPage } from '@ruta/core/lists';
import type { Delivery, DeliveryListQuery, NewWebhook, Webhook, WebhookChange } from '@ruta/core/webhooks';
import { and, asc, count, eq, isNotNull, isNull, or, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { keyset, pageOf } from '../base/list';
import { outbox } from '../base/outbox/tables';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { outboxKey } from './queue';
import { newSecret } from './sign';
import { webhookDeliveries, webhooks } from './tables';

type WebhookRow = typeof webhooks.$inferSelect;
type Needs = Pick<Services, 'db' | 'clock' | 'secrets' | 'changes'>;

/** For so long a secret that was rotated out signs beside the new one, so that a receiver can change over at leisure. */
const OVERLAP_MS = 24 * 60 * 60 * 1000;

const queued = sql`${outbox.idempotencyKey} = 'webhook ' || ${webhookDeliveries.id}`;
/** Given up: by the outbox, or without anybody to be told. */
const isFailed = and(isNull(webhookDeliveries.sentAt), or(isNotNull(outbox.failedAt), isNotNull(outbox.sentAt), isNull(outbox.id))) as SQL;
const isWaiting = and(isNull(webhookDeliveries.sentAt), isNotNull(outbox.id), isNull(outbox.failedAt), isNull(outbox.sentAt)) as SQL;
const isSent = isNotNull(webhookDeliveries.sentAt);

function viewOf({ db, clock }: Pick<Services, 'db' | 'clock'>, row: WebhookRow): Webhook {
  const { secret: _secret, olderSecret: _older, olderSecretUntil, ...webhook } = row;
  const counted = (where: SQL) =>
    db
      .select({ rows: count() })
      .from(webhookDeliveries)
      .leftJoin(outbox, queued)
      .where(and(eq(webhookDeliveries.webhookId, row.id), where))
      .get()?.rows ?? 0;
  return {
    ...webhook,
    olderSecretUntil: olderSecretUntil !== null && olderSecretUntil > clock.now() ? olderSecretUntil : null,
    sent: counted(isSent),
    waiting: counted(isWaiting),
    failed: counted(isFailed),
  };
}

export const listWebhooks = (services: Pick<Services, 'db' | 'clock'>): Webhook[] =>
  services.db
    .select()
    .from(webhooks)
    .orderBy(asc(webhooks.createdAt))
    .all()
    .map((row) => viewOf(services, row));

/** @throws Refusal 404 if there is none */
function loadWebhook(db: Db, id: string): WebhookRow {
  const row = db.select().from(webhooks).where(eq(webhooks.id, id)).get();
  if (!row) throw notFound('This webhook');
  return row;
}

/** @returns it with its secret, which is shown this once */
export function addWebhook(services: Needs, input: NewWebhook): { webhook: Webhook; secret: string } {
  const { db, clock, secrets, changes } = services;
  const secret = newSecret();
  const row: WebhookRow = {
    ...input,
    id: newId(clock, 'webhook'),
    secret: secrets.encrypt(secret),
    olderSecret: null,
    olderSecretUntil: null,
    isOn: true,
    createdAt: clock.now(),
  };
  db.insert(webhooks).values(row).run();
  changes.announce();
  return { webhook: viewOf(services, row), secret };
}

export function changeWebhook(services: Needs, id: string, change: WebhookChange): Webhook {
  loadWebhook(services.db, id);
  services.db.update(webhooks).set(change).where(eq(webhooks.id, id)).run();
  services.changes.announce();
  return viewOf(services, loadWebhook(services.db, id));
}

/** A new secret; the one before it signs along for a day. @returns the new one, shown this once */
export function rotateSecret(services: Needs, id: string): { webhook: Webhook; secret: string } {
  const { db, clock, secrets } = services;
  const secret = newSecret();
  db.update(webhooks)
    .set({ secret: secrets.encrypt(secret), olderSecret: loadWebhook(db, id).secret, olderSecretUntil: clock.now() + OVERLAP_MS })
    .where(eq(webhooks.id, id))
    .run();
  return { webhook: viewOf(services, loadWebhook(db, id)), secret };
}

/** Removes a webhook with its log. What still waits for it is not sent. */
export function removeWebhook({ db, changes }: Pick<Services, 'db' | 'changes'>, id: string): void {
  loadWebhook(db, id);
  db.transaction((tx) => {
    tx.delete(webhookDeliveries).where(eq(webhookDeliveries.webhookId, id)).run();
    tx.delete(webhooks).where(eq(webhooks.id, id)).run();
  });
  changes.announce();
}

/** Every secret that signs just now, the newest first. */
export function secretsOf({ clock, secrets }: Pick<Services, 'clock' | 'secrets'>, { secret, olderSecret, olderSecretUntil }: WebhookRow): string[] {
  const older = olderSecret !== null && (olderSecretUntil ?? 0) > clock.now() ? [olderSecret] : [];
  return [secret, ...older].map((sealed) => secrets.decrypt(sealed));
}

const FIELDS = {
  id: webhookDeliveries.id,
  event: webhookDeliveries.event,
  at: webhookDeliveries.at,
  attempts: webhookDeliveries.attempts,
  status: webhookDeliveries.status,
  answer: webhookDeliveries.answer,
  body: webhookDeliveries.body,
  nextAt: outbox.nextAt,
  state: sql<Delivery['state']>`case when ${isSent} then 'sent' when ${isFailed} then 'failed' else 'waiting' end`,
};

/** The log of a webhook, newest first. */
export function listDeliveries(db: Db, webhookId: string, query: DeliveryListQuery): ListPage<Delivery> {
  const asked = keyset({ columns: { at: webhookDeliveries.at }, id: webhookDeliveries.id }, query);
  const inState = { all: undefined, waiting: isWaiting, sent: isSent, failed: isFailed }[query.state];
  const rows = db
    .select(FIELDS)
    .from(webhookDeliveries)
    .leftJoin(outbox, queued)
    .where(and(eq(webhookDeliveries.webhookId, webhookId), inState, asked.after))
    .orderBy(...asked.order)
    .limit(asked.limit)
    .all()
    .map((row) => ({ ...row, nextAt: row.state === 'waiting' ? row.nextAt : null }));
  return pageOf(rows, asked, (row) => row.at);
}

/** Has a message sent once more, at once, with the same id and the same words. @throws Refusal 404 if there is none */
export function sendDeliveryAgain({ db, clock }: Pick<Services, 'db' | 'clock'>, deliveryId: string): void {
  const { changes } = db
    .update(outbox)
    .set({ sentAt: null, failedAt: null, attempts: 0, lastError: null, nextAt: clock.now() })
    .where(eq(outbox.idempotencyKey, outboxKey(deliveryId)))
    .run();
  if (changes === 0) throw notFound('This message');
  db.update(webhookDeliveries).set({ sentAt: null }).where(eq(webhookDeliveries.id, deliveryId)).run();
}
