import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, mails, OWNER, Seller } from './support/clients';
import { Installation, SETUP_CODE, until } from './support/installation';
import { LEGAL } from './support/legal';
import { writeOwnWords } from './support/ownWords';

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = new Seller(ruta.studio);
  const answer = await seller.json('/api/setup', {
    code: SETUP_CODE,
    ...OWNER,
    shop: { name: 'Perigee Lane', country: 'PT', currency: 'EUR', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
  });
  seller.trust(((await answer.json()) as { csrfToken: string }).csrfToken);
});
afterAll(() => ruta.stop());

const open = async () => (await seller.read('/shop/go-live')).needs.flatMap(({ need, done }: { need: string; done: boolean }) => (done ? [] : [need]));
const goLive = (anyway: boolean) => seller.send('/shop/mode', { mode: 'live', anyway });

describe('a new shop', () => {
  it('begins in test mode, in which a funnel can be tried with text of its template', async () => {
    expect((await seller.read('/shop')).settings.mode).toBe('test');
    const product = await seller.make('/products', {
      name: 'First Light',
      editions: [{ id: 'edn_1m8t000000000000001', prices: [{ id: 'prc_1m8t000000000000001', price: { kind: 'one-time', regular: 900 } }] }],
    });
    const funnel = await seller.make('/funnels', { name: 'Straight', template: 'straight-sale', productId: product.id });
    const { problems } = await seller.read(`/funnels/${funnel.id}`);
    const marked = problems.find(({ check }: { check: string }) => check === 'placeholders-to-write');
    expect(marked).toMatchObject({
      severity: 'warning',
      passages: expect.arrayContaining([{ elementId: expect.stringMatching(/^elm_/), text: expect.any(String) }]),
    });
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    const checkout = funnel.graph.steps.find(({ kind }: { kind: string }) => kind === 'checkout').id;
    expect(await open()).toEqual(['text', 'legal-pages', 'terms', 'test-purchase']);

    const buyer = new Buyer(ruta.site);
    expect(await buyer.openCheckout(`/${funnel.slug}/checkout`)).toContain('Test mode: no money is charged, and a test receipt goes to the test mailbox.');
    await buyer.pay(checkout, ruta.standinsUrl, CARD.good, { email: 'self@moonmail.test' });
    await until(async () => (await mails(ruta.standinsUrl, 'self@moonmail.test')).length > 0, 'the test receipt arrives');
    expect((await mails(ruta.standinsUrl, 'self@moonmail.test'))[0].text).toContain(
      'Test order: no money is charged, and a test receipt goes to the test mailbox.',
    );
    expect(await open()).toEqual(['text', 'legal-pages', 'terms']);
  });

  it('goes live once what it needs is there, or what is advised is waived, and back', async () => {
    const refused = await goLive(true);
    expect(refused.status).toBe(409);
    expect(((await refused.json()) as { errors: object[] }).errors).toMatchObject([{ path: 'text' }, { path: 'legal-pages' }]);
    // Settings are no way around it.
    const { settings } = await seller.read('/shop');
    await seller.make('/shop', { ...settings, ...LEGAL, mode: 'live' }, 'PUT');
    expect((await seller.read('/shop')).settings.mode).toBe('test');

    const [funnel] = await seller.rows('/funnels');
    await writeOwnWords(seller, funnel.id);
    // What visitors see counts, not the draft.
    expect(await open()).toEqual(['text', 'terms']);
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    expect(await open()).toEqual(['terms']);
    expect((await goLive(false)).status).toBe(409);
    expect((await goLive(true)).ok).toBe(true);
    expect((await seller.read('/shop')).settings.mode).toBe('live');
    expect((await seller.send('/shop/mode', { mode: 'test' })).ok).toBe(true);
    expect((await seller.read('/shop')).settings.mode).toBe('test');
  });
});
