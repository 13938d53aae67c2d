import type { TrackedEvent } from '@ruta/core/tracking';
import { isWebhookEvent } from '@ruta/core/webhooks';
import { eq } from 'drizzle-orm';
import { webhook } from '../base/outbox/kinds/webhook';
import { enqueue } from '../base/outbox/outbox';
import type { Services } from '../base/services';
import { addMessage, outboxKey } from '../messages/store';
import { webhooks } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'changes'>;

/**
 * Queues a message for every webhook that wants to hear of an event, in the transaction in which the event is recorded.
 * Which ones there are is kept in memory, so that a page view costs one look at its kind.
 * @returns to be told of each recorded event
 */
export function queueWebhooks(services: Needs): (event: TrackedEvent) => void {
  const { db, changes } = services;
  let wanting: Array<Pick<typeof webhooks.$inferSelect, 'id' | 'name' | 'events'>> | null = null;
  changes.onChange(() => {
    wanting = null;
  });
  return (event) => {
    if (!isWebhookEvent(event.kind) || event.data.again === true) return;
    wanting ??= db.select({ id: webhooks.id, name: webhooks.name, events: webhooks.events }).from(webhooks).where(eq(webhooks.isOn, true)).all();
    for (const { id: webhookId, name, events } of wanting) {
      if (!events.includes(event.kind)) continue;
      const id = addMessage(services, webhookId, event);
      if (id) enqueue(db, services, webhook, { payload: { messageId: id, name, event: event.kind }, idempotencyKey: outboxKey(id) });
    }
  };
}
