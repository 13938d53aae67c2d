import type { NewWebhook, Webhook, WebhookChange } from '@ruta/core/webhooks';
import { asc, eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { forgetMessages, messageCounts } from '../messages/store';
import { newSecret } from './sign';
import { webhooks } from './tables';

type WebhookRow = typeof webhooks.$inferSelect;
type Needs = Pick<Services, 'db' | 'clock' | 'secrets' | 'changes'>;

/** For so long a secret that was rotated out signs beside the new one, so that a receiver can change over at leisure. */
const OVERLAP_MS = 24 * 60 * 60 * 1000;

function viewOf({ db, clock }: Pick<Services, 'db' | 'clock'>, row: WebhookRow): Webhook {
  const { secret: _secret, olderSecret: _older, olderSecretUntil, ...webhook } = row;
  return {
    ...webhook,
    olderSecretUntil: olderSecretUntil !== null && olderSecretUntil > clock.now() ? olderSecretUntil : null,
    ...messageCounts(db, row.id),
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
    forgetMessages(tx, id);
    tx.delete(webhooks).where(eq(webhooks.id, id)).run();
  });
  changes.announce();
}

/** Every secret that signs just now, the newest first. */
export function secretsOf({ clock, secrets }: Pick<Services, 'clock' | 'secrets'>, { secret, olderSecret, olderSecretUntil }: WebhookRow): string[] {
  const older = olderSecret !== null && (olderSecretUntil ?? 0) > clock.now() ? [olderSecret] : [];
  return [secret, ...older].map((sealed) => secrets.decrypt(sealed));
}
