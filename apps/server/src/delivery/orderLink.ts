import { randomBytes } from 'node:crypto';
import { desc, eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import type { Services } from '../base/services';
import { mayWriteTo } from '../mail/fewMails';
import { letterhead } from '../mail/letterhead';
import { linkMail } from '../mail/linkMail';
import { orderAddress } from '../orders/address';
import { findOrder, findOrderByToken, type OrderRow } from '../orders/store';
import { orderLinks } from '../orders/tables';
import { received } from './received';
import { grantsOf } from './store';

const DAY_MS = 24 * 60 * 60 * 1000;
/** A link to an order holds at least so long. */
const LEAST_MS = 90 * DAY_MS;
/** One to goods that are the buyer's to keep holds so long at a time; a new one is mailed whenever it is asked for. */
const KEPT_MS = 365 * DAY_MS;
/** A mail carries a link that holds at least so long still. */
const FRESH_MS = 30 * DAY_MS;

type Needs = Pick<Services, 'db' | 'clock' | 'config'>;

/** An order by whatever link was ever made to it, with the moment since when that link holds. */
function linked(db: Db, token: unknown): { order: OrderRow; since: number } | undefined {
  if (typeof token !== 'string' || token.length < 16) return undefined;
  const first = findOrderByToken(db, token);
  if (first) return first.paidAt === null ? undefined : { order: first, since: first.paidAt };
  const later = db.select().from(orderLinks).where(eq(orderLinks.token, token)).get();
  const order = later && findOrder(db, later.orderId);
  // From here on it is known by the link that was followed.
  return order && later ? { order: { ...order, token }, since: later.since } : undefined;
}

/** When a link ends: not before what was promised does, as far as that has an end. Unix time in milliseconds. */
function endOf({ db }: Pick<Services, 'db'>, order: OrderRow, since: number): number {
  const files = grantsOf(db, [order.id]);
  const { links, keys } = received({ db }, order);
  const isKept = links.length + keys.length > 0 || files.some(({ until }) => until === null);
  return Math.max(since + (isKept ? KEPT_MS : LEAST_MS), ...files.map(({ until }) => until ?? 0));
}

/** The paid order that a token stands for; undefined if there is none or the link has ended. */
export function orderByToken(services: Pick<Services, 'db' | 'clock'>, token: unknown): OrderRow | undefined {
  const found = linked(services.db, token);
  const now = services.clock.now();
  // What came with an order is looked at only where it matters.
  return found && (now < found.since + LEAST_MS || now < endOf(services, found.order, found.since)) ? found.order : undefined;
}

/** The same, also by a link that has ended. */
export const anyOrderByToken = (db: Db, token: unknown): OrderRow | undefined => linked(db, token)?.order;

/** The address of an order for a mail to its buyer: the newest link, or a new one where that ends soon. */
export function mailedAddress(services: Needs, order: OrderRow): string {
  const { db, clock } = services;
  const now = clock.now();
  const newest = db.select().from(orderLinks).where(eq(orderLinks.orderId, order.id)).orderBy(desc(orderLinks.since)).limit(1).get();
  const since = newest?.since ?? order.paidAt ?? now;
  if (now + FRESH_MS < since + LEAST_MS || now + FRESH_MS < endOf(services, order, since)) {
    return orderAddress(services, newest?.token ?? findOrder(db, order.id)?.token ?? order.token);
  }
  const token = randomBytes(24).toString('base64url');
  db.insert(orderLinks).values({ token, orderId: order.id, since: now }).run();
  return orderAddress(services, token);
}

/**
 * Mails the buyer of an order a link that holds; whoever asks, it goes to nobody else.
 * @returns whether it is on its way; it is not where that address has had its mails of the day
 */
export function sendNewLink(services: Services, order: OrderRow): boolean {
  if (!mayWriteTo(services, order.buyer.email)) return false;
  const { db, clock } = services;
  const minute = Math.floor(clock.now() / 60_000);
  db.transaction((tx) =>
    enqueue(tx, services, mail, {
      payload: linkMail(letterhead(services, order.funnelId), {
        number: order.number,
        test: order.mode === 'test',
        to: order.buyer.email,
        orderUrl: mailedAddress(services, order),
      }),
      idempotencyKey: `order link ${order.id} ${minute}`,
      orderId: order.id,
      contactId: order.contactId,
    }),
  );
  return true;
}
