import { type Graph, shareOn } from '@ruta/core/funnel';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { booksOf } from './support/books';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { freshId, OfferFunnel, offerOf, thing } from './support/offers';

let ruta: Installation;
let seller: Seller;
let source: OfferFunnel;
let other: OfferFunnel;
let upsell: string;
let offer: ReturnType<typeof offerOf>;
const { linesOf, formAt } = booksOf(() => ruta);

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  const [sketching, moonOnly] = [await thing(seller, 'Sketching', 7_200), await thing(seller, 'Moon only', 3_800)];
  source = await OfferFunnel.draw(seller);
  offer = offerOf(sketching.id);
  upsell = await source.offerAfter(source.step('checkout').id, 'paid', 'Sketching the Sky', [offer]);
  await source.offerAfter(upsell, 'declined', 'Moon only', [offerOf(moonOnly.id)]);
  await source.publish();
  other = await OfferFunnel.draw(seller, { price: 900 });
  const paid = other.graph.routes.find((route: { from: string; outcome: string }) => route.from === other.step('checkout').id && route.outcome === 'paid');
  await other.change(
    shareOn(other.graph as Graph, paid.id, { funnelId: source.id, graph: source.graph }, upsell, (kind) => freshId(kind === 'route' ? 'rte' : 'stp'))
      .operations,
  );
  await other.publish();
});
afterAll(() => ruta.stop());

const shared = (name: string) => other.graph.steps.find((step: { name: string }) => step.name === name) as { id: string; slug: string };
/** Somebody who has paid the other funnel's own product and stands at what comes next. */
async function paid(email: string) {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${other.slug}/checkout`);
  const { body } = await buyer.pay(other.step('checkout').id, ruta.standinsUrl, CARD.good, { email });
  return { buyer, at: body.redirect ?? '' };
}

describe('offers that two funnels share', () => {
  it('are bought in either, and belong to the order of the funnel they were bought in', async () => {
    const { buyer, at } = await paid('shared@moonmail.test');
    expect(at).toContain(`/${other.slug}/sketching-the-sky`);
    const answer = await buyer.form(`/offer/${shared('Sketching the Sky').id}`, await formAt(buyer, at));
    expect(answer.headers.get('location')).toContain(`/${other.slug}/thank-you`);
    expect(linesOf('shared@moonmail.test').map(({ role, total }) => [role, total])).toEqual([
      ['main', 900],
      ['upsell', 7_200],
    ]);
    const figures = await seller.figures(other.id);
    expect(figures.offers).toMatchObject([{ stepId: shared('Sketching the Sky').id, shown: 1, taken: 1 }]);
    expect((await seller.figures(source.id)).offers).toEqual([]);
  });

  it('are changed once: what is published at their source is live wherever they stand', async () => {
    const discounted = { ...offer, discount: { kind: 'percent', percent: 50, base: 'regular' } };
    const chart = await thing(seller, 'Star chart', 1_500);
    await source.change([{ kind: 'changeStep', stepId: upsell, changes: { sells: [discounted] } }]);
    await source.offerAfter(upsell, 'accepted', 'Star chart', [offerOf(chart.id)]);
    const page = await seller.read(`/steps/${upsell}/page`);
    await seller.make(`/steps/${upsell}/page`, { revision: page.revision, page: { ...page.page, title: 'Sketch what you see' } }, 'PUT');
    const before = await paid('before@moonmail.test');
    expect((await formAt(before.buyer, before.at)).shown).toBe('7200');
    await source.publish();

    const { buyer, at } = await paid('after@moonmail.test');
    const form = await formAt(buyer, at);
    expect(form.shown).toBe('3600');
    expect(await buyer.visit(at.replace(ruta.site, ''))).toContain('<title>Sketch what you see');
    const next = (await buyer.form(`/offer/${shared('Sketching the Sky').id}`, form)).headers.get('location') ?? '';
    expect(next).toContain('/star-chart?order=');
    const detail = await seller.read(`/funnels/${other.id}`);
    expect(detail).toMatchObject({ version: 3, changes: { stepIds: [], settings: false }, sharing: { from: { [source.id]: expect.any(String) } } });
    expect((await seller.read(`/funnels/${source.id}`)).sharing.with[upsell]).toMatchObject([{ id: other.id }]);
  });

  it('are not changed where they are only shared, until they are made the funnel’s own', async () => {
    const { revision, graph } = await seller.read(`/funnels/${other.id}`);
    const step = graph.steps.find((each: { name: string }) => each.name === 'Sketching the Sky');
    const change = (changes: object) => seller.send(`/funnels/${other.id}/map`, { revision, operations: [{ kind: 'changeStep', stepId: step.id, changes }] });
    const refused = await change({ name: 'Mine' });
    expect(refused.status).toBe(422);
    expect((await refused.json()).title).toMatch(/^This offer is shared from “.+”\. Change it there/);
    const ways = graph.routes.filter((route: { from: string }) => route.from === step.id);
    const lead = (route: { id: string }, to: string) =>
      seller.send(`/funnels/${other.id}/map`, { revision, operations: [{ kind: 'changeRoute', routeId: route.id, changes: { to } }] });
    const inside = ways.find((route: { outcome: string }) => route.outcome === 'declined');
    expect((await lead(inside, other.step('thank-you').id)).status).toBe(422);
    const page = await seller.read(`/steps/${step.id}/page`);
    const save = () => seller.send(`/steps/${step.id}/page`, { revision: page.revision, page: { ...page.page, title: 'Mine' } }, 'PUT');
    expect((await save()).status).toBe(422);
    expect((await change({ sharedFrom: null })).status).toBe(201);
    expect((await save()).status).toBe(200);
    // Taken back, it is shared again, with its source's page.
    const latest = await seller.read(`/funnels/${other.id}`);
    const again = [{ kind: 'changeStep', stepId: step.id, changes: { sharedFrom: { funnelId: source.id, stepId: upsell } } }];
    const shared = await seller.make(`/funnels/${other.id}/map`, { revision: latest.revision, operations: again });
    expect((await seller.read(`/steps/${step.id}/page`)).page.title).toBe('Sketch what you see');
    const own = [{ kind: 'changeStep', stepId: step.id, changes: { sharedFrom: null } }];
    await seller.make(`/funnels/${other.id}/map`, { revision: shared.revision, operations: own });
    await source.change([{ kind: 'changeStep', stepId: upsell, changes: { name: 'Sketch' } }]);
    await source.publish();
    const now = await seller.read(`/funnels/${other.id}`);
    expect(now.graph.steps.map(({ name }: { name: string }) => name)).toContain('Sketching the Sky');
  });
});
