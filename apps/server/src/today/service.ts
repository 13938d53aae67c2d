import { ProductListQuerySchema } from '@ruta/core/catalog';
import { type Currency, formatMoney } from '@ruta/core/money';
import { CONSEQUENCE_WORDS } from '@ruta/core/orders';
import { localMoment, startOfDay } from '@ruta/core/shop';
import type { Today } from '@ruta/core/today';
import { and, desc, eq, gte, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { backupState } from '../backups/job';
import { outboxWords } from '../base/outbox/registry';
import { outbox } from '../base/outbox/tables';
import type { Services } from '../base/services';
import { countKeys } from '../catalog/keys';
import { countProducts } from '../catalog/list';
import { sellingPastedKeys } from '../catalog/store';
import { countAbandonedCarts } from '../checkout/abandonedCarts';
import { strayedDomains } from '../domains/store';
import { listFunnels, publishedAt } from '../funnel/store';
import { hasSold, openTroubles } from '../orders/store';
import { charges, refunds } from '../orders/tables';
import { takesCards } from '../payments/accounts';
import { openDisputes } from '../payments/givenBack';
import { isProcessorSilent } from '../payments/silent';
import { openUnknown } from '../payments/unknownCharges';
import { loadShop } from '../shop/store';
import { unproved } from '../taxNumbers/proofs';
import type { Tracked } from '../tracking/recorder';
import { type Need, type TodayFigures, todayFigures } from './figures';

const DAY_MS = 24 * 60 * 60 * 1000;
/** So long a refund that was refused stands among what waits for a person. */
const KEPT_REFUSALS_MS = 6 * DAY_MS;
/** After so many tries that did not work a person is told. */
const LATE_TRIES = 4;
/** How many things that were not sent are named one by one. */
const MOST_FAILED = 8;

/**
 * What needs a person, yesterday against the usual, and what a new shop does next.
 * @param seen what of it grows with the shop, where that is counted elsewhere
 */
export function todayOf(services: Tracked, { figures, unusual, tests }: TodayFigures = todayFigures(services)): Today {
  const { db, clock } = services;

  const { settings } = loadShop(db);
  const yesterday = startOfDay(startOfDay(clock.now(), settings.timeZone) - DAY_MS / 2, settings.timeZone);
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
      title: settings.mode === 'test' ? 'Make a test purchase' : 'Make a first sale',
      detail: 'Open your public address and buy it yourself with a test card.',
      link: firstFunnel ? `/funnels/${firstFunnel.id}/map` : '/funnels',
    },
    { done: settings.mode === 'live', title: 'Go live', detail: 'From then on the checkout charges real money.', link: '/settings/go-live' },
  ];
  return {
    currency: settings.currency,
    ...figures,
    nextSteps: nextSteps.every((step) => step.done) ? [] : nextSteps,
    unusual,
    needs: [...unwritten(services), ...backupNeeds(services), ...needsOf(services, yesterday), ...tests].map(withAction),
  };
}

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

/** What waits for a person: things that were not sent or settled, carts that were left, keys that run out. */
function needsOf(services: Pick<Services, 'db' | 'clock'>, since: number): Need[] {
  const { db } = services;
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
  if (isProcessorSilent(services))
    list.push({
      title: 'Card payments do not go through',
      detail: 'The card processor did not respond to the latest payment. Customers are asked to try again. Check whether the processor reports an outage.',
      link: '/connections',
    });
  for (const { host, problems } of strayedDomains(db))
    list.push({ title: `${host} is no longer connected`, detail: problems.join(' ') || 'Check its DNS records.', link: '/settings/domains' });
  const owed = db
    .select()
    .from(outbox)
    .where(and(inArray(outbox.kind, ['void-charge', 'refund']), isNull(outbox.sentAt), isNull(outbox.failedAt), gte(outbox.attempts, LATE_TRIES)))
    .all();
  for (const { orderId, lastError, kind } of owed)
    list.push({
      title: kind === 'refund' ? 'A refund is not at its buyer yet' : 'Money that pays for nothing is not back yet',
      detail: `${lastError ?? ''} It is tried until it is.`.trim(),
      link: orderId ? `/sales/orders/${orderId}` : '/connections',
    });
  for (const { orderId, amount, currency } of openDisputes(db))
    list.push({
      title: 'A buyer’s bank asks for their money',
      detail: `${formatMoney(amount, currency as Currency)}. Answer at the processor before its day is over.`,
      link: `/sales/orders/${orderId}`,
    });
  for (const { amount, currency, cardLast4 } of openUnknown(db).slice(0, MOST_FAILED))
    list.push({
      title: `${formatMoney(amount, currency)} was taken that no order here knows of`,
      detail: `${cardLast4 ? `From the card ending ${cardLast4}. ` : ''}Most likely it was paid after the backup that was put back. Refund it, or note that you have dealt with it.`,
      link: '/connections',
    });
  for (const { orderId, what } of openTroubles(db).slice(0, MOST_FAILED))
    list.push({
      title: `A paid order lacks something: ${CONSEQUENCE_WORDS[what]}`,
      detail: 'The money was taken and is written down. Open the order to see why, and to do it again.',
      link: `/sales/orders/${orderId}`,
    });
  for (const { orderId, orderNumber, number, state } of unproved(db).slice(0, MOST_FAILED))
    list.push(
      state === 'unknown'
        ? {
            title: `The register does not know the tax number of order ${orderNumber}`,
            detail: `${number} was taken as it was while the register did not answer, and no tax was charged. Ask the buyer, refund the order, or note that you have dealt with it.`,
            link: `/sales/orders/${orderId}`,
          }
        : {
            title: `The register has not answered for order ${orderNumber} yet`,
            detail: `No tax was charged for ${number}. It is asked again every ten minutes.`,
            link: `/sales/orders/${orderId}`,
          },
    );
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
  const from = localMoment(since, loadShop(db).settings.timeZone).date;
  const abandoned = countAbandonedCarts(services, { from, search: '' });
  if (abandoned.count > 0)
    list.push({
      title: `${abandoned.count} abandoned ${abandoned.count === 1 ? 'cart' : 'carts'} since yesterday`,
      detail: 'These people gave their email at the checkout and did not pay within an hour.',
      link: `/sales/carts?from=${from}`,
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
