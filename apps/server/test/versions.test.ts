import { newElement, words } from '@ruta/core/elements';
import type { PageDocument } from '@ruta/core/page';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';
import { freshId, OfferFunnel } from './support/offers';

let ruta: Installation;
let seller: Seller;
let funnel: OfferFunnel;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await OfferFunnel.draw(seller);
});
afterAll(() => ruta.stop());

/** Puts two versions of a line on a stop's page: one where a condition holds, one for everybody else. */
async function addVersions(stepId: string, condition: object, [when, otherwise]: [string, string]): Promise<void> {
  const { page, revision } = (await seller.read(`/steps/${stepId}/page`)) as { page: PageDocument; revision: number };
  const text = (line: string) => ({ ...newElement('text', (kind) => freshId(kind === 'element' ? 'elm' : kind)), words: words(line) });
  const first = { ...text(when), show: { kind: 'when', condition } };
  const second = { ...text(otherwise), show: { kind: 'otherwise', of: first.id } };
  page.sections[1]?.columns[0]?.elements.push(first as never, second as never);
  await seller.make(`/steps/${stepId}/page`, { revision, page }, 'PUT');
}

it('a page shows each visitor their own version, with nothing of the other in it, and keeps one copy of each', async () => {
  const sales = funnel.step('sales').id;
  await addVersions(sales, { fact: 'language', language: 'pt' }, ['Para ti', 'For you']);
  await funnel.publish();
  const ask = async (language: string) => {
    const response = await fetch(`${ruta.site}/${funnel.slug}`, { headers: { 'accept-language': language, 'user-agent': 'Mozilla/5.0 Chrome/131.0' } });
    return { html: await response.text(), etag: response.headers.get('etag'), cache: response.headers.get('cache-control') };
  };
  const [portuguese, english, danish] = await Promise.all([ask('pt-PT,pt;q=0.9'), ask('en-GB'), ask('da-DK')]);
  expect(portuguese.html).toContain('Para ti');
  expect(portuguese.html).not.toContain('For you');
  expect(english.html).toContain('For you');
  expect(english.html).not.toContain('Para ti');
  expect(danish.etag).toBe(english.etag);
  expect(portuguese.etag).not.toBe(english.etag);
  expect(english.cache).toBe('private, no-cache');
});

it('the thank-you page speaks of what was bought', async () => {
  const product = funnel.step('checkout').sells[0]?.productId;
  await addVersions(funnel.step('thank-you').id, { fact: 'bought', what: { by: 'product', productId: product } }, ['You took the course', 'You took nothing']);
  await funnel.publish();
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  const paid = await buyer.pay(funnel.step('checkout').id, ruta.standinsUrl, CARD.good, { email: 'seen@moonmail.test' });
  const thanks = await buyer.visit(paid.body.redirect ?? '');
  expect(thanks).toContain('You took the course');
  expect(thanks).not.toContain('You took nothing');
  const stranger = await new Buyer(ruta.site).visit(`/${funnel.slug}/thank-you`);
  expect(stranger).toContain('There is no order here');
  expect(stranger).not.toContain('You took the course');
});
