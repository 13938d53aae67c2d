import { inArm } from '@ruta/core/experiments';
import type { Step } from '@ruta/core/funnel';
import { mainOffer } from '@ruta/core/offers';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { afterEach, describe, expect, it } from 'vitest';
import { changeArmMap, openFunnel } from '../src/arms/armFunnel';
import { loadProduct } from '../src/catalog/store';
import { changeTest, planTest, startTest } from '../src/experiments/lifecycle';
import { viewTest } from '../src/experiments/view';
import { watchTests } from '../src/experiments/watch';
import { loadFunnel } from '../src/funnel/store';
import { openOrder } from '../src/orders/write';
import { markPaid } from '../src/payments/fulfil';
import { loadShop } from '../src/shop/store';
import { makeEvent, placeOf } from '../src/tracking/visitor';
import { closeShop, DAY, settingsOf, testedShop } from './support/testedShop';

afterEach(closeShop);

describe('a test on a price', () => {
  it('is decided by what each visitor brings, and the price that earns more takes the place', async () => {
    const { services, funnelId, slug, who } = testedShop();
    const { db, moment } = services;
    const checkout = loadFunnel(db, funnelId).graph.steps.find(({ kind }) => kind === 'checkout');
    const offer = checkout && mainOffer(checkout);
    if (!checkout || !offer) throw new Error('Nothing is sold.');
    const product = loadProduct(db, offer.productId);
    let people = 0;
    /** So many come to the checkout; of those who see the discount more buy than of the others. */
    const day = (count: number) => {
      const due = { full: 0, half: 0 };
      for (let index = 0; index < count; index++) {
        const visitorId = `vis_${String(++people).padStart(8, '0')}`;
        const live = services.live.step(checkout.id, who(visitorId));
        const sold = live && mainOffer(live.step);
        if (!live || !sold) throw new Error('There is no checkout.');
        const event = makeEvent(services, 'page.viewed', 'live', null, placeOf(live), `evt_${String(people).padStart(10, '0')}price`);
        services.recorder.record({ ...event, visitorId, device: 'desktop' });
        const price = sold.discount ? 'half' : 'full';
        due[price] += price === 'half' ? 60 : 15;
        if (due[price] < 100) continue;
        due[price] -= 100;
        const line = cartLine('main', 'main', product, {}, { discount: sold.discount ?? undefined });
        const quote = storedQuote(quoteCart(loadShop(db), { lines: [line], buyer: { country: 'PT' } }, moment.at));
        const buyer = { email: `buyer${people}@moonmail.test`, firstName: 'Ilse', lastName: '', country: 'PT' };
        const { funnelId: of, stepId, publicationId } = placeOf(live);
        const { order, payment } = openOrder(db, services, {
          ...{ funnelId: of, stepId, publicationId, cartId: `crt_${String(people).padStart(10, '0')}`, visitorId, mode: 'live', codeId: null, campaign: null },
          ...{ quote, buyer, arms: live.arms },
        });
        markPaid(db, services, order, payment);
      }
      moment.at += DAY;
    };
    for (let index = 0; index < 4; index++) day(60);
    const { id, armId } = planTest(services, { funnelId, stepId: checkout.id, name: 'Half the price', goal: 'revenue' });
    const arm = inArm(funnelId, armId);
    const sells = checkout.sells.map((each) => ({ ...each, discount: { kind: 'percent' as const, percent: 50, base: 'current' as const } }));
    changeArmMap(
      services,
      arm,
      { revision: openFunnel(db, arm).funnel.revision, operations: [{ kind: 'changeStep', stepId: checkout.id, changes: { sells } }] },
      () => undefined,
    );
    changeTest(services, id, { ...settingsOf(services, id), change: 1 });
    expect(viewTest(services, id)).toMatchObject({ hindrances: [], baseline: { visitors: 240 } });
    startTest(services, id);
    for (let index = 0; index < 9; index++) {
      day(120);
      await watchTests(services);
    }
    const ended = viewTest(services, id);
    const [original, half] = ended.rounds[0]?.result.arms ?? [];
    expect(ended).toMatchObject({ state: 'ended', rounds: [{ outcome: 'winner' }] });
    // 138.00 with 23 % tax are 112.20 to 15 of a hundred; half of it, 56.10, to 60 of them.
    expect((original?.revenue?.perVisitor ?? 0) / 100).toBeCloseTo(112.2 * (original?.rate ?? 0), 0);
    expect((half?.revenue?.perVisitor ?? 0) / 100).toBeCloseTo(56.1 * (half?.rate ?? 0), 0);
    expect(half?.revenue?.perVisitor ?? 0).toBeGreaterThan(original?.revenue?.perVisitor ?? 0);
    // Everybody is offered it now, at the same address.
    for (const visitor of ['vis_someone1', 'vis_someone2', 'vis_someone3']) {
      expect(mainOffer(services.live.at(slug, checkout.slug, who(visitor))?.step as Step)?.discount).toMatchObject({ percent: 50 });
    }
  });
});
