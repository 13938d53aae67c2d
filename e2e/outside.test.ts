import http from 'node:http';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { freePort, Installation, until } from '../apps/server/test/support/installation';
import { Person } from './support/browser';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
let elsewhere: http.Server;
let address: string;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
  const port = await freePort();
  // Another site of the seller's, of which the shop knows nothing.
  elsewhere = http.createServer((_request, response) => {
    response.setHeader('content-type', 'text/html');
    response.end(
      `<!doctype html><title>My own page</title><h1>My own page</h1><script src="${ruta.site}/embed/outside.js" data-funnel="${funnel.slug}" async></script><a href="${ruta.site}/${funnel.slug}/checkout">Buy it here</a>`,
    );
  });
  await new Promise<void>((resolve) => elsewhere.listen(port, resolve));
  address = `http://localhost:${port}/my-page`;
});
afterAll(async () => {
  elsewhere.closeAllConnections();
  elsewhere.close();
  await ruta.stop();
});

const isKnown = (person: Person) => person.driver.executeScript<string | null>('return localStorage.getItem("ruta visitor")');
const report = async (by: string) => {
  const today = new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/Lisbon' }).format(Date.now());
  return seller.read(`/reports?by=${by}&from=${today}&to=${today}&compare=none&funnelId=${funnel.id}`);
};

it('a page on another site counts in the funnel, and whoever follows its link is the same visitor with the same campaign', async () => {
  const person = await Person.arrive();
  try {
    await person.open(`${address}?utm_source=radio&utm_campaign=night-radio&sky_click=press-7`);
    await person.until(async () => (await isKnown(person)) !== null, 'they are known there');
    await until(async () => (await report('source')).total.visitors === 1, 'their visit counts');
    await person.click('Buy it here');
    await person.sees('First name');
    const arrived = await person.driver.getCurrentUrl();
    expect(arrived).toMatch(/utm_source=radio&utm_campaign=night-radio&sky_click=press-7&ruta_from=/);
    await person.type('First name', 'Ilse');
    await person.type('E-mail', 'ilse.v@moonmail.test');
    await typeCard(person, CARDS.approved);
    await pressPay(person);
    await person.sees('Thank you, Ilse');
    await until(async () => (await report('source')).total.converted === 1, 'they have bought');
    const { rows, total } = await report('campaign');
    expect(total).toMatchObject({ visitors: 1, converted: 1, orders: 1 });
    expect(rows).toMatchObject([{ key: 'night-radio', figures: { visitors: 1, converted: 1, orders: 1 } }]);
    const order = await seller.orderOf('ilse.v@moonmail.test');
    expect((await seller.read(`/orders/${order.id}`)).campaign).toMatchObject({ source: 'radio', campaign: 'night-radio' });

    // The same address in another browser makes nobody of whoever opens it: the word was good once.
    const friend = await Person.arrive();
    try {
      await friend.open(arrived);
      await friend.sees('First name');
      expect(await (await friend.byLabel('E-mail')).getAttribute('value')).toBe('');
      await until(async () => (await report('source')).total.visitors === 2, 'they are somebody else');
    } finally {
      await friend.leave();
    }
    // Nor does what lies open on the other site let anybody in: who has arrived once never arrives again.
    await person.open(address);
    const id = await isKnown(person);
    const checkout = `${ruta.site}/${funnel.slug}/checkout`;
    const asked = new URLSearchParams({ visitor: String(id), to: checkout });
    const said = (await (await fetch(`${ruta.site}/outside?${asked}`, { method: 'POST' })).json()) as { word: string };
    const thief = await Person.arrive();
    try {
      await thief.open(`${checkout}?again=1&ruta_from=${said.word}`);
      await thief.sees('First name');
      expect(await (await thief.byLabel('E-mail')).getAttribute('value')).toBe('');
    } finally {
      await thief.leave();
    }
  } finally {
    await person.leave();
  }
});

it('refuses what is no view, in words, and works without keeping anything', async () => {
  const ask = (query: string) => fetch(`${ruta.site}/outside?${query}`, { method: 'POST' });
  for (const wrong of ['visitor=vis_aaaaaaaaaa', 'id=1', 'to=nowhere', `page=${'x'.repeat(400)}`]) {
    const answer = await ask(wrong);
    expect([answer.status, await answer.json()]).toEqual([400, { message: 'This is not a view of a page.' }]);
  }
  const answer = await ask('funnel=nowhere');
  expect(answer.headers.get('access-control-allow-origin')).toBe('*');
  expect(answer.headers.getSetCookie()).toEqual([]);
  expect(await answer.json()).toMatchObject({ visitor: expect.stringMatching(/^els_/), word: null });
});
