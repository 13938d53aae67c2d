import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { speakPlainly } from '@ruta/core/words';
import { loadExperiment } from './arms/store';
import { connectDb, type OpenDb } from './base/db';
import type { ReadingOrder } from './base/reading';
import { answerOf } from './base/threadAnswer';
import { cartsCsv, countAbandonedCarts, listAbandonedCarts } from './checkout/abandonedCarts';
import { funnelDetail, funnelStanding, hindrances } from './checks/detail';
import { listPublications } from './checks/publications';
import { readinessOf } from './experiments/hindrances';
import { decisionOf } from './experiments/roundView';
import { countedTest, listTests, picturesOf } from './experiments/view';
import { countListedContacts, listContacts } from './facts/contactsWho';
import { forecastBasis } from './forecast/basis';
import { scenariosOf } from './forecast/scenarios';
import { ordersCsv } from './orders/exportOrders';
import { countOrders } from './orders/list';
import { behind } from './reports/behind';
import { reportCsv } from './reports/csv';
import { figuresSince } from './reports/funnelFigures';
import { listFunnelRows } from './reports/funnelList';
import { report } from './reports/report';
import { todayFigures } from './today/figures';
import type { Looking } from './tracking/recorder';
import { RollUps } from './tracking/rollUps';

/** Everything that is looked at in a thread of its own, by its name. */
const QUESTIONS: Record<string, (services: Looking, input: never) => unknown> = {
  report,
  reportCsv: (services, query: Parameters<typeof report>[1]) => reportCsv(report(services, query)),
  behind,
  funnels: listFunnelRows,
  figures: (services, { funnelId, stepIds, days }: { funnelId: string; stepIds: string[]; days: number }) => figuresSince(services, funnelId, stepIds, days),
  forecastBasis: (services, { funnelId, period }: { funnelId: string; period: Parameters<typeof forecastBasis>[2] }) =>
    forecastBasis(services, funnelId, period),
  scenarios: scenariosOf,
  test: countedTest,
  tests: listTests,
  decision: decisionOf,
  pictures: picturesOf,
  readiness: (services, id: string) => readinessOf(services, loadExperiment(services.db, id)),
  funnel: funnelDetail,
  funnelStanding,
  hindrances,
  publications: listPublications,
  today: todayFigures,
  countOrders: ({ db }, query: Parameters<typeof countOrders>[1]) => countOrders(db, query),
  ordersCsv: ({ db }, query: Parameters<typeof ordersCsv>[1]) => ordersCsv(db, query),
  contacts: listContacts,
  countContacts: countListedContacts,
  cartsCsv: (services, { siteUrl, ...query }: Parameters<typeof cartsCsv>[1] & { siteUrl: string }) => cartsCsv({ ...services, siteUrl }, query),
  carts: (services, { siteUrl, ...query }: Parameters<typeof cartsCsv>[1] & { siteUrl: string }) => listAbandonedCarts({ ...services, siteUrl }, query),
  countCarts: countAbandonedCarts,
};

speakPlainly();
const { dataDir } = workerData as { dataDir: string };
let opened: OpenDb | null = null;
let now = 0;

function open(): OpenDb {
  opened ??= connectDb(path.join(dataDir, 'shop.sqlite'), { readonly: true });
  return opened;
}

parentPort?.on('message', (order: ReadingOrder) => {
  if (order.kind === 'forget') {
    // What is kept in memory is kept by the connection.
    opened?.close();
    opened = null;
    return;
  }
  try {
    const run = QUESTIONS[order.what];
    if (!run) throw new Error(`Nobody can be asked for ${order.what}.`);
    now = order.now;
    const { db } = open();
    // Whoever asks has written down before what was gathered.
    const recorder = { flush: () => {}, rollUps: new RollUps(db) };
    parentPort?.postMessage({ result: run({ db, clock: { now: () => now }, recorder }, order.input as never) });
  } catch (error) {
    parentPort?.postMessage(answerOf(error));
  }
});
