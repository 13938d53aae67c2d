import type { Product } from '@ruta/core/catalog';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import type { Services } from '../base/services';
import type { ContactRow } from '../contacts/store';
import { mailedAddress } from '../delivery/orderLink';
import { mayWriteTo } from '../mail/fewMails';
import { letterhead } from '../mail/letterhead';
import { ownedMail } from '../mail/ownedMail';
import { orderWith } from '../orders/store';
import { loadShop } from '../shop/store';

const DAY_MS = 24 * 60 * 60 * 1000;

/** Writes to somebody who would have bought what can be bought once, and which they have: at most once a day for each product. */
export function tellOwner(services: Services, contact: ContactRow, product: Product): void {
  if (!mayWriteTo(services, contact.email)) return;
  const { db, clock } = services;
  const shop = loadShop(db);
  const order = orderWith(db, contact.id, product.id, shop.settings.mode);
  enqueue(db, services, mail, {
    payload: ownedMail(letterhead(services), { product: product.name, to: contact, orderUrl: order ? mailedAddress(services, order) : null }),
    idempotencyKey: `owned ${contact.id} ${product.id} ${Math.floor(clock.now() / DAY_MS)}`,
    orderId: order?.id ?? null,
    contactId: contact.id,
  });
}
