import { afterAll, beforeAll, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { freshId, OfferFunnel, offerOf, thing } from './support/offers';

let ruta: Installation;
let seller: Seller;
let funnel: OfferFunnel;
let stop: string;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await OfferFunnel.draw(seller);
  const sketching = await thing(seller, 'Sketching', 7_200);
  stop = await funnel.offerAfter(funnel.step('checkout').id, 'paid', 'Sketching', [offerOf(sketching.id)]);
  await funnel.publish();
});
afterAll(() => ruta.stop());

it('the map of an older window is refused, and so is what does not fit it; neither changes anything', async () => {
  const { revision, graph } = funnel;
  const change = (operations: object[], of = revision) => seller.send(`/funnels/${funnel.id}/map`, { revision: of, operations });
  const old = await change([{ kind: 'setEntry', stepId: stop }], revision - 1);
  expect(old.status).toBe(409);
  const route = { id: freshId('rte'), from: stop, outcome: 'closed', priority: 0, to: 'stp_nowhere00' };
  const lost = await change([{ kind: 'addRoute', route }]);
  expect([lost.status, (await lost.json()).title]).toEqual([422, 'This stop is not on the map any more.']);
  const twin = await change([{ kind: 'changeStep', stepId: stop, changes: { slug: 'checkout' } }]);
  expect((await twin.json()).errors).toEqual([{ path: 'slug', message: expect.stringMatching(/^“.+” has this address already\.$/) }]);
  expect(await seller.read(`/funnels/${funnel.id}`)).toMatchObject({ revision, graph });
});

it('a stop that is taken off keeps its page, and a copy of another has a page like it', async () => {
  const { page } = await seller.read(`/steps/${stop}/page`);
  const copy = freshId('stp');
  const model = funnel.step('offer');
  await seller.make(`/funnels/${funnel.id}/map`, {
    revision: funnel.revision,
    operations: [{ kind: 'addStep', step: { ...model, id: copy, slug: 'copy', sells: [] } }],
    copies: { [copy]: stop },
  });
  const copied = await seller.read(`/steps/${copy}/page`);
  expect(copied.page.title).toBe(page.title);
  expect(copied.page.sections[0].id).not.toBe(page.sections[0].id);
  const { revision } = await seller.read(`/funnels/${funnel.id}`);
  await seller.make(`/funnels/${funnel.id}/map`, { revision, operations: [{ kind: 'removeStep', stepId: copy }] });
  expect((await seller.send(`/steps/${copy}/page`, {}, 'PUT')).status).toBeGreaterThanOrEqual(400);
  await seller.make(`/funnels/${funnel.id}/map`, {
    revision: revision + 1,
    operations: [{ kind: 'addStep', step: { ...model, id: copy, slug: 'copy', sells: [] } }],
  });
  expect((await seller.read(`/steps/${copy}/page`)).page).toEqual(copied.page);
  await seller.make(`/funnels/${funnel.id}/map`, { revision: revision + 2, operations: [{ kind: 'removeStep', stepId: copy }] });
});

it('a buyer who stands on a stop while it is taken off is led on, and nothing is charged', async () => {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const at = (await buyer.pay(funnel.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'stands@moonmail.test' })).body.redirect ?? '';
  const html = await buyer.visit(at);
  const value = (name: string) => new RegExp(`name="${name}" value="([^"]*)"`).exec(html)?.[1] ?? '';
  const { revision, graph } = await seller.read(`/funnels/${funnel.id}`);
  const touching = graph.routes.filter(({ from, to }: { from: string; to: string }) => from === stop || to === stop);
  await seller.make(`/funnels/${funnel.id}/map`, {
    revision,
    operations: [...touching.map(({ id }: { id: string }) => ({ kind: 'removeRoute', routeId: id })), { kind: 'removeStep', stepId: stop }],
  });
  await funnel.publish();
  const yes = await buyer.form(`/offer/${stop}`, { order: value('order'), offer: value('offer'), shown: value('shown'), answer: 'yes' });
  expect(yes.status).toBe(410);
  const told = await yes.text();
  expect(told).toContain('your order is complete as it is');
  expect(told).toMatch(/href="[^"]*thank-you\?order=/);
  expect((await seller.orderOf('stands@moonmail.test')).total).toBe(13_800);
});
