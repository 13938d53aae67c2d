import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { shiftDay } from '@ruta/core/reports';
import { DEFAULT_BRAND, dayFinder } from '@ruta/core/shop';
import type { TrackedEvent } from '@ruta/core/tracking';
import { sql } from 'drizzle-orm';
import { pino } from 'pino';
import { readConfig } from '../apps/server/src/base/config';
import { createProduct } from '../apps/server/src/catalog/service';
import { loadFunnel } from '../apps/server/src/funnel/store';
import { openServices } from '../apps/server/src/openServices';
import { report } from '../apps/server/src/reports/report';
import { createShop } from '../apps/server/src/shop/store';
import { createFunnel } from '../apps/server/src/templates/createFunnel';
import { selling } from '../apps/server/test/support/products';
import { inPairs, type Measurement } from './measure';

const EVENTS = 1_000_000;
const DAYS = 90;
const DAY_MS = 24 * 60 * 60 * 1000;
/** So many events one visitor leaves, on their way through the stops. */
const EACH = 4;
const PAIRS = 5;
const SOURCES = ['letter', 'radio', 'skylark', 'field-notes', ''];
const AT_ONCE = 20_000;

/** The step report over a million events of 90 days, against one scan of them that counts the same people. */
export async function reportBench(): Promise<Measurement> {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'ruta-report-'));
  const now = Date.UTC(2026, 5, 1, 12);
  const services = openServices({ ...readConfig({}), dataDir }, pino({ level: 'silent' }), { now: () => now });
  try {
    const { db, recorder } = services;
    const settings = { name: 'Perigee Lane', country: 'PT', currency: 'EUR' as const, timeZone: 'Europe/Lisbon', pricesIncludeTax: true };
    createShop(db, { ...settings, contactEmail: 'ines@perigeelane.test', mode: 'live' }, DEFAULT_BRAND);
    const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { kind: 'service' }));
    const funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: product.id });
    const stops = loadFunnel(db, funnelId).graph.steps.filter(({ kind }) => kind === 'sales' || kind === 'checkout');
    for (let done = 0; done < EVENTS; done += AT_ONCE) {
      db.transaction(() => {
        for (let index = done; index < done + AT_ONCE; index++) recorder.record(eventOf(index, funnelId, stops, now));
      });
    }
    const to = dayFinder(settings.timeZone)(now);
    const ours = () => report(services, { by: 'step', from: shiftDay(to, -DAYS), to, compare: 'none', funnelId, filter: undefined });
    const scan = () =>
      db.all<{ id: string; came: number }>(
        sql`SELECT step_id AS id, count(DISTINCT visitor_id) AS came FROM events WHERE funnel_id = ${funnelId} AND mode = 'live' AND at >= ${now - DAYS * DAY_MS} GROUP BY step_id`,
      );
    const counted = new Map(scan().map(({ id, came }) => [id, came]));
    for (const { key, figures } of ours().rows.filter((row) => counted.has(row.key))) {
      if (figures.came !== counted.get(key)) throw new Error(`${key}: ${figures.came} people, not ${counted.get(key)}`);
    }
    return await inPairs('report.million', 'ms', PAIRS, milliseconds(ours), milliseconds(scan));
  } finally {
    services.close();
    rmSync(dataDir, { recursive: true, force: true });
  }
}

const milliseconds = (action: () => unknown) => () => {
  const start = performance.now();
  action();
  return performance.now() - start;
};

function eventOf(index: number, funnelId: string, stops: ReadonlyArray<{ id: string }>, now: number): TrackedEvent {
  const visitor = Math.floor(index / EACH);
  const step = index % EACH;
  const source = SOURCES[visitor % SOURCES.length];
  return {
    id: `evt_${index.toString(36).padStart(12, '0')}`,
    at: now - Math.floor((((visitor * 7919) % 1_000_003) / 1_000_003) * (DAYS - 1) * DAY_MS) - DAY_MS / 2 + step * 1000,
    kind: step === 1 ? 'step.left' : 'page.viewed',
    mode: 'live',
    visitorId: `vis_${visitor.toString(36).padStart(9, '0')}`,
    visitId: null,
    funnelId,
    stepId: stops[step < 2 ? 0 : visitor % 3 === 0 ? 1 : 0]?.id ?? null,
    publicationId: null,
    orderId: null,
    contactId: null,
    device: visitor % 3 === 0 ? 'desktop' : 'phone',
    campaign: source ? { source, campaign: `${source}-${visitor % 4}` } : null,
    firstCampaign: null,
    clicks: null,
    arms: null,
    mayTell: true,
    data: {},
  };
}
