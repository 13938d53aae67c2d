import { words } from '@ruta/core/elements';
import { type ExperimentSettings, inArm } from '@ruta/core/experiments';
import { allElements, applyOperation, type PageDocument } from '@ruta/core/page';
import { openStep, saveArmPage } from '../../src/arms/armFunnel';
import { createProduct } from '../../src/catalog/service';
import { planTest } from '../../src/experiments/lifecycle';
import { viewTest } from '../../src/experiments/view';
import { publishFunnel } from '../../src/funnel/service';
import { loadFunnel, saveDraft } from '../../src/funnel/store';
import { createFunnel } from '../../src/templates/createFunnel';
import { makeEvent, placeOf } from '../../src/tracking/visitor';
import { selling } from './products';
import { type TestServices, testServices } from './services';

export const DAY = 24 * 60 * 60 * 1000;
let open: TestServices | null = null;
/** Closes the shop that was opened last. */
export function closeShop(): void {
  open?.end();
  open = null;
}

/** A live funnel that asks for an address, and people who come to it. */
export function testedShop() {
  const services = testServices();
  open = services;
  const { db, moment } = services;
  const gift = createProduct(services, selling('Moon Month', { kind: 'free' }));
  const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 13_800 }, { buyAgain: true }));
  const funnelId = createFunnel(services, { name: 'Moon Month', template: 'gift-first', productId: product.id, giftId: gift.id });
  for (const { id, draft, revision } of loadFunnel(db, funnelId).steps)
    saveDraft(db, id, revision, JSON.parse(JSON.stringify(draft).replaceAll('"placeholder":true', '"bold":true')), 1);
  publishFunnel(services, loadFunnel(db, funnelId), null);
  const { graph, funnel } = loadFunnel(db, funnelId);
  const optIn = graph.entryId;
  let count = 0;
  const who = (visitorId: string, device: 'phone' | 'desktop' = 'phone') => ({ visitorId, facts: () => ({ device }) });
  const seen = (visitorId: string, device?: 'phone' | 'desktop') => services.live.at(funnel.slug, undefined, who(visitorId, device));
  const happens = (kind: 'page.viewed' | 'lead.submitted', visitorId: string, device: 'phone' | 'desktop' = 'phone') => {
    const live = seen(visitorId, device);
    if (!live) throw new Error('Nobody is shown anything.');
    const event = makeEvent(services, kind, 'live', null, placeOf(live), `evt_${String(++count).padStart(10, '0')}`);
    services.recorder.record({ ...event, visitorId, device });
  };
  let people = 0;
  /** So many people come in a day; of each arm so many of a hundred leave their address, evenly. */
  const day = (visitorsADay: number, rates: Record<string, number>) => {
    const reached = new Map<string, number>();
    for (let index = 0; index < visitorsADay; index++) {
      const visitorId = `vis_${String(++people).padStart(8, '0')}`;
      happens('page.viewed', visitorId);
      const arm = headlineOf(seen(visitorId)?.page as PageDocument);
      const due = (reached.get(arm) ?? 0) + (rates[arm] ?? rates.all ?? 0);
      if (due >= 100) happens('lead.submitted', visitorId);
      reached.set(arm, due % 100);
    }
    moment.at += DAY;
  };
  return { services, funnelId, optIn, slug: funnel.slug, seen, who, happens, day };
}

export const headlineIn = (page: PageDocument) => allElements(page).find(({ type }) => type === 'headline') as { id: string; words: Array<{ text: string }> };
/** What the first headline of a page says. */
export const headlineOf = (page: PageDocument) =>
  headlineIn(page)
    .words.map(({ text }) => text ?? '…')
    .join('');
/** A page whose first headline says something else. */
export const written = (page: PageDocument, text: string) =>
  applyOperation(page, { kind: 'changeElement', elementId: headlineIn(page).id, changes: { words: words(text) } }).page;

/** A test on the headline of the first stop, with one arm that says something else. */
export function headlineTest({ services, funnelId, optIn }: ReturnType<typeof testedShop>, text = 'Read the sky tonight', name = 'Headline') {
  const planned = planTest(services, { funnelId, stepId: optIn, name });
  const step = openStep(services.db, inArm(optIn, planned.armId));
  saveArmPage(services, inArm(optIn, planned.armId), { revision: step.revision, page: written(step.draft, text) });
  return planned;
}
/** A test's settings as they are, to be changed. */
export const settingsOf = (services: TestServices, id: string): ExperimentSettings => {
  const { name, question, goal, change, audience, ends, lastDay, arms } = viewTest(services, id);
  return { name, question, goal, change, audience, ends, lastDay, arms: arms.map(({ id: armId, name: arm, share }) => ({ id: armId, name: arm, share })) };
};
