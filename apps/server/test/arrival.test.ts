import { ProgramSchema } from '@ruta/core/partners';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation, until } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  await seller.changeShop({ mode: 'live' });
  funnel = await seller.sellingFunnel({ gift: true });
  const rules = [{ productId: null, priceId: null, rate: { kind: 'percent', percent: 30 } }];
  await seller.make('/partners/program', ProgramSchema.parse({ rules, secondTierPercent: 0, holdingDays: 0 }), 'PUT');
  await seller.make('/partners', { name: 'Club', email: 'club@clubs.test', code: 'club', isOn: true, recruitedBy: null, landingFunnelId: null, rules: [] });
});
afterAll(() => ruta.stop());

const campaign = 'utm_source=letter&utm_medium=mail&utm_campaign=%20Spring%20&utm_content=top&utm_term=moon&gclid=none&partner=club';

describe('somebody whose browser runs no script of the page', () => {
  it('keeps the campaign and the partner of the page that was asked for, and counts no view by it', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.get(`/${funnel.slug}?${campaign}`);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'noscript@moonmail.test' })).status).toBe(200);
    const order = await seller.orderOf('noscript@moonmail.test');
    expect(order.campaign).toEqual({ source: 'letter', medium: 'mail', campaign: 'spring', content: 'top', term: 'moon' });
    expect(await seller.read(`/orders/${order.id}/partner`)).toMatchObject({ partner: { name: 'Club' } });
  });

  it('has them with a form that is sent at once', async () => {
    const lead = new Buyer(ruta.site);
    const html = await (await lead.get(`/${funnel.slug}?${campaign}`)).text();
    const formId = /name="_form" value="(\w+)"/.exec(html)?.[1] ?? '';
    await lead.form(`/go/${funnel.entry}/form`, { _form: formId, email: 'first@moonmail.test', firstName: 'Ilse' });
    await until(async () => (await seller.rows('/contacts')).some(({ email }: { email: string }) => email === 'first@moonmail.test'), 'the lead is there');
    const [contact] = (await seller.rows('/contacts')).filter(({ email }: { email: string }) => email === 'first@moonmail.test');
    expect((await seller.read(`/contacts/${contact.id}`)).campaign).toMatchObject({ source: 'letter', campaign: 'spring' });
  });

  it('is nobody where the page is only fetched ahead, or asked for by a machine', async () => {
    const before = (await seller.figures(funnel.id)).visitors;
    const ahead = new Buyer(ruta.site);
    await ahead.request(`/${funnel.slug}?utm_source=ahead`, { headers: { 'sec-purpose': 'prefetch' } });
    const bot = new Buyer(ruta.site, 'Somebot/1.0 (+http://bot.test)');
    await bot.get(`/${funnel.slug}?utm_source=bot`);
    await ahead.openCheckout(`/${funnel.slug}/checkout`);
    await ahead.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'ahead@moonmail.test' });
    expect((await seller.orderOf('ahead@moonmail.test')).campaign).toBeNull();
    // A view is counted once, by the page itself, and not once more by its address.
    const seen = new Buyer(ruta.site);
    await seen.visit(`/${funnel.slug}?${campaign}`);
    await seen.visit(`/${funnel.slug}?${campaign}`);
    await until(async () => (await seller.figures(funnel.id)).visitors > before, 'the view counts');
  });
});
