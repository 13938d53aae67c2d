import http from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation, until } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
  await seller.changeShop({ mode: 'live' });
});
afterAll(() => ruta.stop());

const enter = (record: object) =>
  fetch(`${ruta.standinsUrl}/dns/records`, {
    method: 'POST',
    body: JSON.stringify(record),
    headers: { 'content-type': 'application/json', accept: 'application/json' },
  });
const port = () => new URL(ruta.site).port;

interface Answer {
  status: number;
  location: string | undefined;
  text: string;
  cookies: string[];
}

/** Asks the public site by another name, as a browser does that was led here by it. */
function askAt(host: string, path: string, options: { method?: string; cookie?: string } = {}): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const headers = { host: `${host}:${port()}`, 'user-agent': 'Mozilla/5.0 Chrome/131.0', ...(options.cookie ? { cookie: options.cookie } : {}) };
    const request = http.request({ port: port(), host: '127.0.0.1', path, method: options.method ?? 'GET', headers }, (answer) => {
      let text = '';
      answer.on('data', (part) => {
        text += part;
      });
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, location: answer.headers.location, text, cookies: answer.headers['set-cookie'] ?? [] }));
    });
    request.on('error', reject).end();
  });
}

describe('a domain of the seller’s own', () => {
  it('opens nothing before its entries lead here, says which are missing, and then is where its funnel is', async () => {
    const host = 'moon.perigeelane.test';
    const added = await seller.make('/domains', { host: `https://${host}/`, funnelId: funnel.id });
    expect(added).toMatchObject({ host, state: 'waiting', address: `http://${host}:${port()}` });
    expect(added.problems).toHaveLength(2);
    expect((await seller.read(`/funnels/${funnel.id}`)).problems).toContainEqual(expect.objectContaining({ check: 'domain-waits', severity: 'warning' }));
    expect((await askAt(host, '/')).text).toContain('Follow the link that brought you here');

    const [proof, way] = added.records;
    await enter({ ...proof, value: 'ruta-site=something-else' });
    await enter({ type: 'A', name: host, value: '203.0.113.9' });
    expect((await seller.make(`/domains/${added.id}/check`, {})).problems).toEqual([
      expect.stringContaining('says something else'),
      expect.stringContaining('leads to 203.0.113.9, which is not here. Change its entry to 127.0.0.1'),
    ]);
    await enter(proof);
    await enter(way);
    expect(await seller.make(`/domains/${added.id}/check`, {})).toMatchObject({ state: 'ready', problems: [] });
    const root = await askAt(host, '/?utm_source=radio');
    expect(root.status).toBe(200);
    expect(root.text).toContain(`<link rel="canonical" href="http://${host}:${port()}/"`);
    // The same page is at its usual address too, and says which is its own.
    expect(await new Buyer(ruta.site).visit(`/${funnel.slug}`)).toContain(`<link rel="canonical" href="http://${host}:${port()}/"`);
    const { addresses, problems } = await seller.read(`/funnels/${funnel.id}`);
    expect([addresses[funnel.entry], addresses[funnel.checkout]]).toEqual([`http://${host}:${port()}/`, `http://${host}:${port()}/${funnel.slug}/checkout`]);
    expect(problems.filter(({ check }: { check: string }) => check === 'domain-waits')).toEqual([]);
    expect((await askAt(host, '/sitemap.xml')).text).toContain(`<loc>http://${host}:${port()}/</loc>`);
  });

  it('counts at its root as anywhere, takes visitors along to another domain once, and leads nobody astray', async () => {
    const host = 'moon.perigeelane.test';
    const first = await askAt(host, '/');
    const cookie = /ruta_visitor=[^;]+/.exec(first.cookies.join())?.[0] ?? '';
    const count = (at: string, id: string, path: string, theirs: string) =>
      askAt(at, `/e?${new URLSearchParams({ id: `evt_${id}`, path, query: '' })}`, { method: 'POST', cookie: theirs });
    await count(host, 'atroot0001', '/', cookie);
    const today = new Date().toISOString().slice(0, 10);
    const visitors = async () => (await seller.read(`/reports?by=step&from=${today}&to=${today}&funnelId=${funnel.id}`)).total.visitors;
    // Beside somebody who came by the usual address before.
    await until(async () => (await visitors()) === 2, 'the view at the root counts');
    const to = `${ruta.site}/${funnel.slug}/checkout`;
    const over = await askAt(host, `/over?to=${encodeURIComponent(to)}`, { cookie });
    expect([over.status, over.location]).toEqual([303, expect.stringMatching(/\/checkout\?ruta_from=[\w-]+$/)]);
    const arrived = await fetch(over.location ?? '', { headers: { 'user-agent': 'Mozilla/5.0 Chrome/131.0' } });
    const there = /ruta_visitor=[^;]+/.exec(arrived.headers.getSetCookie().join())?.[0] ?? '';
    // Counted as the same, and a browser of its own all the same: what was typed and bought there stays there.
    expect(there).toMatch(new RegExp(`^ruta_visitor=vis_[0-9a-z]+\\.${cookie.replace('ruta_visitor=', '')}$`));
    expect(there).not.toMatch(new RegExp(`^${cookie}`));
    await count('127.0.0.1', 'atcheckout', `/${funnel.slug}/checkout`, there);
    // The word was good once.
    const again = await fetch(over.location ?? '', { headers: { 'user-agent': 'Mozilla/5.0 Chrome/131.0' } });
    expect(again.headers.getSetCookie().join()).not.toContain(cookie.replace('ruta_visitor=', ''));
    // And on the page it was made for alone.
    const other = (await askAt(host, `/over?to=${encodeURIComponent(to)}`, { cookie })).location ?? '';
    const astrayed = await fetch(other.replace('/checkout', ''), { headers: { 'user-agent': 'Mozilla/5.0 Chrome/131.0' } });
    expect(astrayed.headers.getSetCookie().join()).not.toContain(cookie.replace('ruta_visitor=', ''));
    expect(await visitors()).toBe(2);
    // On the same domain there is nothing to take along, and elsewhere nobody is led.
    expect((await askAt(host, `/over?to=${encodeURIComponent(`http://${host}:${port()}/x`)}`, { cookie })).location).toBe(`http://${host}:${port()}/x`);
    for (const astray of ['https://elsewhere.test/', '//elsewhere.test', 'javascript:alert(1)', `http://${host}.elsewhere.test/`]) {
      expect((await askAt(host, `/over?to=${encodeURIComponent(astray)}`, { cookie })).status).toBe(404);
    }
    expect((await seller.get(`/api/open?to=${encodeURIComponent('https://elsewhere.test/')}`)).status).toBe(400);
    expect((await seller.get(`/api/open?to=${encodeURIComponent(`http://${host}:${port()}/?a=1`)}`)).headers.get('location')).toMatch(
      new RegExp(`^http://${host}:${port()}/team\\?mark=.*&to=%2F%3Fa%3D1$`),
    );
    expect((await askAt(host, '/team?mark=1&to=//elsewhere.test')).status).toBe(204);
    // Whoever is of the team at one domain is led to the other as one of the team, and does not count there either.
    const opened = await fetch((await seller.read('/session')).teamLink);
    const team = /ruta_team=[^;]+/.exec(opened.headers.getSetCookie().join())?.[0] ?? '';
    const away = `http://${host}:${port()}/${funnel.slug}/checkout`;
    const led = await fetch(`${ruta.site}/over?to=${encodeURIComponent(away)}`, {
      headers: { cookie: `${cookie}; ${team}`, 'user-agent': 'Mozilla/5.0 Chrome/131.0' },
      redirect: 'manual',
    });
    const marked = new URL(led.headers.get('location') ?? '');
    expect([marked.host, marked.pathname]).toEqual([`${host}:${port()}`, '/team']);
    const there2 = await askAt(host, marked.pathname + marked.search);
    expect([there2.status, there2.cookies.join()]).toEqual([303, expect.stringContaining('ruta_team=')]);
    expect(there2.location).toMatch(new RegExp(`^/${funnel.slug}/checkout\\?ruta_from=`));
  });

  it('brings back from the bank to where its buyer was', async () => {
    const host = 'moon.perigeelane.test';
    const page = await askAt(host, `/${funnel.slug}/checkout`);
    const cookie = /ruta_visitor=[^;]+/.exec(page.cookies.join())?.[0] ?? '';
    const value = (name: string) => new RegExp(`name="${name}" value="([^"]+)"`).exec(page.text)?.[1] ?? '';
    const token = await new Buyer(ruta.site).token(ruta.standinsUrl, CARD.confirm);
    const body = JSON.stringify({ cart: value('cart'), shown: value('shown'), firstName: 'Ilse', email: 'bank@moonmail.test', country: 'NL', token });
    const paid = await new Promise<string>((resolve, reject) => {
      const headers = {
        host: `${host}:${port()}`,
        cookie,
        'content-type': 'application/json',
        accept: 'application/json',
        'user-agent': 'Mozilla/5.0 Chrome/131.0',
      };
      const request = http.request({ port: port(), host: '127.0.0.1', path: `/pay/${funnel.checkout}`, method: 'POST', headers }, (answer) => {
        let text = '';
        answer.on('data', (part) => {
          text += part;
        });
        answer.on('end', () => resolve(text));
      });
      request.on('error', reject).end(body);
    });
    const { redirect } = JSON.parse(paid) as { redirect: string };
    const confirmed = await fetch(redirect, { method: 'POST', redirect: 'manual', body: new URLSearchParams({ answer: 'yes' }) });
    expect(confirmed.headers.get('location') ?? '').toMatch(new RegExp(`^http://${host}:${port()}/pay/return/`));
  });

  it('is refused where it cannot be', async () => {
    const refused = async (host: string, funnelId: string | null = null) =>
      (await (await seller.send('/domains', { host, funnelId })).json()).errors?.[0]?.message;
    expect(await refused('moon.perigeelane.test')).toBe('This domain is in the list already.');
    expect(await refused('perigee')).toBe('Write a name such as shop.example.test.');
    expect(await refused('127.0.0.1')).toBe('Write a name, not a number: names are what visitors see.');
    expect(await refused('sky.perigeelane.test', 'fun_gone')).toBe('This funnel is not there any more. Choose another.');
  });

  it('waits again once its entries are gone, but not where its names could not be asked', async () => {
    const [domain] = await seller.read('/domains');
    await fetch(`${ruta.standinsUrl}/dns/remove`, { method: 'POST', body: new URLSearchParams({ index: '2' }), redirect: 'manual' });
    const strayed = async () => (await seller.read('/today')).needs.filter(({ title }: { title: string }) => title.includes('is no longer connected'));
    expect(await strayed()).toEqual([]);
    expect(await seller.make(`/domains/${domain.id}/check`, {})).toMatchObject({ state: 'waiting' });
    expect(await strayed()).toMatchObject([{ title: 'moon.perigeelane.test is no longer connected', link: '/settings/domains' }]);
    expect((await askAt('moon.perigeelane.test', '/')).text).toContain('Follow the link that brought you here');
    const gone = await seller.send(`/domains/${domain.id}`, undefined, 'DELETE');
    expect(gone.status).toBe(200);
    expect(await seller.read('/domains')).toEqual([]);
  });
});
