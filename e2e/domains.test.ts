import http from 'node:http';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let seller: Seller;
let funnels: Array<Awaited<ReturnType<Seller['sellingFunnel']>>>;
const today = () => new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/Lisbon' }).format(Date.now());
const port = () => new URL(ruta.site).port;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnels = [await seller.sellingFunnel({ gift: true }), await seller.sellingFunnel()];
});
afterAll(() => ruta.stop());

it('a domain is added, its entries are copied to whoever keeps its names, and then it opens on its funnel', async () => {
  const owner = await arriveAsOwner(ruta.studio);
  try {
    await owner.open(`${ruta.studio}/settings/domains`);
    await owner.click('Add a domain');
    await owner.type('Domain', 'perigee');
    await owner.click('Add it');
    await owner.sees('Write a name such as shop.example.test.');
    // Browsers find names below “localhost” on this very computer.
    await owner.type('Domain', 'moon.localhost');
    await owner.choose('Opens on', 'Gift first');
    await owner.click('Add it');
    await owner.sees('Waits for its entries');
    await owner.sees('There is no TXT entry of _ruta.moon.localhost yet.');
    expect(await axeProblems(owner)).toEqual([]);
    const [domain] = await seller.read('/domains');
    const names = await Person.arrive();
    try {
      for (const { type, name, value } of domain.records) {
        await names.open(`${ruta.standinsUrl}/dns`);
        await names.choose('Type', type);
        await names.type('Name', name);
        await names.type('Value', value);
        await names.click('Add');
        await names.sees(value);
      }
    } finally {
      await names.leave();
    }
    await owner.click('Look now');
    await owner.sees('Leads here');
    await owner.click('Open it');
    await owner.until(async () => (await owner.driver.getAllWindowHandles()).length === 2, 'it opens beside the studio');
    const [, opened = ''] = await owner.driver.getAllWindowHandles();
    await owner.driver.switchTo().window(opened);
    await owner.until(async () => (await owner.address()) === `http://moon.localhost:${port()}/`, 'the funnel stands at its root');
    await owner.sees('Moon Month');
  } finally {
    await owner.leave();
  }
});

it('a visitor goes from one domain to another by a link in words, is one visitor in the figures, and the seller is none', async () => {
  const { page, revision } = await seller.read(`/steps/${funnels[0]?.entry}/page`);
  const target = `${ruta.site}/${funnels[1]?.slug}`;
  page.sections[0].columns[0].elements.push({ id: 'elm_leadsover1', type: 'text', style: 'body', words: [{ type: 'text', text: 'Over there', link: target }] });
  await seller.make(`/steps/${funnels[0]?.entry}/page`, { page, revision }, 'PUT');
  await seller.make(`/funnels/${funnels[0]?.id}/publish`, {});
  const person = await Person.arrive();
  try {
    await person.open(`http://moon.localhost:${port()}/?utm_source=radio&utm_campaign=night-radio`);
    await person.sees('Over there');
    const report = (funnelId: string | undefined, by: string) =>
      seller.read(`/reports?by=${by}&from=${today()}&to=${today()}&compare=none${funnelId ? `&funnelId=${funnelId}` : ''}`);
    await until(async () => (await report(funnels[0]?.id, 'campaign')).total.visitors === 1, 'the view at the root counts, and the seller’s own does not');
    await person.click('Over there');
    await person.until(async () => (await person.address()).startsWith(target), 'they are on the other domain');
    await until(async () => (await report(funnels[1]?.id, 'campaign')).total.visitors === 1, 'they count in the other funnel');
    const shop = await report(undefined, 'campaign');
    expect(shop.total.visitors).toBe(1);
    expect(shop.rows).toMatchObject([{ key: 'night-radio', figures: { visitors: 1 } }]);
  } finally {
    await person.leave();
  }
});

it('whoever follows a word that was made for somebody else counts as them and stays who they are: nothing typed, bought or kept is shared', async () => {
  const funnel = funnels[1] as (typeof funnels)[number];
  const checkout = `${ruta.site}/${funnel.slug}/checkout`;
  await seller.changeShop({ mode: 'live' });
  const attacker = await Person.arrive();
  const victim = await Person.arrive();
  try {
    await attacker.open(`http://moon.localhost:${port()}/`);
    await attacker.sees('Over there');
    const cookie = (await attacker.driver.manage().getCookies()).map(({ name, value }) => `${name}=${value}`).join('; ');
    const word = await wordFor(cookie, checkout);
    // The attacker's own browser arrives with a word, too, so that both count as the same visitor.
    await attacker.open(await wordFor(cookie, checkout));
    await attacker.sees('First name');
    await victim.open(word);
    await victim.sees('First name');
    await victim.type('E-mail', 'ilse.victim@moonmail.test');
    await victim.type('First name', 'Ilse');
    await until(async () => hasCart('ilse.victim@moonmail.test'), 'their cart is kept');
    await attacker.open(checkout);
    await attacker.sees('First name');
    expect(await (await attacker.byLabel('E-mail')).getAttribute('value')).toBe('');
    await typeCard(victim, CARDS.approved);
    await pressPay(victim);
    await victim.sees('Thank you, Ilse');
    await attacker.open(checkout);
    await attacker.sees('First name');
    expect(await attacker.driver.getPageSource()).not.toMatch(/Ilse|\/order\//);
    const { graph } = await seller.read(`/funnels/${funnel.id}`);
    const { slug } = graph.steps.find(({ id }: { id: string }) => id === funnel.thankYou);
    await attacker.open(`${ruta.site}/${funnel.slug}/${slug}`);
    expect(await attacker.text()).not.toContain('Ilse');
  } finally {
    await attacker.leave();
    await victim.leave();
  }
});

/** Whether a cart is kept of somebody. */
function hasCart(email: string): boolean {
  const raw = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
  try {
    return raw.prepare("SELECT 1 FROM carts WHERE json_extract(buyer, '$.email') = ?").get(email) !== undefined;
  } finally {
    raw.close();
  }
}

/** The address with a word that somebody is led to from the other domain. */
function wordFor(cookie: string, to: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const headers = { host: `moon.localhost:${port()}`, cookie, 'user-agent': 'Mozilla/5.0 Chrome/131.0' };
    http
      .get({ port: port(), host: '127.0.0.1', path: `/over?to=${encodeURIComponent(to)}`, headers }, (answer) => {
        answer.resume();
        resolve(answer.headers.location ?? '');
      })
      .on('error', reject);
  });
}
