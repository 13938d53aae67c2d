import { type WebhookBody, WebhookBodySchema } from '@ruta/core/webhooks';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { tagsOf } from '../contacts/answers';
import { findContact } from '../contacts/store';
import { funnelNames, stepNames } from '../funnel/store';
import { findOrder, linesOf } from '../orders/store';
import { events } from '../tracking/tables';

/**
 * What is told of an event: itself, and whom and what it is about as they stand when it is first sent. What only serves to
 * know a browser again is not told.
 * @throws Error if there is no such event
 */
export function bodyOf(db: Db, eventId: string): WebhookBody {
  const event = db.select().from(events).where(eq(events.id, eventId)).get();
  if (!event) throw new Error('What this message tells of is not known any more.');
  const { funnelId, stepId, contactId, orderId } = event;
  const funnelName = funnelId ? funnelNames(db, [funnelId]).get(funnelId) : undefined;
  const stopName = stepId ? stepNames(db, [stepId]).get(stepId) : undefined;
  const contact = contactId ? findContact(db, contactId) : undefined;
  const order = orderId ? findOrder(db, orderId) : undefined;
  return WebhookBodySchema.parse({
    type: event.kind,
    timestamp: new Date(event.at).toISOString(),
    data: {
      mode: event.mode,
      funnel: funnelId && funnelName !== undefined ? { id: funnelId, name: funnelName } : null,
      stop: stepId && stopName !== undefined ? { id: stepId, name: stopName } : null,
      contact: contact ? { ...contact, tags: tagsOf(db, contact.id) } : null,
      order: order
        ? {
            ...order,
            lines: linesOf(db, order.id)
              .filter(({ partOf }) => partOf === null)
              .map((line) => ({ ...line, amount: line.total })),
          }
        : null,
      campaign: event.campaign,
      details: event.data,
    },
  });
}
