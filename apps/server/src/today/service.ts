import { isFree } from '@ruta/core';
import { and, eq, gte, isNotNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { countKeys } from '../catalog/keys';
import { listProducts } from '../catalog/store';
import { quaysideStatus } from '../connections/service';
import { contacts } from '../contacts/tables';
import { latestPublication, listFunnels } from '../funnel/store';
import { outbox } from '../outbox/tables';
import { carts, charges, orders } from '../sales/tables';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { startOfDay } from './day';

const FiguresSchema = z.object({ orders: z.int(), revenue: z.int(), leads: z.int() });

export const TodaySchema = z.object({
  currency: z.string(),
  today: FiguresSchema,
  yesterday: FiguresSchema,
  /** Daily mean of the 28 days before yesterday. */
  usual: z.object({ orders: z.number(), revenue: z.number(), leads: z.number() }),
  /** What a new shop does next; empty once all is done. */
  nextSteps: z.array(z.object({ done: z.boolean(), title: z.string(), detail: z.string(), link: z.string() })),
  /** What needs a person. */
  needs: z.array(z.object({ title: z.string(), detail: z.string(), link: z.string() })),
});
export type Today = z.infer<typeof TodaySchema>;

const DAY_MS = 24 * 60 * 60 * 1000;
const USUAL_DAYS = 28;

/** What needs a person, yesterday against the usual, and what a new shop does next. */
export async function todayOf(services: Services): Promise<Today> {
  const { db, clock } = services;

  const figures = (from: number, until: number) => {
    const sold = db
      .select({ orders: sql<number>`count(*)`, revenue: sql<number>`coalesce(sum(${orders.netGoods}), 0)` })
      .from(orders)
      .where(and(eq(orders.mode, 'live'), gte(orders.paidAt, from), sql`${orders.paidAt} < ${until}`, sql`${orders.total} > 0`))
      .get();
    const leads = db
      .select({ leads: sql<number>`count(*)` })
      .from(contacts)
      .where(and(gte(contacts.createdAt, from), sql`${contacts.createdAt} < ${until}`))
      .get();
    return { orders: sold?.orders ?? 0, revenue: sold?.revenue ?? 0, leads: leads?.leads ?? 0 };
  };

  const { settings } = loadShop(db);
  const today = startOfDay(clock.now(), settings.timeZone);
  const yesterday = startOfDay(today - DAY_MS / 2, settings.timeZone);
  const before = figures(yesterday - USUAL_DAYS * DAY_MS, yesterday);
  const products = listProducts(db);
  const funnels = listFunnels(db);
  const live = funnels.filter((funnel) => latestPublication(db, funnel.id));
  const quayside = await quaysideStatus(services);
  const sold = db.select({ id: orders.id }).from(orders).where(isNotNull(orders.paidAt)).limit(1).get();
  const firstFunnel = funnels.at(-1);
  const nextSteps = [
    {
      done: products.some((product) => !isFree(product)),
      title: 'Add something to sell',
      detail: 'A name, a price and, if it is digital, its file.',
      link: '/catalog/new',
    },
    { done: funnels.length > 0, title: 'Start a funnel', detail: 'Choose a shape; every page comes at once.', link: '/funnels/new' },
    { done: quayside.connected, title: 'Connect payments', detail: 'One click opens an account at the card processor.', link: '/connections' },
    {
      done: live.length > 0,
      title: 'Publish',
      detail: 'Look at the pages, then put them live.',
      link: firstFunnel ? `/funnels/${firstFunnel.id}/map` : '/funnels',
    },
    {
      done: sold !== undefined,
      title: 'Make a first sale',
      detail: 'Open your public address and buy it yourself with a test card.',
      link: firstFunnel ? `/funnels/${firstFunnel.id}/map` : '/funnels',
    },
  ];
  return {
    currency: settings.currency,
    today: figures(today, clock.now() + 1),
    yesterday: figures(yesterday, today),
    usual: { orders: before.orders / USUAL_DAYS, revenue: before.revenue / USUAL_DAYS, leads: before.leads / USUAL_DAYS },
    nextSteps: nextSteps.every((step) => step.done) ? [] : nextSteps,
    needs: needsOf(services, yesterday),
  };
}

/** What waits for a person: things that were not sent or settled, carts that were left, keys that run out. */
function needsOf({ db }: Pick<Services, 'db'>, since: number): Today['needs'] {
  const list: Today['needs'] = [];
  const count = (query: { n: number } | undefined) => query?.n ?? 0;
  const n = sql<number>`count(*)`;
  const gaveUp = count(db.select({ n }).from(outbox).where(isNotNull(outbox.failedAt)).get());
  if (gaveUp > 0)
    list.push({
      title: `${gaveUp} ${gaveUp === 1 ? 'mail or enrolment was' : 'mails and enrolments were'} not sent`,
      detail: 'The other side refused or did not answer. Open the orders to send again.',
      link: '/sales/orders',
    });
  const unsettled = count(db.select({ n }).from(charges).where(eq(charges.state, 'pending')).get());
  if (unsettled > 0)
    list.push({
      title: `${unsettled} ${unsettled === 1 ? 'payment waits' : 'payments wait'} for the processor`,
      detail: 'Ruta keeps asking; nothing is charged twice.',
      link: '/connections',
    });
  const left = count(
    db
      .select({ n })
      .from(carts)
      .where(and(sql`${carts.paidOrderId} is null`, gte(carts.updatedAt, since)))
      .get(),
  );
  if (left > 0)
    list.push({
      title: `${left} ${left === 1 ? 'cart was' : 'carts were'} left since yesterday`,
      detail: 'These people gave their address at the checkout and did not pay.',
      link: '/sales/contacts',
    });
  for (const product of listProducts(db)) {
    const { keys } = product.delivery;
    if (keys?.kind !== 'list') continue;
    const { waiting } = countKeys(db, product.id);
    if (waiting <= keys.warnAt) {
      list.push({
        title: waiting === 0 ? `No licence keys are left for ${product.name}` : `${waiting} licence keys are left for ${product.name}`,
        detail: waiting === 0 ? 'It cannot be sold until you paste more.' : 'Paste more before they run out.',
        link: `/catalog/${product.id}`,
      });
    }
  }
  return list;
}
