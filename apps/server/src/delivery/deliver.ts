import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { course } from '../base/outbox/kinds/course';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import type { Services } from '../base/services';
import { countKeys, giveKeys } from '../catalog/keys';
import { findProduct } from '../catalog/store';
import { keysLowMail } from '../mail/keysLowMail';
import { letterhead } from '../mail/letterhead';
import type { OrderRow } from '../orders/store';
import type { BoughtLine } from '../orders/write';
import { grants } from './tables';

const DAY_MS = 24 * 60 * 60 * 1000;

/** Gives what was bought: rights to files, licence keys, access to a course. Call it in the transaction that pays. */
export function deliver(tx: Db, services: Services, order: OrderRow, line: BoughtLine): void {
  const { clock, config } = services;
  const product = findProduct(services.db, line.productId);
  if (!product) return;
  const { maxDownloads, downloadDays, keys } = product.delivery;
  for (const file of product.files) {
    if (file.only !== null && file.only !== line.editionId && file.only !== line.priceId) continue;
    tx.insert(grants)
      .values({
        id: newId(clock, 'grant'),
        orderId: order.id,
        lineId: line.lineId,
        fileId: file.id,
        downloads: 0,
        maxDownloads,
        until: downloadDays === null ? null : clock.now() + downloadDays * DAY_MS,
      })
      .run();
  }
  giveKeys(tx, services, product, { orderId: order.id, lineId: line.lineId }, line.quantity);
  if (keys?.kind === 'list') {
    const { waiting, given } = countKeys(tx, product.id);
    if (waiting <= keys.warnAt) {
      enqueue(tx, services, mail, {
        payload: keysLowMail(letterhead(services), product.name, waiting, `${config.studioUrl}/catalog/${product.id}`),
        // Once for each time keys were pasted: how many there have ever been tells that.
        idempotencyKey: `keys ${product.id} ${waiting === 0 ? 'none' : 'low'} ${waiting + given}`,
      });
    }
  }
  // In test mode nothing real is delivered at another company.
  const { course: access } = product.delivery;
  if (access && order.mode === 'live') {
    enqueue(tx, services, course, {
      payload: { courseId: access.courseId, email: order.buyer.email, firstName: order.buyer.firstName },
      idempotencyKey: `course ${line.lineId}`,
      orderId: order.id,
    });
  }
}
