import { forecast, NO_SCENARIO } from '@ruta/core/forecast';
import { newOffer } from '@ruta/core/offers';
import { ProgramSchema } from '@ruta/core/partners';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { dayFinder } from '@ruta/core/shop';
import type { TrackedEvent } from '@ruta/core/tracking';
import { eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { createProduct } from '../src/catalog/service';
import { loadProduct } from '../src/catalog/store';
import { forecastBasis } from '../src/forecast/basis';
import { keepScenario, removeScenario, scenariosOf } from '../src/forecast/scenarios';
import { loadFunnel } from '../src/funnel/store';
import { steps } from '../src/funnel/tables';
import { linesOf } from '../src/orders/store';
import { openOrder } from '../src/orders/write';
import { savePartner, saveProgram } from '../src/partners/store';
import { markPaid } from '../src/payments/fulfil';
import { giveMoneyBack } from '../src/payments/refund';
import { report } from '../src/reports/report';
import { loadShop, saveShop } from '../src/shop/store';
import { createFunnel } from '../src/templates/createFunnel';
import { selling } from './support/products';
import { testServices } from './support/services';

it('begins with what really happened, so that a forecast of nothing changed comes to what the reports say', () => {
  const services = testServices();
  const { settings } = loadShop(services.db);
  const product = createProduct(
    services,
    selling('First Light', { kind: 'instalments', regular: 24_600, count: 2, interval: { every: 1, unit: 'month' } }, { kind: 'service', buyAgain: true }),
  );
  const [edition] = loadProduct(services.db, product.id).editions;
  saveShop(services, { settings: { ...settings, costs: { feePercent: 2, feeFixed: 25, sendingPercent: 100, goods: { [edition?.id ?? '']: 10_00 } } } });
  const funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: product.id });
  const { graph } = loadFunnel(services.db, funnelId);
  const stepOf = (kind: string) => graph.steps.find((step) => step.kind === kind)?.id ?? '';
  let count = 0;
  const happens = (visitorId: string, stepId: string, kind: string, data: object = {}) =>
    services.recorder.record({
      id: `evt_${String(count++).padStart(10, '0')}`,
      at: services.moment.at,
      kind,
      mode: 'live',
      visitorId,
      visitId: null,
      funnelId,
      stepId,
      publicationId: null,
      orderId: null,
      contactId: null,
      device: 'phone',
      campaign: null,
      firstCampaign: null,
      clicks: null,
      mayTell: true,
      data,
    } as TrackedEvent);
  const toCheckout = graph.routes.find(({ from, outcome }) => from === stepOf('sales') && outcome === 'next')?.id ?? '';
  // Ten come, six go on, three pay 123.00 today and 123.00 later; one of them gets it back.
  const orders = Array.from({ length: 10 }, (_, index) => {
    const visitor = `vis_person${index}`;
    happens(visitor, stepOf('sales'), 'page.viewed');
    if (index >= 6) return null;
    happens(visitor, stepOf('sales'), 'step.left');
    happens(visitor, stepOf('sales'), 'route.taken', { routeId: toCheckout });
    happens(visitor, stepOf('checkout'), 'page.viewed');
    if (index >= 3) return null;
    const quote = storedQuote(
      quoteCart(
        loadShop(services.db),
        { lines: [cartLine('main', 'main', loadProduct(services.db, product.id))], buyer: { country: 'PT' } },
        services.moment.at,
      ),
    );
    const buyer = { email: `buyer${index}@moonmail.test`, firstName: 'Ilse', lastName: '', country: 'PT' };
    const made = {
      funnelId,
      stepId: stepOf('checkout'),
      cartId: `crt_00000000${index}`,
      visitorId: null,
      mode: 'live' as const,
      quote,
      codeId: null,
      buyer,
      campaign: null,
    };
    const { order, payment } = openOrder(services.db, services, made);
    markPaid(services.db, services, order, payment);
    happens(visitor, stepOf('checkout'), 'order.paid', { value: 12_300 });
    return order.id;
  });
  const [line] = linesOf(services.db, orders[0] ?? '');
  giveMoneyBack(services, orders[0] ?? '', {
    id: 'rfd_0000000001',
    lines: [{ id: line?.id ?? '', amount: 12_300 }],
    way: 'noted',
    reason: '',
    takesBack: true,
    tells: false,
  });

  const today = dayFinder(settings.timeZone)(services.moment.at);
  const { input, unseen, checkouts, orders: sold } = forecastBasis(services, funnelId, { from: today, to: today });
  expect([sold, checkouts, unseen]).toEqual([3, [stepOf('checkout')], ['Thank you']]);
  const stop = (kind: string) => input.stops.find(({ id }) => id === stepOf(kind));
  expect(stop('sales')).toMatchObject({ rate: { reached: 6, came: 10 }, sale: null, yes: [{ to: stepOf('checkout'), share: 1 }] });
  // 123.00 with 23 % tax are 100.00.
  expect(stop('checkout')).toMatchObject({ rate: { reached: 3, came: 6 }, sale: { net: 10_000, gross: 12_300, later: 12_300, goods: 10_00, sending: 0 } });
  expect(input).toMatchObject({ visitors: 10, fees: { percent: 2, fixed: 25 }, refunds: { share: expect.closeTo(1 / 3, 9) } });
  // With rates as certain as they were seen it is the net revenue of the report: 300.00 less 100.00.
  const certain = {
    ...input,
    stops: input.stops.map((each) => ({ ...each, rate: 'share' in each.rate ? each.rate : { share: each.rate.reached / each.rate.came } })),
  };
  const asked = { by: 'funnel' as const, from: today, to: today, compare: 'none' as const, funnelId, filter: undefined };
  expect(forecast(certain).income).toBeCloseTo(report(services, asked).total.revenue ?? 0, 6);
  // 3 × (100.00 − 10.00 − 2.46 − 0.25) less 100.00.
  expect(forecast(certain).profit).toBeCloseTo(3 * 87_29 - 100_00, 6);

  // What is thought is kept, and from the next day on stands beside what happened.
  const scenario = { ...NO_SCENARIO, rates: { [stepOf('checkout')]: 1 } };
  const [kept] = keepScenario(services, funnelId, { name: 'Everybody pays', from: today, to: today, scenario });
  // (6 + 1) of (10 + 2) go on, all of them pay 100.00, a third is given back.
  expect(kept).toMatchObject({ name: 'Everybody pays', scenario, thought: { perVisitor: expect.closeTo((7 / 12) * 100_00 * (2 / 3), 6) }, happened: null });
  expect((kept?.thought.low ?? 0) < (kept?.thought.perVisitor ?? 0) && (kept?.thought.perVisitor ?? 0) < (kept?.thought.high ?? 0)).toBe(true);
  services.moment.at += 24 * 60 * 60 * 1000;
  for (const visitor of ['vis_later1', 'vis_later2']) happens(visitor, stepOf('sales'), 'page.viewed');
  expect(scenariosOf(services, funnelId)).toMatchObject([{ thought: kept?.thought, happened: { visitors: 2, perVisitor: 0 } }]);
  expect(() => removeScenario(services, funnelId, 'scn_nothing')).toThrow('was not found');
  expect(removeScenario(services, funnelId, kept?.id ?? '')).toEqual([]);
  services.end();
});

it('has of a bump what it brings and what it costs: goods, its part of the parcel, commission, and what is charged for it', () => {
  const services = testServices();
  const main = createProduct(services, selling('First Light', { kind: 'one-time', regular: 12_300 }, { buyAgain: true }));
  const bump = createProduct(services, selling('Red Torch', { kind: 'one-time', regular: 2460 }, { kind: 'physical', buyAgain: true }));
  const [edition] = loadProduct(services.db, bump.id).editions;
  const { settings } = loadShop(services.db);
  saveShop(services, { settings: { ...settings, costs: { feePercent: 2, feeFixed: 25, sendingPercent: 50, goods: { [edition?.id ?? '']: 5_00 } } } });
  saveShop(services, { shippingTable: [{ name: 'Home', countries: ['PT'], rate: { kind: 'flat', amount: 492 } }] });
  const funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: main.id });
  const { graph } = loadFunnel(services.db, funnelId);
  const checkout = graph.steps.find((step) => step.kind === 'checkout');
  const offer = newOffer('off_0000000001', bump.id);
  services.db
    .update(steps)
    .set({ sells: [...(checkout?.sells ?? []), { ...offer, place: 'bump' }] })
    .where(eq(steps.id, checkout?.id ?? ''))
    .run();
  const partnerId = savePartner(services, null, {
    name: 'Club',
    email: 'club@clubs.test',
    code: 'club',
    isOn: true,
    recruitedBy: null,
    landingFunnelId: null,
    rules: [],
  }).id;
  saveProgram(services, ProgramSchema.parse({ rules: [{ productId: null, priceId: null, rate: { kind: 'percent', percent: 10 } }] }));
  const lines = [cartLine('main', 'main', loadProduct(services.db, main.id)), cartLine(`bump-${offer.id}`, 'bump', loadProduct(services.db, bump.id))];
  const quote = storedQuote(quoteCart(loadShop(services.db), { lines, buyer: { country: 'PT' } }, services.moment.at));
  const { order, payment } = openOrder(services.db, services, {
    ...{ funnelId, stepId: checkout?.id ?? '', cartId: 'crt_000000001', visitorId: null, mode: 'live', quote, codeId: null, offered: [offer.id], partnerId },
    buyer: { email: 'ilse@moonmail.test', firstName: 'Ilse', lastName: '', country: 'PT' },
    campaign: null,
  });
  markPaid(services.db, services, order, payment);
  const today = dayFinder(settings.timeZone)(services.moment.at);
  const { input } = forecastBasis(services, funnelId, { from: today, to: today });
  const stop = input.stops.find(({ id }) => id === checkout?.id);
  // 123.00 are 100.00 without tax, 10 % of them the partner's; the parcel is the torch's alone.
  expect(stop?.sale).toEqual({ net: 100_00, gross: 123_00, later: 0, goods: 0, sending: 0, commission: 10_00 });
  // 24.60 are 20.00 without tax; 4.92 for the parcel are 4.00, half of which sending costs. 24.60 + 4.92 are charged.
  expect(stop?.bumps).toMatchObject([{ id: offer.id, sale: { net: 20_00, gross: 29_52, goods: 5_00, sending: 2_00, commission: 2_00 } }]);
  services.end();
});
