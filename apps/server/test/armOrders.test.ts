import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { booksOf } from './support/books';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { freshId, OfferFunnel, offerOf, thing } from './support/offers';

let ruta: Installation;
let seller: Seller;
let funnel: OfferFunnel;
let upsell: string;
let yes: ReturnType<typeof offerOf>;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  await seller.changeShop({ mode: 'live' });
  funnel = await OfferFunnel.draw(seller);
  const sketching = await thing(seller, 'Sketching', 7_200);
  yes = offerOf(sketching.id);
  upsell = await funnel.offerAfter(funnel.step('checkout').id, 'paid', 'Sketching the Sky', [yes]);
  await funnel.publish();
});
afterAll(() => ruta.stop());
const { chargesOf, formAt } = booksOf(() => ruta);

/** Somebody who has paid at the checkout and is led on. */
async function paid(email: string) {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const answer = await buyer.pay(funnel.step('checkout').id, ruta.standinsUrl, CARD.good, { email });
  return { buyer, at: (answer.body.redirect ?? '').replace(ruta.site, '') };
}

/** Plans a test with one arm that a change of the map makes, and starts it once somebody has reached its goal. */
async function test(stepId: string, name: string, operations: (armGraph: OfferFunnel['graph']) => object[]) {
  const planned = await seller.make('/experiments', { funnelId: funnel.id, stepId, name, goal: 'revenue' });
  const arm = `${funnel.id}~${planned.armId}`;
  const open = await seller.read(`/funnels/${arm}`);
  const changed = await seller.make(`/funnels/${arm}/map`, { revision: open.revision, operations: operations(open.graph) });
  expect(changed.arm.differences.length).toBeGreaterThan(0);
  expect((await seller.read(`/funnels/${funnel.id}`)).graph).toEqual(open.graph);
  return { ...planned, arm } as { id: string; armId: string; arm: string };
}

describe('a test on an offer after the payment', () => {
  let halfPrice: { id: string; armId: string; arm: string };
  it('charges with one click what the buyer’s own arm shows', async () => {
    const before = await paid('before@moonmail.test');
    const form = await formAt(before.buyer, before.at);
    expect((await before.buyer.form(`/offer/${upsell}`, { ...form, answer: 'yes' })).status).toBe(303);
    const other = await paid('other@moonmail.test');
    expect((await other.buyer.form(`/offer/${upsell}`, { ...(await formAt(other.buyer, other.at)), answer: 'no' })).status).toBe(303);
    halfPrice = await test(upsell, 'Half the price', () => [
      { kind: 'changeStep', stepId: upsell, changes: { sells: [{ ...yes, discount: { kind: 'percent', percent: 50, base: 'current' } }] } },
    ]);
    await until(async () => (await seller.read(`/experiments/${halfPrice.id}`)).hindrances.length === 0, 'nothing stands in the way');
    await seller.make(`/experiments/${halfPrice.id}/start`, {});

    const charged = new Set<number>();
    for (let index = 0; index < 12; index++) {
      const email = `buyer${index}@moonmail.test`;
      const { buyer, at } = await paid(email);
      const shown = await formAt(buyer, at);
      expect((await buyer.form(`/offer/${upsell}`, { ...shown, answer: 'yes' })).status).toBe(303);
      const [, addition] = chargesOf(email);
      expect(addition).toEqual({ amount: Number(shown.shown), state: 'captured' });
      charged.add(addition?.amount ?? 0);
    }
    expect(charged).toEqual(new Set([7_200, 3_600]));
    const { rounds } = await seller.read(`/experiments/${halfPrice.id}`);
    const arms: Array<{ visitors: number; converted: number; revenue: { perVisitor: number } }> = rounds[0].result.arms;
    expect(arms.reduce((sum, { visitors }) => sum + visitors, 0)).toBe(12);
    // What was paid before they came to the offer is the same in both arms, and counts in neither: 72.00 and 36.00 less 21 % tax.
    for (const [index, perVisitor] of [7_200, 3_600].entries()) {
      const arm = arms[index];
      expect(arm?.converted).toBe(arm?.visitors);
      expect(arm?.revenue.perVisitor).toBeCloseTo(perVisitor / 1.21, 0);
    }
  });

  it('keeps a buyer in their arm on another device, by their order', async () => {
    for (let index = 0; index < 8; index++) {
      const { buyer, at } = await paid(`elsewhere${index}@moonmail.test`);
      const { shown } = await formAt(buyer, at);
      for (let device = 0; device < 3; device++) expect((await formAt(new Buyer(ruta.site), at)).shown).toBe(shown);
    }
  });

  it('ends with everybody at the price that was put in place, at the same address', async () => {
    const left = await paid('left@moonmail.test');
    await left.buyer.visit(left.at);
    await seller.make(`/experiments/${halfPrice.id}/end`, { put: halfPrice.armId });
    const { buyer, at } = await paid('after@moonmail.test');
    expect(at.split('?')[0]).toBe(left.at.split('?')[0]);
    expect((await formAt(buyer, at)).shown).toBe('3600');
    expect((await formAt(left.buyer, left.at)).shown).toBe('3600');
    expect((await seller.read(`/funnels/${funnel.id}`)).graph.steps.find((step: { id: string }) => step.id === upsell).sells[0].discount).toMatchObject({
      percent: 50,
    });
  });
});

describe('a test on a branch', () => {
  it('leads some to a stop that nobody else is shown, and leaves nobody without a page when it is gone', async () => {
    const extra = freshId('stp');
    const branch = await test(funnel.step('checkout').id, 'One more offer', (graph) => {
      const route = graph.routes.find(({ from, outcome }: { from: string; outcome: string }) => from === funnel.step('checkout').id && outcome === 'paid');
      const way = (outcome: string) => ({ kind: 'addRoute', route: { id: freshId('rte'), from: extra, outcome, priority: 0, to: route.to } });
      return [
        { kind: 'addStep', step: { id: extra, kind: 'offer', name: 'First this', slug: 'first-this', sells: [offerOf(yes.productId)] } },
        { kind: 'changeRoute', routeId: route.id, changes: { to: extra } },
        way('accepted'),
        way('declined'),
      ];
    });
    const page = await seller.read(`/steps/${extra}~${branch.armId}/page`);
    const own = JSON.parse(JSON.stringify(page.page).replaceAll(',"placeholder":true', ''));
    await seller.make(`/steps/${extra}~${branch.armId}/page`, { revision: page.revision, page: own }, 'PUT');
    expect((await seller.read(`/experiments/${branch.id}`)).hindrances).toEqual([]);
    await seller.make(`/experiments/${branch.id}/start`, {});
    const led = [];
    for (let index = 0; index < 12; index++) led.push(await paid(`branch${index}@moonmail.test`));
    const ways = new Set(led.map(({ at }) => at.split('?')[0]));
    expect(ways).toEqual(new Set([`/${funnel.slug}/first-this`, `/${funnel.slug}/sketching-the-sky`]));
    const there = led.find(({ at }) => at.includes('first-this'));
    if (!there) throw new Error('Nobody was led there.');
    // No from there leads on to where everybody goes; and a link to it leads strangers to the beginning.
    const form = await formAt(there.buyer, there.at);
    expect((await there.buyer.form(`/offer/${extra}`, { ...form, answer: 'no' })).headers.get('location')).toContain('sketching-the-sky');
    const elsewhere = led.find(({ at }) => !at.includes('first-this'));
    const answer = await elsewhere?.buyer.get(`/${funnel.slug}/first-this`);
    expect([answer?.status, answer?.headers.get('location')]).toEqual([302, `/${funnel.slug}`]);

    await seller.make(`/experiments/${branch.id}/end`, { put: null });
    const late = await there.buyer.form(`/offer/${extra}`, { ...form, answer: 'yes' });
    expect(late.status).toBeLessThan(500);
    expect(chargesOf(led.indexOf(there) >= 0 ? `branch${led.indexOf(there)}@moonmail.test` : '')).toHaveLength(1);
    expect((await there.buyer.get(there.at)).status).toBeLessThan(400);
    expect((await paid('later@moonmail.test')).at).toContain('sketching-the-sky');
  });

  it('is refused where an arm would move an address, the beginning, or what is another’s', async () => {
    const planned = await seller.make('/experiments', { funnelId: funnel.id, stepId: funnel.step('checkout').id, name: 'Not like this' });
    const arm = `${funnel.id}~${planned.armId}`;
    const { revision } = await seller.read(`/funnels/${arm}`);
    const send = async (operations: object[], at = revision) => {
      const response = await seller.send(`/funnels/${arm}/map`, { revision: at, operations });
      return [response.status, ((await response.json()) as { title: string }).title];
    };
    const checkout = funnel.step('checkout').id;
    expect(await send([{ kind: 'changeStep', stepId: checkout, changes: { slug: 'other' } }])).toEqual([
      422,
      'The address of “Checkout” is the same in all arms.',
    ]);
    expect(await send([{ kind: 'setEntry', stepId: checkout }])).toEqual([422, expect.stringContaining('Where visitors arrive')]);
    expect(await send([{ kind: 'removeStep', stepId: checkout }])).toEqual([422, 'Routes still hold “Checkout”.']);
    expect(await send([{ kind: 'changeStep', stepId: checkout, changes: { name: 'Pay' } }], revision - 1)).toEqual([
      409,
      expect.stringContaining('changed meanwhile'),
    ]);
    expect((await seller.send(`/experiments/${planned.id}`, {}, 'PUT')).status).toBe(400);
    expect((await seller.get(`/api/funnels/${funnel.id}~arm_nothing00`)).status).toBe(404);
    expect((await seller.get('/api/experiments/exp_nothing00')).status).toBe(404);
    expect((await seller.send(`/experiments/${planned.id}`, undefined, 'DELETE')).status).toBe(200);
    expect((await seller.get(`/api/experiments/${planned.id}`)).status).toBe(404);
  });
});

describe('a funnel that is put away', () => {
  it('is offline at once, ends what is tested in it, and comes back as it was', async () => {
    const planned = await test(funnel.step('checkout').id, 'Shorter', () => [
      { kind: 'changeStep', stepId: funnel.step('checkout').id, changes: { name: 'Pay here' } },
    ]);
    await seller.make(`/experiments/${planned.id}/start`, {});
    const page = () => new Buyer(ruta.site).get(`/${funnel.slug}`);
    expect((await page()).status).toBe(200);
    await seller.make(`/funnels/${funnel.id}/archive`, { archived: true }, 'PUT');
    expect((await page()).status).toBe(404);
    expect(await seller.rows('/funnels')).toEqual([]);
    expect(await seller.rows('/funnels?archived=true')).toMatchObject([{ id: funnel.id, live: false }]);
    expect(await seller.read(`/experiments/${planned.id}`)).toMatchObject({
      state: 'ended',
      rounds: [{ outcome: 'stopped', why: expect.stringContaining('put away') }],
    });
    // What was bought there stays, and its buyers are led on.
    expect((await seller.rows('/orders')).length).toBeGreaterThan(0);
    await seller.make(`/funnels/${funnel.id}/archive`, { archived: false }, 'PUT');
    expect((await page()).status).toBe(200);
    expect(await seller.rows('/funnels')).toMatchObject([{ id: funnel.id, live: true }]);
  });
});
