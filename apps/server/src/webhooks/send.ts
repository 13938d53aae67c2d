import { eq } from 'drizzle-orm';
import { postOutside } from '../base/outbound';
import type { Services } from '../base/services';
import { findMessage, keepMessage } from '../messages/store';
import { trySending } from '../messages/trySending';
import { bodyOf } from './body';
import { signed } from './sign';
import { secretsOf } from './store';
import { webhooks } from './tables';

const GONE = 410;

/** Sends one message of a webhook. @throws Error if it was not taken; the outbox tries again */
export async function sendWebhook(services: Services, messageId: string): Promise<void> {
  const { db, clock, config, changes } = services;
  const message = findMessage(db, messageId);
  const webhook = message && db.select().from(webhooks).where(eq(webhooks.id, message.receiverId)).get();
  // Removed meanwhile: there is nobody to be told.
  if (!message || !webhook) return;
  if (!webhook.isOn) {
    keepMessage(db, messageId, { status: null, answer: 'Not sent: this webhook is switched off.' });
    return;
  }
  const refused = await trySending(services, message, {
    body: () => JSON.stringify(bodyOf(db, message.eventId)),
    send: ({ id }, body) => {
      const headers = { 'content-type': 'application/json', 'user-agent': 'Ruta-Webhooks', ...signed(id, clock.now(), body, secretsOf(services, webhook)) };
      return postOutside(webhook.url, headers, body, config.inside);
    },
  });
  if (!refused) return;
  if (refused.status === GONE) {
    // By the convention: whoever answers so wants no more messages.
    db.update(webhooks).set({ isOn: false }).where(eq(webhooks.id, webhook.id)).run();
    changes.announce();
    return;
  }
  throw new Error(`${webhook.name} answered ${refused.status}.`);
}
