import { buildSection, one, part } from '@ruta/core/sections';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { booksOf } from './support/books';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { OfferFunnel, offerOf, thing } from './support/offers';
import { newId } from './support/products';

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());
const { formAt } = booksOf(() => ruta);

/** Puts a share box at the end of a page. */
async function addShareBox(stepId: string, shared: string | null): Promise<void> {
  const { page, revision } = await seller.read(`/steps/${stepId}/page`);
  const section = buildSection({ name: 'Share', columns: one(part('share', { stepId: shared })) }, newId);
  const sections = page.sections.filter(({ name }: { name: string }) => name !== 'Share');
  await seller.make(`/steps/${stepId}/page`, { revision, page: { ...page, sections: [...sections, section] } }, 'PUT');
}

describe('a page of thanks', () => {
  it('says to somebody without an order that there is none, and leads to the first page', async () => {
    const funnel = await OfferFunnel.draw(seller, { price: 900 });
    const address = `/${funnel.slug}/${funnel.step('thank-you').slug}`;
    const stranger = await (await new Buyer(ruta.site).get(address)).text();
    expect(stranger).toContain('There is no order here');
    expect(stranger).toMatch(new RegExp(`<a[^>]*href="/${funnel.slug}"[^>]*>Go to the first page`));
    expect(stranger).not.toContain('Thank you');
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    await buyer.pay(funnel.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'thanked@moonmail.test' });
    const own = await (await buyer.get(address)).text();
    expect(own).toContain('Thank you');
    expect(own).not.toContain('There is no order here');
  });

  it('thanks somebody who left an address on the way, and asks nothing of a funnel that sells nothing', async () => {
    const funnel = await seller.sellingFunnel({ gift: true });
    const { graph } = await seller.read(`/funnels/${funnel.id}`);
    const address = `/${funnel.slug}/${graph.steps.find((step: { kind: string }) => step.kind === 'thank-you').slug}`;
    expect(await (await new Buyer(ruta.site).get(address)).text()).toContain('There is no order here');
    const lead = new Buyer(ruta.site);
    const html = await (await lead.get(`/${funnel.slug}`)).text();
    await lead.form(`/go/${funnel.entry}/form`, { _form: /name="_form" value="(\w+)"/.exec(html)?.[1] ?? '', email: 'lead@moonmail.test', firstName: 'Ilse' });
    expect(await (await lead.get(address)).text()).not.toContain('There is no order here');
  });

  it('passes on the first page of the funnel, or the public page that was chosen, never itself', async () => {
    const funnel = await OfferFunnel.draw(seller, { price: 900 });
    const [landing, checkout, thanks] = [
      funnel.graph.steps.find(({ id }: { id: string }) => id === funnel.graph.entryId),
      funnel.step('checkout'),
      funnel.step('thank-you'),
    ];
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    await buyer.pay(checkout.id, ruta.standinsUrl, CARD.good, { email: 'sharer@moonmail.test' });
    const shared = async (stepId: string | null) => {
      await addShareBox(thanks.id, stepId);
      await funnel.publish();
      const html = await (await buyer.get(`/${funnel.slug}/${thanks.slug}`)).text();
      return /data-share-address="([^"]*)"/.exec(html)?.[1];
    };
    expect(await shared(null)).toBe(`${ruta.site}/${funnel.slug}`);
    expect(await shared(thanks.id)).toBe(`${ruta.site}/${funnel.slug}`);
    expect(await shared(checkout.id)).toBe(`${ruta.site}/${funnel.slug}/${checkout.slug}`);
    expect(landing.kind).toBe('sales');
  });

  it('and the checkout, when a buyer goes back to it, say what was paid in total', async () => {
    const guide = await thing(seller, 'Field guide', 1_800);
    const funnel = await OfferFunnel.draw(seller, { price: 900 });
    const stop = await funnel.offerAfter(funnel.step('checkout').id, 'paid', 'Guide', [offerOf(guide.id)]);
    await funnel.publish();
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const { body } = await buyer.pay(funnel.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'back@moonmail.test' });
    expect(await (await buyer.get(`/${funnel.slug}/checkout`)).text()).toContain('€9.00 in total');
    expect((await buyer.form(`/offer/${stop}`, await formAt(buyer, body.redirect ?? ''))).status).toBe(303);
    expect(await (await buyer.get(`/${funnel.slug}/checkout`)).text()).toContain('€27.00 in total');
  });
});
