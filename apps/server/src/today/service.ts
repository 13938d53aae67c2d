import { ProductListQuerySchema } from '@ruta/core/catalog';
import { type Currency, formatMoney } from '@ruta/core/money';
import { startOfDay } from '@ruta/core/shop';
import type { Today } from '@ruta/core/today';
import { and, desc, eq, gte, isNotNull, isNull, sql } from 'drizzle-orm';
import { backupState } from '../backups/job';
import { outboxWords } from '../base/outbox/registry';
import { outbox } from '../base/outbox/tables';
import type { Services } from '../base/services';
import { countKeys } from '../catalog/keys';
import { countProducts } from '../catalog/list';
import { sellingPastedKeys } from '../catalog/store';
import { countLeftCarts } from '../checkout/leftCarts';
import { contacts } from '../contacts/tables';
import { listTests } from '../experiments/view';
import { listFunnels, publishedAt } from '../funnel/store';
import { hasSold } from '../orders/store';
import { charges, refunds } from '../orders/tables';
import { takesCards } from '../payments/accounts';
import { openDisputes } from '../payments/givenBack';
import { salesBy } from '../reports/sales';
import type { Scope } from '../reports/scope';
import { unusualDays } from '../reports/unusual';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';

const DAY_MS = 24 * 60 * 60 * 1000;
const USUAL_DAYS = 28;
/** So long a refund that was refused stands among what waits for a person. */
const KEPT_REFUSALS_MS = 6 * DAY_MS;
/** After so many tries that did not work a person is told. */
const LATE_TRIES = 4;
/** How many things that were not sent are named one by one. */
const MOST_FAILED = 8;

/** What needs a person, yesterday against the usual, and what a new shop does next. */
export function todayOf(services: Tracked): Today {
  const { db, clock } = services;

  const figures = (from: number, until: number) => {
    // The same figures as Insight has: what was given back of a day's sales is off that day.
    const scope: Scope = { from, until, days: { from: '', to: '' }, funnelId: undefined, filter: undefined, orderIds: null };
    const { orders: sold = 0, revenue = 0 } = salesBy(db, null, scope).get('') ?? {};
    const leads = db
      .select({ leads: sql<number>`count(*)` })
      .from(contacts)
      .where(and(gte(contacts.createdAt, from), sql`${contacts.createdAt} < ${until}`))
      .get();
    return { orders: sold ?? 0, revenue: revenue ?? 0, leads: leads?.leads ?? 0 };
  };

  const { settings } = loadShop(db);
  const today = startOfDay(clock.now(), settings.timeZone);
  const yesterday = startOfDay(today - DAY_MS / 2, settings.timeZone);
  const before = figures(yesterday - USUAL_DAYS * DAY_MS, yesterday);
  const funnels = listFunnels(db);
  const firstFunnel = funnels.at(-1);
  const nextSteps = [
    {
      done: countProducts(db, ProductListQuerySchema.parse({ free: 'false' })) > 0,
      title: 'Add something to sell',
      detail: 'A name, a price and, if it is digital, its file.',
      link: '/catalog/new',
    },
    { done: funnels.length > 0, title: 'Start a funnel', detail: 'Choose a shape; every page comes at once.', link: '/funnels/new' },
    { done: takesCards(services, settings.mode), title: 'Connect payments', detail: 'One click opens an account at the card processor.', link: '/connections' },
    {
      done: publishedAt(db).size > 0,
      title: 'Publish',
      detail: 'Look at the pages, then put them live.',
      link: firstFunnel ? `/funnels/${firstFunnel.id}/map` : '/funnels',
    },
    {
      done: hasSold(db),
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
    unusual: unusualDays(services),
    needs: [...unwritten(services), ...backupNeeds(services), ...needsOf(services, yesterday), ...testsToDecide(services)].map(withAction),
  };
}

type Need = Omit<Today['needs'][number], 'action'>;

/** What is done about something, by where it is done. */
const ACTIONS: ReadonlyArray<[place: string, action: string]> = [
  ['/sales/orders/', 'Open the order'],
  ['/sales/carts', 'See these carts'],
  ['/catalog/', 'Paste more keys'],
  ['/experiments/', 'Open the test'],
  ['/settings', 'See the settings'],
  ['/connections', 'See the connections'],
];
const withAction = (need: Need): Today['needs'][number] => ({ ...need, action: ACTIONS.find(([place]) => need.link.startsWith(place))?.[1] ?? 'Look' });

/** Nothing is more pressing than that nothing can be written down. */
function unwritten({ writes }: Tracked): Need[] {
  const trouble = writes.standing();
  if (!trouble) return [];
  return [
    {
      title: 'Nothing can be written down',
      detail: `Because ${trouble.why}. Nobody can buy until it is mended; what was paid already is finished by itself then.`,
      link: '/settings',
    },
  ];
}

/** A shop without a backup of the last two days has none worth speaking of. */
function backupNeeds(services: Tracked): Need[] {
  const { newestAt, problem } = backupState(services);
  const isOld = newestAt !== null && services.clock.now() - newestAt > 2 * DAY_MS;
  if (problem === null && !isOld) return [];
  const last = newestAt === null ? 'There is none yet.' : `The newest one is ${Math.floor((services.clock.now() - newestAt) / DAY_MS)} days old.`;
  return [{ title: 'No backup could be made', detail: `${problem ?? ''} ${last} It is tried again every hour.`.trim(), link: '/settings' }];
}

/** So long a test that has ended is told. */
const TOLD_MS = 3 * DAY_MS;

/** Tests that can be decided, that something is wrong with, and what came of those that have just ended. */
function testsToDecide(services: Tracked): Need[] {
  const now = services.clock.now();
  return listTests(services, { search: '' }).flatMap(({ id, name, state, outcome, words, verdict, endedAt }) => {
    const link = `/experiments/${id}`;
    if (state === 'running' && verdict !== null && verdict !== 'go-on') {
      return [{ title: verdict === 'not-to-be-trusted' ? `Something is wrong with “${name}”` : `“${name}” can be decided`, detail: words, link }];
    }
    if (state === 'ended' && outcome && endedAt !== null && now - endedAt < TOLD_MS) return [{ title: `“${name}” has ended`, detail: words, link }];
    return [];
  });
}

/** What waits for a person: things that were not sent or settled, carts that were left, keys that run out. */
function needsOf({ db }: Pick<Services, 'db'>, since: number): Need[] {
  const list: Need[] = [];
  const count = (query: { n: number } | undefined) => query?.n ?? 0;
  const n = sql<number>`count(*)`;
  const failed = db.select().from(outbox).where(isNotNull(outbox.failedAt)).orderBy(desc(outbox.failedAt)).limit(MOST_FAILED).all();
  for (const row of failed) {
    const words = outboxWords(row.kind, row.payload);
    list.push({
      title: `${words?.subject ?? row.kind}: not sent`,
      detail: `${words?.to ?? 'The other side'} did not take it for three days. ${row.orderId ? 'Open the order to send it again.' : 'See the connections.'}`,
      link: row.orderId ? `/sales/orders/${row.orderId}` : '/connections',
    });
  }
  const owed = db
    .select()
    .from(outbox)
    .where(and(eq(outbox.kind, 'void-charge'), isNull(outbox.sentAt), isNull(outbox.failedAt), gte(outbox.attempts, LATE_TRIES)))
    .all();
  for (const { orderId, lastError } of owed)
    list.push({
      title: 'Money that pays for nothing is not back yet',
      detail: `${lastError ?? ''} It is tried until it is.`.trim(),
      link: orderId ? `/sales/orders/${orderId}` : '/connections',
    });
  for (const { orderId, amount, currency } of openDisputes(db))
    list.push({
      title: 'A buyer’s bank asks for their money',
      detail: `${formatMoney(amount, currency as Currency)}. Answer at the processor before its day is over.`,
      link: `/sales/orders/${orderId}`,
    });
  const refused = db
    .select({ id: refunds.id, orderId: refunds.orderId, failure: refunds.failure })
    .from(refunds)
    .where(and(eq(refunds.state, 'refused'), gte(refunds.doneAt, since - KEPT_REFUSALS_MS)))
    .all();
  for (const { orderId, failure } of refused)
    list.push({ title: 'A refund was refused by the processor', detail: `${failure} Nothing was given back.`, link: `/sales/orders/${orderId}` });
  const unsettled = count(db.select({ n }).from(charges).where(eq(charges.state, 'pending')).get());
  if (unsettled > 0)
    list.push({
      title: `${unsettled} ${unsettled === 1 ? 'payment waits' : 'payments wait'} for the processor`,
      detail: 'Ruta keeps asking; nothing is charged twice.',
      link: '/connections',
    });
  const left = countLeftCarts(db, { since, search: '' });
  if (left > 0)
    list.push({
      title: `${left} ${left === 1 ? 'cart was' : 'carts were'} left since yesterday`,
      detail: 'These people gave their address at the checkout and did not pay.',
      link: `/sales/carts?since=${since}`,
    });
  for (const product of sellingPastedKeys(db)) {
    const { waiting } = countKeys(db, product.id);
    if (waiting <= product.warnAt) {
      list.push({
        title: waiting === 0 ? `No licence keys are left for ${product.name}` : `${waiting} licence keys are left for ${product.name}`,
        detail: waiting === 0 ? 'It cannot be sold until you paste more.' : 'Paste more before they run out.',
        link: `/catalog/${product.id}`,
      });
    }
  }
  return list;
}
