import { eq } from 'drizzle-orm';
import { type Answer, postOutside } from '../base/outbound';
import type { Services } from '../base/services';
import { bodyOf } from './body';
import { signed } from './sign';
import { secretsOf } from './store';
import { webhookDeliveries, webhooks } from './tables';

const GONE = 410;
const SHOWN_LETTERS = 500;

/**
 * Sends one message and keeps what was answered. What it says is written at its first try and stays the same, so that a
 * receiver that was told twice can see that by its id.
 * @throws Error if it was not taken; the outbox tries again
 */
export async function sendWebhook(services: Services, deliveryId: string): Promise<void> {
  const { db, clock, config, changes } = services;
  const delivery = db.select().from(webhookDeliveries).where(eq(webhookDeliveries.id, deliveryId)).get();
  const webhook = delivery && db.select().from(webhooks).where(eq(webhooks.id, delivery.webhookId)).get();
  const keep = (changed: Partial<typeof webhookDeliveries.$inferSelect>) =>
    db.update(webhookDeliveries).set(changed).where(eq(webhookDeliveries.id, deliveryId)).run();
  // Removed meanwhile: there is nobody to be told.
  if (!delivery || !webhook) return;
  if (!webhook.isOn) {
    keep({ status: null, answer: 'Not sent: this webhook is switched off.' });
    return;
  }
  const body = delivery.body ?? JSON.stringify(bodyOf(db, delivery.eventId));
  const attempts = delivery.attempts + 1;
  keep({ body, attempts });
  let answer: Answer;
  try {
    const headers = {
      'content-type': 'application/json',
      'user-agent': 'Ruta-Webhooks',
      ...signed(deliveryId, clock.now(), body, secretsOf(services, webhook)),
    };
    answer = await postOutside(webhook.url, headers, body, config.standinsUrl !== null);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    keep({ status: null, answer: reason.slice(0, SHOWN_LETTERS) });
    throw error;
  }
  const { status, text } = answer;
  const isTaken = status >= 200 && status < 300;
  keep({ status, answer: text.slice(0, SHOWN_LETTERS), sentAt: isTaken ? clock.now() : null });
  if (isTaken) return;
  if (status === GONE) {
    // By the convention: whoever answers so wants no more messages.
    db.update(webhooks).set({ isOn: false }).where(eq(webhooks.id, webhook.id)).run();
    changes.announce();
    return;
  }
  throw new Error(`${webhook.name} answered ${status}.`);
}
