import type { CartLine } from '@ruta/core/checkout';
import { buyerOf, type OrderValues } from '@ruta/core/checkout';
import type { Quote } from '@ruta/core/pricing';
import { and, desc, eq, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import { newToken } from '../base/ids';
import type { Services } from '../base/services';
import type { LiveStep } from '../funnel/live';
import { orderOfCart, wasPaid } from '../orders/store';
import { loadShop } from '../shop/store';
import { NEW_CARTS } from './fewTries';
import { carts } from './tables';

export type CartRow = typeof carts.$inferSelect;

const given = (name: string) => sql.placeholder(name);
const byId = builtOnce((db) =>
  db
    .select()
    .from(carts)
    .where(eq(carts.id, sql.placeholder('cartId')))
    .prepare(),
);

const latestOfVisitor = builtOnce((db) =>
  db
    .select()
    .from(carts)
    .where(and(eq(carts.visitorId, given('visitorId')), eq(carts.stepId, given('stepId'))))
    .orderBy(desc(sql`rowid`))
    .limit(1)
    .prepare(),
);
const addCart = builtOnce((db) =>
  db
    .insert(carts)
    .values({
      id: given('id'),
      visitorId: given('visitorId'),
      funnelId: given('funnelId'),
      stepId: given('stepId'),
      mode: given('mode'),
      lines: given('lines'),
      buyer: given('buyer'),
      code: given('code'),
      total: given('total'),
      token: given('token'),
      createdAt: given('createdAt'),
      updatedAt: given('updatedAt'),
    })
    .prepare(),
);

/** The latest cart a visitor began at a checkout. */
export function latestCart(db: Db, visitorId: string, stepId: string): CartRow | undefined {
  return latestOfVisitor(db).get({ visitorId, stepId });
}

/** The cart that a mailed link stands for. */
export function cartByToken(db: Db, token: string): CartRow | undefined {
  return token.length < 16 ? undefined : db.select().from(carts).where(eq(carts.token, token)).get();
}

export interface SavedCart {
  isNew: boolean;
  /** False if the cart is another checkout's or somebody else's; then it is left as it is. */
  belongs: boolean;
  /** More were begun by this person than one begins: it was not kept. */
  isOneTooMany?: true;
}

/** What a cart is worth to the shop: what is to be paid at once, or with a free trial the first charge after it; minor units. */
const cartValue = ({ dueToday, later }: Pick<Quote, 'dueToday' | 'later'>): number => dueToday || (later[0]?.total ?? 0);

/** Saves a cart that has an address, so that it is known who left and with what. A paid cart is left as it is. */
export function saveCart(
  { db, clock, limits }: Pick<Services, 'db' | 'clock' | 'limits'>,
  live: LiveStep,
  cartId: string,
  { visitorId, person }: { visitorId: string | null; person: string },
  { lines, quote }: { lines: CartLine[]; quote: Pick<Quote, 'dueToday' | 'later'> },
  values: OrderValues,
): SavedCart {
  const now = clock.now();
  const content = { lines, buyer: buyerOf(values), code: values.code?.trim() || null, total: cartValue(quote), updatedAt: now };
  const known = byId(db).get({ cartId });
  if (known && (known.stepId !== live.step.id || (known.visitorId && known.visitorId !== visitorId))) return { isNew: false, belongs: false };
  if (!known) {
    if (!limits.take(NEW_CARTS, person)) return { isNew: false, belongs: true, isOneTooMany: true };
    const place = { id: cartId, visitorId, funnelId: live.publication.funnelId, stepId: live.step.id, mode: loadShop(db).settings.mode };
    addCart(db).run({ ...place, ...content, token: newToken(), createdAt: now });
  } else if (!wasPaid(orderOfCart(db, cartId)?.state ?? 'open')) {
    db.update(carts).set(content).where(eq(carts.id, cartId)).run();
  }
  return { isNew: !known, belongs: true };
}
