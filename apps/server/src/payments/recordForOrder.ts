import type { EventKind, EventPayload } from '@ruta/core/tracking';
import type { OrderRow } from '../orders/store';
import type { Tracked } from '../tracking/recorder';
import { makeEvent } from '../tracking/visitor';
import { visitorOf } from '../tracking/visitorOf';

/** Records that something happened to an order, in the log that is its story. */
export function recordForOrder<Kind extends EventKind>(services: Tracked, order: OrderRow, kind: Kind, data: EventPayload<Kind>, stepId = order.stepId): void {
  const visitor = visitorOf(services, order);
  services.recorder.record(
    makeEvent(services, kind, order.mode, visitor, {
      funnelId: order.funnelId,
      stepId,
      publicationId: order.publicationId,
      orderId: order.id,
      contactId: order.contactId,
      arms: order.arms,
      data,
    }),
  );
}
