import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
});
afterAll(() => ruta.stop());

const counts = async () => {
  const figures = await seller.figures(funnel.id);
  const of = (id: string) => figures.steps.find((step: { stepId: string }) => step.stepId === id);
  return {
    came: of(funnel.entry).came,
    left: of(funnel.entry).reached,
    checkout: of(funnel.checkout).came,
    paid: of(funnel.checkout).reached,
    orders: figures.orders,
    buyers: figures.buyers,
  };
};
const formId = async () => /name="_form" value="([^"]+)"/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '';

describe('counting people', () => {
  it('follows one person from the first view to the paid order, once each', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.visit(`/${funnel.slug}?utm_source=letter&utm_campaign=autumn`);
    await buyer.visit(`/${funnel.slug}`);
    const sent = await buyer.form(`/go/${funnel.entry}/form`, { _form: await formId(), firstName: 'Ilse', email: 'Ilse@moonmail.test' });
    expect(sent.status).toBe(303);
    expect(sent.headers.get('location')).toBe(`/${funnel.slug}/checkout?gift=sent`);
    // What was typed stands in the checkout.
    const checkout = await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect(checkout).toContain('value="Ilse"');
    expect(checkout).toContain('value="ilse@moonmail.test"');
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019');
    const thanks = paid.body.redirect ?? '';
    for (let i = 0; i < 3; i++) await buyer.visit(thanks);
    expect(await counts()).toEqual({ came: 1, left: 1, checkout: 1, paid: 1, orders: 1, buyers: 1 });
    // Both the gift's file and the bought one are on the thank-you page, the bought one first.
    const page = await (await buyer.get(thanks)).text();
    expect(page.indexOf('lesson.pdf')).toBeGreaterThan(0);
    expect(page.indexOf('moon.pdf')).toBeGreaterThan(page.indexOf('lesson.pdf'));
    const [order] = await seller.rows('/orders');
    expect((await seller.read(`/orders/${order.id}`)).campaign).toEqual({ source: 'letter', campaign: 'autumn' });
    // Going back to the checkout shows that it is paid, and offers no second payment by accident.
    expect(await (await buyer.get(`/${funnel.slug}/checkout`)).text()).toContain('You have already paid');
  });

  it('leaves known bots and the shop’s own people out', async () => {
    const before = await counts();
    const bot = new Buyer(ruta.site, 'Mozilla/5.0 (compatible; Googlebot/2.1)');
    await bot.visit(`/${funnel.slug}`);
    const own = new Buyer(ruta.site);
    const { teamLink } = await seller.read('/session');
    await own.get(teamLink);
    await own.visit(`/${funnel.slug}`);
    await own.form(`/go/${funnel.entry}/form`, { _form: await formId(), firstName: 'Inês', email: 'own@perigeelane.test' });
    expect(await counts()).toEqual(before);
    // The seller's own try works all the same.
    expect(await (await own.get(`/${funnel.slug}/checkout`)).text()).toContain('value="own@perigeelane.test"');
  });

  it('records an event’s id once, and a view without script by the picture', async () => {
    const before = await counts();
    const visitor = new Buyer(ruta.site);
    await visitor.get(`/${funnel.slug}`);
    const view = { id: 'evt_samesamesame', path: `/${funnel.slug}`, query: '' };
    for (let i = 0; i < 3; i++) await visitor.count(view);
    const plain = new Buyer(ruta.site);
    await plain.get(`/${funnel.slug}`);
    await plain.get(`/e/pixel.gif?step=${funnel.entry}`);
    expect((await counts()).came).toBe(before.came + 2);
    const db = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
    expect(db.prepare(`select count(*) as n from events where id = 'evt_samesamesame'`).get()).toEqual({ n: 1 });
    db.close();
  });

  it('counts who arrives at the checkout by a link as somebody who came', async () => {
    const straight = await seller.sellingFunnel();
    const buyer = new Buyer(ruta.site);
    await buyer.visit(`/${straight.slug}/checkout`);
    await buyer.visit(`/${straight.slug}/checkout`);
    await until(async () => (await seller.figures(straight.id)).visitors > 0, 'the view is written');
    expect(await seller.figures(straight.id)).toMatchObject({ visitors: 1, leads: 0 });
  });

  it('knows the contact of a visitor who pays before their view is written', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    // The view waits to be written together with others while the payment is made.
    const [view, paid] = await Promise.all([
      buyer.visit(`/${funnel.slug}/checkout`),
      buyer.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019', { email: 'quick@moonmail.test' }),
    ]);
    expect([paid.status, view.length > 0]).toEqual([200, true]);
    const db = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
    const contactOf = () =>
      (
        db.prepare('SELECT c.email FROM visitors v JOIN contacts c ON c.id = v.contact_id WHERE v.id = ?').get(buyer.cookie('ruta_visitor')) as
          | { email: string }
          | undefined
      )?.email;
    await until(async () => (await seller.figures(funnel.id)).visitors > 0 && contactOf() !== undefined, 'the visitor is written');
    expect(contactOf()).toBe('quick@moonmail.test');
    db.close();
  });

  it('shows a stranger who types somebody’s address nothing of them, and changes nothing', async () => {
    const owner = new Buyer(ruta.site);
    await owner.openCheckout(`/${funnel.slug}/checkout`);
    await owner.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019', {
      email: 'owner@moonmail.test',
      firstName: 'Tove',
      lastName: 'Sand',
      country: 'DK',
    });
    const stranger = new Buyer(ruta.site);
    await stranger.visit(`/${funnel.slug}`);
    await stranger.form(`/go/${funnel.entry}/form`, { _form: await formId(), firstName: 'Nobody', email: 'owner@moonmail.test' });
    const seen = await stranger.openCheckout(`/${funnel.slug}/checkout`);
    expect(seen).toContain('value="Nobody"');
    expect(seen).not.toMatch(/Tove|Sand|value="DK" selected|selected="" value="DK"/);
    expect((await seller.rows('/contacts')).find(({ email }: { email: string }) => email === 'owner@moonmail.test')).toMatchObject({
      firstName: 'Tove',
      country: 'DK',
    });
    // Their own browser still knows them.
    const again = await (await owner.get(`/${funnel.slug}/checkout?again=1`)).text();
    expect(again).toMatch(/value="Tove"/);
  });

  it('keeps test mode out of every figure', async () => {
    const before = await counts();
    await seller.changeShop({ mode: 'test' });
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const numbers = async () => (await seller.rows('/orders')).map(({ mode, number }: { mode: string; number: number }) => `${mode} ${number}`);
    const sold = await numbers();
    const paid = await buyer.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019', { email: 'test@moonmail.test' });
    expect(paid.status).toBe(200);
    expect(await counts()).toEqual(before);
    // It takes no number from those that are paid, and says of itself everywhere what it is.
    expect(await numbers()).toEqual(['test 1', ...sold]);
    expect(await (await buyer.get(`/${funnel.slug}/checkout?again=1`)).text()).toContain('Test mode: no money is charged');
    const thanks = await (await buyer.get(paid.body.redirect ?? '')).text();
    expect(thanks).toContain('Test order: no money is charged');
    const link = /href="([^"]*\/d\/[^"]+)"/.exec(thanks)?.[1]?.replaceAll('&amp;', '&') ?? '';
    expect((await buyer.get(link)).headers.get('content-disposition')).toContain('TEST lesson.pdf');
    await until(async () => (await mails(ruta.standinsUrl, 'test@moonmail.test')).length > 0, 'the receipt arrives');
    expect((await mails(ruta.standinsUrl, 'test@moonmail.test'))[0]).toMatchObject({
      subject: expect.stringMatching(/^TEST: /),
      text: expect.stringContaining('Test order'),
    });
    expect((await seller.rows('/contacts')).find(({ email }: { email: string }) => email === 'test@moonmail.test')).toMatchObject({ orders: 0, paid: 0 });
    await seller.changeShop({ mode: 'live' });
  });

  it('gives a gift once, and its mail again to who asks again', async () => {
    const form = await formId();
    const again = new Buyer(ruta.site);
    await again.get(`/${funnel.slug}`);
    for (let i = 0; i < 2; i++) await again.form(`/go/${funnel.entry}/form`, { _form: form, firstName: 'Maja', email: 'maja@moonmail.test' });
    await until(async () => (await mails(ruta.standinsUrl, 'maja@moonmail.test')).length === 2, 'both mails arrive');
    const maja = (await seller.rows('/contacts')).find((contact: { email: string }) => contact.email === 'maja@moonmail.test');
    expect(await seller.rows(`/orders?contactId=${maja.id}`)).toHaveLength(1);
  });

  it('says at the field what a form lacks, and keeps nothing from machines', async () => {
    const form = await formId();
    const visitor = new Buyer(ruta.site);
    await visitor.get(`/${funnel.slug}`);
    const wrong = await visitor.form(`/go/${funnel.entry}/form`, { _form: form, firstName: '', email: 'x' });
    expect(wrong.status).toBe(422);
    expect(await wrong.text()).toContain('Please fill this in.');
    await visitor.form(`/go/${funnel.entry}/form`, { _form: form, firstName: 'Spam', email: 'spam@machine.test', website: 'http://x' });
    expect((await seller.rows('/contacts')).some((contact: { email: string }) => contact.email === 'spam@machine.test')).toBe(false);
  });

  it('can be made anew from the log with the same numbers', async () => {
    await until(async () => (await counts()).came > 0, 'views are written');
    const before = await counts();
    await seller.make('/reports/rebuild', {});
    await until(async () => (await seller.read('/reports/rebuild')).rebuiltAt !== null, 'they are made anew');
    expect(await counts()).toEqual(before);
    expect(await seller.read('/reports/rebuild')).toMatchObject({ isRunning: false });
  });
});

describe('links to files', () => {
  it('hold only as they were signed, and so many times', async () => {
    const [order] = await seller.rows('/orders');
    const detail = await seller.read(`/orders/${order.id}`);
    const page = await (await fetch(detail.orderUrl)).text();
    const link = /href="([^"]*\/d\/[^"]+)"/.exec(page)?.[1]?.replaceAll('&amp;', '&') ?? '';
    expect((await fetch(link)).status).toBe(200);
    expect((await fetch(link.replace(/until=\d+/, 'until=9999999999999'))).status).toBe(404);
    expect((await fetch(link.replace(/signature=[^&]+/, 'signature=x'))).status).toBe(404);
    let status = 200;
    for (let i = 0; i < 25 && status === 200; i++) status = (await fetch(link)).status;
    expect(status).toBe(410);
    expect((await fetch(`${ruta.site}/order/${'x'.repeat(24)}`)).status).toBe(404);
  });
});
