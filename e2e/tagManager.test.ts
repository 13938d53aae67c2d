import { afterAll, beforeAll, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { Person } from './support/browser';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let api: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;

/** A tag manager of a few lines: it looks through what is there, then listens. */
const TAG_MANAGER = `<script>window.seen = []; (function (data) { data.forEach(function (entry) { seen.push(entry) }); var push = data.push; data.push = function (entry) { seen.push(entry); return push.call(data, entry) } })(window.rutaData)</script>`;
const PURCHASE_CODE = `<script>window.bought = (window.bought || 0) + 1; window.told = "{{order.number}} {{order.value}} {{order.currency}} {{event.id}}"</script><p>Thank you for {{order.value}}</p>`;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  funnel = await api.sellingFunnel();
  await api.make(`/funnels/${funnel.id}/look`, { brand: null, code: { head: TAG_MANAGER, body: '', purchase: PURCHASE_CODE } }, 'PUT');
  await api.make(`/funnels/${funnel.id}/publish`, {});
});
afterAll(() => ruta.stop());

interface Entry {
  event: string;
  id?: string;
  stop?: { kind: string };
  order?: { value: number; currency: string; number: string };
}

it('a tag manager reads what a page is about and what was bought, and a purchase once however often its page is loaded', async () => {
  const buyer = await Person.arrive();
  const seen = () => buyer.driver.executeScript<Entry[]>('return window.seen');
  const has = async (event: string) => (await seen()).filter((entry) => entry.event === event);
  try {
    await buyer.open(`${ruta.site}/${funnel.slug}/checkout`);
    await buyer.until(async () => (await has('page_viewed')).length === 1, 'the view is told');
    expect((await has('page'))[0]).toMatchObject({ stop: { kind: 'checkout' }, currency: 'EUR', product: { price: 138 } });
    expect(await has('purchase')).toEqual([]);
    await buyer.type('First name', 'Ilse');
    await buyer.type('E-mail', 'ilse.v@moonmail.test');
    await typeCard(buyer, CARDS.approved);
    await pressPay(buyer);
    await buyer.sees('Thank you, Ilse');
    const [purchase] = await has('purchase');
    expect(purchase?.order).toMatchObject({ value: 138, currency: 'EUR', number: '1001' });
    // The very event that the server keeps, so that whoever hears of it from both counts it once.
    expect(await buyer.driver.executeScript('return window.told')).toBe(`1001 138 EUR ${purchase?.id}`);
    expect(purchase?.id).toMatch(/^evt_/);
    await buyer.sees('Thank you for 138');
    for (let again = 0; again < 3; again++) {
      await buyer.driver.navigate().refresh();
      await buyer.until(async () => (await has('page_viewed')).length === 1, 'the page is there again');
      expect([await has('purchase'), await buyer.driver.executeScript('return window.bought ?? 0')]).toEqual([[], 0]);
    }
  } finally {
    await buyer.leave();
  }
});

it('a shop without code of its own has no data layer, and its pages stay as strict', async () => {
  await api.make(`/funnels/${funnel.id}/look`, { brand: null, code: null }, 'PUT');
  await api.make(`/funnels/${funnel.id}/publish`, {});
  const response = await fetch(`${ruta.site}/${funnel.slug}`);
  expect(await response.text()).not.toContain('rutaData');
  expect(response.headers.get('content-security-policy')).not.toContain("unsafe-inline' https");
});
