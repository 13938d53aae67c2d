import type { TrackedEvent } from '@ruta/core/tracking';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { loadFunnel } from '../src/funnel/store';
import { unusualDays } from '../src/reports/unusual';
import { createFunnel } from '../src/templates/createFunnel';
import { todayOf } from '../src/today/service';
import { selling } from './support/products';
import { type TestServices, testServices } from './support/services';

const DAY = 24 * 60 * 60_000;
const DAYS = 60;
let services: TestServices;
let funnelId: string;
beforeEach(() => {
  services = testServices();
  const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { kind: 'service' }));
  funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: product.id });
});
afterEach(() => services.end());

let count = 0;
/** So many come on a day of so long ago, of whom some go on from the sales page. */
function come(ago: number, visitors: number, goOn: number, source = 'letter'): void {
  const step = loadFunnel(services.db, funnelId).graph.steps.find(({ kind }) => kind === 'sales');
  for (let index = 0; index < visitors; index++) {
    const visitorId = `vis_unusual${++count}`;
    for (const kind of index < goOn ? (['page.viewed', 'step.left'] as const) : (['page.viewed'] as const)) {
      const event = {
        id: `evt_${kind.replace('.', '')}${count}`,
        at: services.moment.at - ago * DAY,
        kind,
        mode: 'live',
        visitorId,
        funnelId,
        stepId: step?.id,
      };
      const rest = {
        visitId: null,
        publicationId: null,
        orderId: null,
        contactId: null,
        device: 'phone',
        campaign: { source },
        firstCampaign: null,
        clicks: null,
      };
      services.recorder.record({ ...event, ...rest, mayTell: true, data: {} } as TrackedEvent);
    }
  }
}

it('says nothing of a quiet shop, nor of a new one', () => {
  expect(unusualDays(services)).toEqual([]);
  for (let ago = DAYS; ago >= 1; ago--) come(ago, 60 + ((ago * 7) % 9), 18 + (ago % 4));
  expect(todayOf(services).unusual).toEqual([]);
});

it('says which stop lost its people and which source is silent, in words, with numbers that are there, and why', () => {
  for (let ago = DAYS; ago >= 1; ago--) {
    come(ago, 60, ago <= 2 ? 2 : 20);
    if (ago > 1) come(ago, 30, 10, 'radio');
  }
  const found = unusualDays(services);
  // Two days: 60 + 60 + 30 came and 2 + 2 + 10 went on; in the 28 days before 90 a day, of whom 30.
  expect(found.find(({ title }) => title.includes('of Sale'))).toMatchObject({
    title: expect.stringMatching(/of Sale: 9\.3 % went on in the last 2 days, usually 33\.3 %$/),
    detail: expect.stringMatching(/^14 of 150 against 840 of 2520 in the 28 days before\. Chance alone does that .*once in [\d,]+ times\.$/),
    link: `/funnels/${funnelId}/results`,
  });
  expect(found.find(({ title }) => title.startsWith('Visitors from radio'))).toMatchObject({
    title: 'Visitors from radio: 0 yesterday, usually 30',
    detail: expect.stringContaining('the same weekday of 8 weeks'),
  });
  expect(found.some(({ title }) => title.startsWith('Visitors from letter'))).toBe(false);
});
