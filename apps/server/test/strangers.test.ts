import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readConfig } from '../src/base/config';
import { Limits, personAt } from '../src/base/limits';
import { addressOf, readProxies } from '../src/base/proxies';
import { openServices } from '../src/openServices';
import { createShop } from '../src/shop/store';
import { refuseOtherCode, setupCode } from '../src/team/setupCode';
import { Buyer, CARD, formOn, mails, OWNER, Seller } from './support/clients';
import { Installation, SETUP_CODE, until } from './support/installation';
import { LEGAL } from './support/legal';
import { testServices } from './support/services';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
let gift: Awaited<ReturnType<Seller['sellingFunnel']>>;
const SHOP = { name: 'Perigee Lane', country: 'PT', currency: 'EUR', timeZone: 'Europe/Lisbon', pricesIncludeTax: true };
const setUp = (who: Seller, code: string) => who.json('/api/setup', { ...OWNER, code, shop: SHOP });

beforeAll(async () => {
  ruta = await Installation.start();
});
afterAll(() => ruta.stop());

describe('a new installation', () => {
  it('gets its owner only with the code that was printed where it was started, guessed by nobody', async () => {
    const stranger = new Seller(ruta.studio);
    const without = await setUp(stranger, '');
    expect([without.status, ((await without.json()) as { errors: unknown }).errors]).toEqual([
      400,
      [{ path: 'code', message: 'Enter the set-up code that was printed where Ruta was started.' }],
    ]);
    const statuses: number[] = [];
    for (let index = 0; index < 12; index++) statuses.push((await setUp(stranger, `AAAAA-AAAA${index % 10}`)).status);
    expect(statuses.slice(0, 9)).toEqual(Array(9).fill(403));
    expect(statuses.slice(-2)).toEqual([429, 429]);
    expect((await setUp(stranger, SETUP_CODE)).status).toBe(429);
    // Whoever has tried too often keeps nobody else out; and how the code is written does not matter.
    seller = new Seller(ruta.studio);
    const made = await setUp(seller, ` ${SETUP_CODE.toLowerCase().replace('-', ' ')} `);
    expect(made.status).toBe(201);
    seller.trust(((await made.json()) as { csrfToken: string }).csrfToken);
    expect((await setUp(new Seller(ruta.studio), SETUP_CODE)).status).toBe(409);
    // The sign-in's cookie goes to the studio's own API alone, though the public site has the same host.
    const cookies = made.headers.getSetCookie();
    expect(cookies).toHaveLength(2);
    for (const cookie of cookies) expect(cookie).toMatch(/Path=\/api; .*HttpOnly; SameSite=Strict/);
  });

  it('keeps its code through restarts where only its owner reads it, and forgets it once there is a shop', () => {
    const dataDir = mkdtempSync(path.join(tmpdir(), 'ruta-setup-'));
    const config = { ...readConfig({}), dataDir };
    const services = openServices(config, pino({ level: 'silent' }));
    const file = path.join(dataDir, 'setup.code');
    const code = setupCode(services) ?? '';
    expect(code).toMatch(/^[A-HJKMNP-Z2-9]{5}-[A-HJKMNP-Z2-9]{5}$/);
    expect([setupCode(services), readFileSync(file, 'utf8').trim(), statSync(file).mode & 0o777]).toEqual([code, code, 0o600]);
    for (const other of ['', '-', code.slice(0, 9), `${code}A`, code.replace(/^./, (letter) => (letter === 'A' ? 'B' : 'A'))])
      expect(() => refuseOtherCode(services, other), other).toThrow('This is not the set-up code.');
    refuseOtherCode(services, code);
    createShop(services.db, { ...SHOP, currency: 'EUR', contactEmail: OWNER.email, mode: 'live' });
    expect([setupCode(services), existsSync(file)]).toEqual([null, false]);
    services.close();
    rmSync(dataDir, { recursive: true });
  });
});

describe('the owner', () => {
  it('is not kept out by somebody who tries from the same network, nor is anybody else', async () => {
    const signsIn = (who: Seller, password: string) => who.json('/api/session', { email: OWNER.email, password });
    const beside = new Seller(ruta.studio);
    beside.address = seller.address;
    for (let index = 0; index < 12; index++) await signsIn(beside, 'not the password at all');
    expect((await signsIn(beside, OWNER.password)).status).toBe(429);
    // The same computer's address, but the browser that has been signed in before.
    expect((await signsIn(seller, 'not the password at all')).status).toBe(401);
    const again = await signsIn(seller, OWNER.password);
    expect(again.status).toBe(201);
    seller.trust(((await again.json()) as { csrfToken: string }).csrfToken);
    expect((await signsIn(new Seller(ruta.studio), OWNER.password)).status).toBe(201);
    // A mark that was made up, or is somebody else's, is none.
    beside.setCookie('ruta.known', 'made-up');
    expect((await signsIn(beside, OWNER.password)).status).toBe(429);
    // It has survived a restart.
    await ruta.stopServer();
    await ruta.startServer();
    expect((await signsIn(beside, OWNER.password)).status).toBe(429);
    expect((await signsIn(seller, OWNER.password)).status).toBe(201);
  });
});

describe('a stranger', () => {
  beforeAll(async () => {
    const again = await seller.json('/api/session', { email: OWNER.email, password: OWNER.password });
    seller.trust(((await again.json()) as { csrfToken: string }).csrfToken);
    await seller.changeShop({ ...LEGAL, mode: 'live' });
    funnel = await seller.sellingFunnel();
    gift = await seller.sellingFunnel({ gift: true });
  });

  it('tries few codes, each of which counts once however often the form asks', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const said = async (who: Buyer, code: string) =>
      ((await (await who.json(`/pay/${funnel.checkout}/quote`, who.order({ code }))).json()) as { errors: Record<string, string> }).errors.code;
    for (let again = 0; again < 30; again++) expect(await said(buyer, 'NOSUCH')).toBe('This code is not known. Look for a typing mistake.');
    for (let index = 1; index < 15; index++) await said(buyer, `NOSUCH${index}`);
    const tooMany = 'Too many codes were tried. Wait ten minutes, then try again.';
    expect(await said(buyer, 'NOSUCH99')).toBe(tooMany);
    // Nor by links, nor by another browser of the same computer; anybody else may.
    const other = new Buyer(ruta.site);
    other.address = buyer.address;
    await other.openCheckout(`/${funnel.slug}/checkout`);
    expect(await said(other, 'NOSUCH98')).toBe(tooMany);
    const friend = new Buyer(ruta.site);
    await friend.openCheckout(`/${funnel.slug}/checkout`);
    expect(await said(friend, 'NOSUCH98')).toBe('This code is not known. Look for a typing mistake.');
  });

  it('tries few cards, and nobody else is kept from paying', async () => {
    const thief = new Buyer(ruta.site);
    const statuses: number[] = [];
    for (let index = 0; index < 11; index++) {
      await thief.openCheckout(`/${funnel.slug}/checkout`);
      const { status, body } = await thief.pay(funnel.checkout, ruta.standinsUrl, CARD.stolen, { email: `thief${index}@moonmail.test` });
      statuses.push(status);
      if (index === 10)
        expect(body.message).toMatch(
          /^Too many cards were declined\. Wait ten minutes, then try again, or write to \S+@\S+ and we will help\. Nothing was charged\.$/,
        );
    }
    expect(statuses).toEqual([...Array(10).fill(402), 429]);
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good)).status).toBe(200);
  });

  it('begins few carts, in as many browsers as they like', async () => {
    const { address } = new Buyer(ruta.site);
    const begin = async (index: number) => {
      const one = new Buyer(ruta.site);
      one.address = address;
      await one.openCheckout(`/${funnel.slug}/checkout`);
      await one.json(`/pay/${funnel.checkout}/contact`, one.order({ email: `nobody${index}@moonmail.test` }));
      return one;
    };
    for (let index = 0; index < 62; index++) await begin(index);
    const database = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
    expect(database.prepare("SELECT count(*) AS kept FROM carts WHERE buyer LIKE '%nobody%'").get()).toEqual({ kept: 60 });
    database.close();
    // Whoever would pay in one of too many is told, and keeps what they typed.
    const last = await begin(63);
    const { status, body } = await last.pay(funnel.checkout, ruta.standinsUrl, CARD.good);
    expect([status, body.message]).toEqual([
      429,
      'Too many orders were begun from here in a short time. Wait ten minutes, then press the button again. Nothing was charged.',
    ]);
  });

  it('makes up few visitors, and counts them all the same where they are whole households', async () => {
    const { id, slug } = funnel;
    const visitors = async () => (await seller.figures(id)).visitors as number;
    const before = await visitors();
    const view = (number: number, address: string) =>
      fetch(`${ruta.site}/e?${new URLSearchParams({ id: `evt_madeup${String(number).padStart(6, '0')}`, path: `/${slug}`, query: '' })}`, {
        method: 'POST',
        headers: { 'user-agent': 'Mozilla/5.0 Chrome/131.0', cookie: `ruta_visitor=vis_madeup${String(number).padStart(6, '0')}`, 'x-forwarded-for': address },
      });
    for (let batch = 0; batch < 10; batch++) await Promise.all(Array.from({ length: 60 }, (_, index) => view(batch * 60 + index, '198.19.200.1')));
    await view(900, '198.19.200.2');
    await until(async () => (await visitors()) === before + 301, 'three hundred of one address count, and one of another');
    // A server that ends suddenly, within the moment in which views are gathered, loses none of them, nor by whose link they came.
    const came = await visitors();
    await Promise.all(Array.from({ length: 40 }, (_, index) => view(2000 + index, `198.19.201.${index}`)));
    await ruta.killServer();
    await ruta.startServer();
    await until(async () => (await visitors()) >= came + 40, 'all of them stand there after the next start');
    expect(await visitors()).toBe(came + 40);
  });

  it('has few mails sent to an address, none of which carries their words', async () => {
    const page = await seller.read(`/steps/${gift.entry}/page`);
    const form = formOn(page.page);
    for (let index = 0; index < 9; index++) {
      const stranger = new Buyer(ruta.site);
      await stranger.visit(`/${gift.slug}`);
      const sent = await stranger.form(`/go/${gift.entry}/form`, { _form: form, firstName: 'Win now at prize.test', email: 'vera@moonmail.test' });
      expect([index, sent.status]).toEqual([index, 303]);
    }
    await until(async () => (await mails(ruta.standinsUrl, 'vera@moonmail.test')).length >= 6, 'the mails arrive');
    const sent = await mails(ruta.standinsUrl, 'vera@moonmail.test');
    expect(sent).toHaveLength(6);
    for (const { subject, text, html } of sent) expect(`${subject} ${text} ${html}`).not.toMatch(/prize|Win now/);
    // Somebody else's mailbox is not the fuller for it, and hers gets what she buys.
    const vera = new Buyer(ruta.site);
    await vera.openCheckout(`/${funnel.slug}/checkout`);
    expect((await vera.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'vera@moonmail.test', firstName: 'Vera' })).status).toBe(200);
    await until(async () => (await mails(ruta.standinsUrl, 'vera@moonmail.test')).some(({ subject }) => /^Your receipt/.test(subject)), 'her receipt arrives');
    expect((await mails(ruta.standinsUrl, 'vera@moonmail.test')).find(({ subject }) => /^Your receipt/.test(subject)).text).toContain('Thank you, Vera');
  });
});

describe('limits', () => {
  it('end by their time, survive a restart, and keep no address', async () => {
    const services = testServices();
    const limit = { name: 'tries', most: 2, windowMs: 60_000 };
    const who = '203.0.113.77';
    expect([services.limits.take(limit, who), services.limits.take(limit, who), services.limits.take(limit, who)]).toEqual([true, true, false]);
    expect(services.limits.take(limit, '203.0.113.78')).toBe(true);
    await services.limits.flush();
    const kept = new Limits(services.db, services.clock, services.secrets);
    expect([kept.isReached(limit, who), kept.isReached(limit, '203.0.113.78')]).toEqual([true, false]);
    expect(JSON.stringify(services.db.all('SELECT * FROM limits'))).not.toContain('203.0.113');
    services.moment.at += 60_000;
    expect([kept.isReached(limit, who), kept.take(limit, who)]).toEqual([false, true]);
    // A clock that is set back by a day keeps nobody waiting for a day.
    for (let index = 0; index < 3; index++) kept.count(limit, who);
    services.moment.at -= 24 * 60 * 60_000;
    expect(kept.isReached(limit, who)).toBe(false);
    // Who has shown who they are begins anew, for good.
    kept.count(limit, who);
    kept.count(limit, who);
    kept.forget(limit, who);
    await kept.flush();
    expect(new Limits(services.db, services.clock, services.secrets).isReached(limit, who)).toBe(false);
    services.end();
  });

  it('count people behind proxies that are believed, and the proxy where none is', () => {
    const asks = (remoteAddress: string, forwarded?: string) =>
      ({ socket: { remoteAddress }, headers: forwarded ? { 'x-forwarded-for': forwarded } : {} }) as unknown as IncomingMessage;
    const seen = (setting: string | undefined, remote: string, forwarded?: string) => addressOf(readProxies(setting), asks(remote, forwarded));
    expect(seen(undefined, '127.0.0.1', '203.0.113.9')).toBe('203.0.113.9');
    // What the person says of themselves is not believed, only what the proxy beside the server adds.
    expect(seen(undefined, '127.0.0.1', '1.1.1.1, 203.0.113.9')).toBe('203.0.113.9');
    // Who is on the shop's network and asks by themselves makes up nobody.
    expect(seen(undefined, '10.0.0.2', '1.1.1.1')).toBe('10.0.0.2');
    expect(seen('10.0.0.2', '10.0.0.2', '1.1.1.1')).toBe('1.1.1.1');
    expect(seen(undefined, '203.0.113.5', '1.1.1.1')).toBe('203.0.113.5');
    expect(seen('none', '127.0.0.1', '203.0.113.9')).toBe('127.0.0.1');
    expect(seen('2', '203.0.113.1', '1.1.1.1, 203.0.113.9, 203.0.113.2')).toBe('203.0.113.9');
    expect(seen('203.0.113.1, 203.0.113.2/32', '203.0.113.1', '1.1.1.1, 203.0.113.9, 203.0.113.2')).toBe('203.0.113.9');
    for (const wrong of ['somewhere', '10.0.0.0/99', 'loopback,,x']) expect(() => readProxies(wrong), wrong).toThrow('RUTA_PROXIES must be');
    // A household has a whole range of the long addresses.
    expect(personAt('2001:db8:1:200::1')).toBe(personAt('2001:db8:1:2ff::9'));
    expect(personAt('2001:db8:1:200::1')).not.toBe(personAt('2001:db8:1:300::1'));
    expect(personAt(undefined)).toBe('nobody');
  });
});
