import { askedCategories, DEFAULT_CONSENT } from '@ruta/core/shop';
import { type DataLayerEntry, DataLayerEntrySchema } from '@ruta/core/tracking';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { wordingOf } from '../src/tracking/consent';
import type { Happening } from '../src/tracking/happening';
import { UntoldMoments } from '../src/tracking/untold';
import { Buyer, Seller } from './support/clients';
import { Installation, until } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
let formId = '';
const on = { ...DEFAULT_CONSENT, isOn: true };

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
  formId = /name="_form" value="(\w+)"/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '';
  await seller.changeShop({ consent: on, code: { head: '<script>marketing()</script>', body: '', purchase: 'bought({{order.value}})' } });
  await seller.make(`/funnels/${funnel.id}/look`, { brand: null, code: { head: '<script>needed()</script>', body: '', needs: 'nothing' } }, 'PUT');
  await seller.make(`/funnels/${funnel.id}/publish`, {});
});
afterAll(() => ruta.stop());

/** The wording that pages ask with now. */
const asked = async () => /data-wording="([^"]+)"/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '';
const answer = async (buyer: Buyer, more: object = {}) =>
  buyer.json('/consent', { statistics: false, marketing: true, wording: await asked(), page: '/x', ...more });
const lead = (buyer: Buyer, email: string) => buyer.form(`/go/${funnel.entry}/form`, { _form: formId, email, firstName: 'Marta' });
let views = 0;
/** Counts a view as a page with a data layer does, and hears what happened since the last. */
async function tell(buyer: Buyer, path: string): Promise<DataLayerEntry[]> {
  const query = new URLSearchParams({ id: `evt_view${String(++views).padStart(8, '0')}`, path, query: '', tell: '1' });
  const answered = await buyer.request(`/e?${query}`, { method: 'POST' });
  return answered.status === 200 ? ((await answered.json()) as DataLayerEntry[]).map((entry) => DataLayerEntrySchema.parse(entry)) : [];
}

describe('a page that asks', () => {
  it('has the code that needs nothing in its head, and the rest as data that nothing runs', async () => {
    const html = await (await fetch(`${ruta.site}/${funnel.slug}`)).text();
    const head = html.slice(0, html.indexOf('</head>'));
    expect(head).toContain('<script>needed()</script>');
    expect(html).not.toContain('<script>marketing()');
    const gated = JSON.parse(/<script type="application\/json" id="ruta-gated">(.*?)<\/script>/.exec(html)?.[1] ?? '[]');
    expect(gated).toEqual([{ needs: 'marketing', place: 'head', html: '<script>marketing()</script>' }]);
    expect(html).toContain(DEFAULT_CONSENT.title);
  });
  it('asks nothing, and has all code as it is written, once the question is switched off or asks for nothing', async () => {
    for (const consent of [
      { ...on, isOn: false },
      { ...on, statistics: { ...on.statistics, isAsked: false }, marketing: { ...on.marketing, isAsked: false } },
    ]) {
      expect(askedCategories(consent)).toEqual([]);
      await seller.changeShop({ consent });
      const html = await (await fetch(`${ruta.site}/${funnel.slug}`)).text();
      expect(html).toContain('<script>marketing()</script>');
      expect(html).not.toContain('ruta-gated');
    }
    await seller.changeShop({ consent: on });
  });
});

describe('an answer', () => {
  it('is kept with its wording as proof, in the file too, and anything else is refused in words', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.visit(`/${funnel.slug}`);
    expect((await answer(buyer)).status).toBe(204);
    expect(buyer.cookie('ruta_consent')).toBe(`01.${wordingOf(on)}`);
    await lead(buyer, 'proof@moonmail.test');
    const { latest, wordings, count } = await seller.read('/consents');
    expect(latest[0]).toMatchObject({ email: 'proof@moonmail.test', statistics: false, marketing: true, wording: wordings[0].id });
    expect([wordings[0].settings.title, count]).toEqual([on.title, { answers: 1, statistics: 0, marketing: 1 }]);
    const file = await (await seller.get('/api/consents/export')).text();
    expect(file.split('\r\n')[1]).toMatch(/,proof@moonmail\.test,\/x,no,yes,/);
    for (const [wrong, status] of [
      [{ wording: 'another' }, 409],
      [{ marketing: 'yes' }, 400],
      [{ page: 'x'.repeat(400) }, 400],
    ] as const) {
      expect((await answer(buyer, wrong)).status).toBe(status);
    }
    expect((await buyer.request('/consent', { method: 'POST', body: '{', headers: { 'content-type': 'application/json' } })).status).toBeLessThan(500);
    expect((await seller.read('/consents')).count.answers).toBe(1);
  });
  it('says of each event whether platforms may be told, from then on', async () => {
    const rule = { name: 'R', isOn: true, moment: 'lead', formIds: [], funnelId: null, event: 'lead', value: { kind: 'none' }, testCode: null };
    const made = await seller.make('/conversion-rules', {
      ...rule,
      destination: { kind: 'skylark', pixelId: 'perigee-1', isInBrowser: false },
      token: 'skylark-demo-token',
      keys: ['email', 'address', 'agent'],
    });
    for (const [email, marketing] of [
      ['no@moonmail.test', false],
      ['yes@moonmail.test', true],
    ] as const) {
      const buyer = new Buyer(ruta.site);
      await buyer.visit(`/${funnel.slug}`);
      await answer(buyer, { marketing });
      await lead(buyer, email);
    }
    // Who has no cookies has answered nothing, and leaves an address all the same.
    await lead(new Buyer(ruta.site), 'cookieless@moonmail.test');
    const states = async () => (await seller.rows(`/messages/to/${made.id}`)).map(({ state }: { state: string }) => state).toSorted();
    await until(async () => String(await states()) === 'sent,withheld,withheld', 'one is told, and two are not');
    expect((await seller.read('/conversion-rules'))[0].sent).toBe(1);
    const [sent] = await seller.rows(`/messages/to/${made.id}?state=sent`);
    // The computer's address and the browser's name go as they are, since a rule asks for them.
    expect(JSON.parse(sent.body).events[0].user).toMatchObject({ address: expect.stringMatching(/^198\.1[89]\./), agent: expect.stringContaining('Mozilla') });
    expect((await seller.rows('/contacts')).map(({ email }: { email: string }) => email)).toContain('cookieless@moonmail.test');
    await seller.make(`/conversion-rules/${made.id}`, {}, 'DELETE');
  });
});

describe('before anybody agrees', () => {
  const figures = async () => (await seller.figures(funnel.id)).visitors as number;
  const kept = (response: Response) => response.headers.getSetCookie().map((cookie) => cookie.split('=')[0]);

  it('nothing is kept in a browser, and the views of one visit count as one', async () => {
    const before = await figures();
    const passing = new Buyer(ruta.site);
    for (const path of [`/${funnel.slug}`, `/${funnel.slug}?utm_source=letter`, `/go/${funnel.entry}`]) expect(kept(await passing.get(path))).toEqual([]);
    await passing.visit(`/${funnel.slug}`);
    await passing.visit(`/${funnel.slug}`);
    await until(async () => (await figures()) === before + 1, 'one visit counts');
    // Somebody else, elsewhere, is another visit.
    await new Buyer(ruta.site).visit(`/${funnel.slug}`);
    await until(async () => (await figures()) === before + 2, 'the other visit counts');
  });

  it('a cart keeps what it needs until the browser is closed, and its order counts with the visit that led to it', async () => {
    const before = await figures();
    const buyer = new Buyer(ruta.site);
    await buyer.visit(`/${funnel.slug}`);
    const opened = await buyer.get(`/${funnel.slug}/checkout`);
    expect(opened.headers.getSetCookie().filter((cookie) => cookie.startsWith('ruta_visitor='))).toEqual([
      expect.stringMatching(/^ruta_visitor=vis_\w+; Path=\/; HttpOnly; SameSite=Lax$/),
    ]);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019', { email: 'passing@moonmail.test' })).status).toBe(200);
    await until(async () => (await figures()) === before + 1, 'one visit counts');
    const order = await seller.orderOf('passing@moonmail.test');
    const kinds = (order.story as Array<{ kind: string }>).map(({ kind }) => kind);
    expect(kinds).toEqual(expect.arrayContaining(['page.viewed', 'checkout.started', 'order.paid']));
  });

  it('two people behind one address may be one visit, and still see nothing of each other', async () => {
    const [one, other] = [new Buyer(ruta.site), new Buyer(ruta.site)];
    other.address = one.address;
    await one.openCheckout(`/${funnel.slug}/checkout`);
    await lead(one, 'one@moonmail.test');
    await other.visit(`/${funnel.slug}`);
    expect(await other.openCheckout(`/${funnel.slug}/checkout`)).not.toContain('one@moonmail.test');
    expect(other.cookie('ruta_visitor')).not.toBe(one.cookie('ruta_visitor'));
  });

  it('a no keeps the no alone; a yes keeps an id that goes on as the same visit', async () => {
    const before = await figures();
    const [no, yes] = [new Buyer(ruta.site), new Buyer(ruta.site)];
    await no.visit(`/${funnel.slug}`);
    expect(kept(await answer(no, { marketing: false }))).toEqual(['ruta_consent']);
    await yes.visit(`/${funnel.slug}`);
    const agreed = await answer(yes, { statistics: true });
    expect(kept(agreed)).toEqual(['ruta_visitor', 'ruta_consent']);
    expect(agreed.headers.getSetCookie()[0]).toMatch(/Max-Age=\d{8}/);
    yes.address = '198.19.200.200';
    await yes.visit(`/${funnel.slug}`);
    await no.visit(`/${funnel.slug}`);
    await until(async () => (await figures()) === before + 2, 'each counts once');
    // Taken back, the id lasts no longer than the browser is open.
    const back = await answer(yes, { marketing: false });
    expect(back.headers.getSetCookie()[0]).toMatch(/^ruta_visitor=vis_\w+; Path=\/; HttpOnly; SameSite=Lax$/);
  });

  it('the question says what ad platforms are told, and asks again once that is another thing', async () => {
    const html = async () => (await fetch(`${ruta.site}/${funnel.slug}`)).text();
    const [first, plain] = [await asked(), await html()];
    expect(plain).not.toContain('They are told when');
    const rule = { name: 'R', isOn: true, formIds: [], funnelId: null, value: { kind: 'none' }, testCode: null, token: 'skylark-demo-token' };
    const to = { destination: { kind: 'skylark', pixelId: 'perigee-1', isInBrowser: false } };
    const made = await seller.make('/conversion-rules', { ...rule, ...to, moment: 'lead', event: 'lead', keys: ['email', 'click'] });
    expect(await html()).toContain('They are told when you leave your address, with your email address in scrambled form and the ad that you pressed.');
    expect(await asked()).not.toBe(first);
    await seller.make(`/conversion-rules/${made.id}`, {}, 'DELETE');
    expect(await asked()).toBe(first);
  });
});

describe('what happened since', () => {
  it('is told once, to the browser of whoever did it, each with its own id', async () => {
    const [one, other] = [new Buyer(ruta.site), new Buyer(ruta.site)];
    await one.visit(`/${funnel.slug}`);
    await other.visit(`/${funnel.slug}`);
    await lead(one, 'told@moonmail.test');
    expect((await tell(other, `/${funnel.slug}`)).filter(({ event }) => event === 'lead')).toEqual([]);
    const told = await tell(one, `/${funnel.slug}/checkout`);
    expect(told).toContainEqual(expect.objectContaining({ event: 'lead', form: formId }));
    await until(async () => (await tell(one, `/${funnel.slug}/checkout`)).length === 0, 'all is told');
    await one.openCheckout(`/${funnel.slug}/checkout`);
    expect((await one.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019', { email: 'told@moonmail.test' })).status).toBe(200);
    const moments: DataLayerEntry[] = [];
    await until(async () => {
      moments.push(...(await tell(one, `/${funnel.slug}/checkout`)));
      return moments.some(({ event }) => event === 'payment_given');
    }, 'the payment is told');
    const count = (name: string) => moments.filter(({ event }) => event === name).length;
    expect([count('checkout_started'), count('cart_added'), count('payment_given'), count('lead')]).toEqual([1, 1, 1, 0]);
    expect(moments.find(({ event }) => event === 'cart_added')).toMatchObject({ value: 138, currency: 'EUR', product: { name: 'First Light' } });
  });
  it('is forgotten after half an hour, and never grows beyond its bounds', () => {
    const untold = new UntoldMoments(() => 'EUR');
    const event = (browserId: string, at: number, index = 0) =>
      ({ id: `evt_${browserId}${index}`, browserId, at, kind: 'lead.submitted', mode: 'live', data: {} }) as unknown as Happening;
    untold.note(event('vis_early', 0));
    expect(untold.take('vis_early', 31 * 60_000)).toEqual([]);
    for (let index = 0; index < 100; index++) untold.note(event('vis_busy', 1, index));
    expect(untold.take('vis_busy', 2)).toHaveLength(30);
    for (let index = 0; index < 6000; index++) untold.note(event(`vis_${index}`, 3));
    expect([untold.take('vis_0', 4).length, untold.take('vis_5999', 4).length, untold.take('vis_5999', 4).length]).toEqual([0, 1, 0]);
  });
});
