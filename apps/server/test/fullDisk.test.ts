import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { sql } from 'drizzle-orm';
import sharp from 'sharp';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { whenFree, whyUnwritten } from '../src/base/writes';
import { events } from '../src/tracking/tables';
import { makeEvent } from '../src/tracking/visitor';
import { Buyer, CARD, OWNER, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { type TestServices, testServices } from './support/services';

const place = mkdtempSync(path.join(tmpdir(), 'ruta-small-'));
const mount = (...options: string[]) => spawnSync('mount', [...options, place]).status === 0;
const isMounted = mount('-t', 'tmpfs', '-o', 'size=24m', 'tmpfs');

/** A file system of its own that can be filled; only where this computer lets one be made. */
describe.skipIf(!isMounted)('a disk that is full', () => {
  let ruta: Installation;
  let seller: Seller;
  let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
  beforeAll(async () => {
    ruta = await Installation.start({ data: path.join(place, 'data') });
    seller = await Seller.ofNewShop(ruta.studio);
    funnel = await seller.sellingFunnel();
  });
  afterAll(async () => {
    await ruta.stop();
    execFileSync('umount', [place]);
    rmSync(place, { recursive: true, force: true });
  });

  const health = async () => {
    const answer = await fetch(`${ruta.studio}/api/health`);
    return { code: answer.status, ...((await answer.json()) as { status: string; problem?: string }) };
  };
  const buy = async (email: string) => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const token = await buyer.token(ruta.standinsUrl, CARD.good);
    const began = Date.now();
    const answer = await buyer.json(`/pay/${funnel.checkout}`, buyer.order({ email, token }));
    return { status: answer.status, said: (await answer.json()) as { title?: string; redirect?: string }, ms: Date.now() - began };
  };
  const fill = () => {
    try {
      for (let part = 0; ; part++) writeFileSync(path.join(place, `filler-${part}`), Buffer.alloc(256 * 1024));
    } catch {
      // Now it is full, down to the last page.
    }
    try {
      for (let part = 0; ; part++) writeFileSync(path.join(place, `filler-small-${part}`), Buffer.alloc(4096));
    } catch {
      // As above.
    }
  };
  const empty = () => execFileSync('sh', ['-c', `rm -f ${place}/filler-*`]);

  it('is said in true words, by health and by Today, and all goes on by itself once it is over', async () => {
    expect((await buy('before@moonmail.test')).status).toBe(200);
    fill();
    // What is already set aside for the log may take a few more; then it is full for everybody.
    let refused = await buy('full0@moonmail.test');
    for (let tries = 1; refused.status === 200 && tries < 60; tries++) refused = await buy(`full${tries}@moonmail.test`);
    expect(refused.status).toBe(503);
    expect(refused.said.title).toBe(
      'We could not write this down just now. If money was taken, you will hear from us within minutes, and nothing is charged twice. Please try again in a minute.',
    );
    expect(refused.ms).toBeLessThan(5000);
    expect(await health()).toMatchObject({ code: 503, status: 'failing', problem: 'Nothing can be written down: the disk is full.' });
    // Who signs in is answered, too: that it cannot be written down.
    const began = Date.now();
    const signedIn = await new Seller(ruta.studio).json('/api/session', { email: OWNER.email, password: OWNER.password });
    expect([signedIn.status, ((await signedIn.json()) as { title: string }).title]).toEqual([503, expect.stringContaining('the disk is full')]);
    expect(Date.now() - began).toBeLessThan(5000);
    // Whoever only looks is answered, and the owner is told first of all.
    expect((await new Buyer(ruta.site).get(`/${funnel.slug}`)).status).toBe(200);
    expect((await seller.read('/today')).needs[0]).toMatchObject({ title: 'Nothing can be written down', detail: expect.stringContaining('the disk is full') });
    // A picture is not called damaged because there is no room for it, and nothing of it is left.
    const grain = await sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#123', noise: { type: 'gaussian', mean: 100, sigma: 40 } } })
      .png()
      .toBuffer();
    const unkept = await seller.upload('pictures', 'grain.png', new Uint8Array(grain));
    expect([unkept.status, ((await unkept.json()) as { title: string }).title]).toEqual([503, expect.stringContaining('the disk is full')]);
    expect(readdirSync(path.join(place, 'data', 'pictures'))).toEqual([]);
    const unsaved = await seller.send('/codes', { code: 'NIGHT', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 15 } });
    expect([unsaved.status, ((await unsaved.json()) as { title: string }).title]).toEqual([503, expect.stringContaining('the disk is full')]);
    const imported = await seller.send('/codes/import', {
      text: `code,percent\n${Array.from({ length: 5000 }, (_, index) => `CODE${index},10`).join('\n')}`,
      apply: true,
    });
    expect([imported.status, ((await imported.json()) as { title: string }).title]).toEqual([503, expect.stringContaining('the disk is full')]);
    empty();
    await until(async () => (await health()).code === 200, 'health says that it is over');
    expect((await buy('after@moonmail.test')).status).toBe(200);
    expect((await seller.read('/today')).needs.map(({ title }: { title: string }) => title)).not.toContain('Nothing can be written down');
    // Every charge that was taken belongs to an order that is paid, or has been given back.
    const charges = async () =>
      (JSON.parse(await (await fetch(`${ruta.standinsUrl}/quayside/v1/overview`)).text()) as { charges?: Array<{ status: string; reference: string }> })
        .charges ?? [];
    const paid = () => {
      const db = new Database(path.join(place, 'data', 'shop.sqlite'), { readonly: true });
      const ids = db.prepare("select id from orders where state = 'paid'").pluck().all() as string[];
      db.close();
      return ids;
    };
    await until(async () => {
      const ids = paid();
      return (await charges()).filter(({ status }) => status === 'captured').every(({ reference }) => ids.includes(reference));
    }, 'each captured charge has its paid order');
  });
});

describe('what cannot be written', () => {
  let services: TestServices;
  beforeEach(() => {
    services = testServices();
  });
  afterEach(() => services.end());

  it('waits if it is views, and is there once it can', () => {
    const { $client } = services.db as unknown as { $client: Database.Database };
    const view = (id: string) => {
      const visitor = {
        ...{ id: 'vis_aaaaaaaaaa', countsAs: null, contactId: null, typed: null, firstAt: 1, lastAt: 2, visitId: 'vst_1', visits: 1, device: 'phone' as const },
        ...{ firstCampaign: null, lastCampaign: null, firstClicks: null, lastClicks: null, consent: null, address: null, agent: null, partner: null },
      };
      services.recorder.gather(makeEvent(services, 'page.viewed', 'live', visitor, {}, id), visitor);
    };
    $client.pragma('query_only = 1');
    view('evt_0000000001');
    services.recorder.flush();
    expect(services.writes.standing()).toMatchObject({ why: 'the data folder cannot be written' });
    view('evt_0000000002');
    $client.pragma('query_only = 0');
    expect(services.writes.standing()).toBeNull();
    services.recorder.flush();
    expect(services.db.select({ id: events.id }).from(events).all()).toHaveLength(2);
  });

  it('is tried again while something else is written, and holds up nobody meanwhile', async () => {
    const { $client } = services.db as unknown as { $client: Database.Database };
    const other = new Database($client.name);
    other.exec('BEGIN IMMEDIATE');
    const free = setTimeout(() => other.exec('COMMIT'), 1200);
    let tries = 0;
    const began = Date.now();
    const change = () => {
      tries++;
      services.db.run(sql`UPDATE installation SET key_mark = key_mark`);
      // Another program may come in between.
      if (tries === 1) throw Object.assign(new Error('database is locked'), { code: 'SQLITE_BUSY' });
    };
    await whenFree(services.writes, change);
    // Nothing is tried, and nobody waits within the driver, before it is free.
    expect(tries).toBe(2);
    expect(Date.now() - began).toBeGreaterThan(1000);
    expect(services.writes.standing()).toBeNull();
    clearTimeout(free);
    other.close();
  });

  it.each([
    ['SQLITE_FULL', 'the disk is full'],
    ['ENOSPC', 'the disk is full'],
    ['SQLITE_READONLY_DBMOVED', 'the data folder cannot be written'],
    ['SQLITE_BUSY_SNAPSHOT', 'the database is busy with something long'],
    ['SQLITE_IOERR_WRITE', 'the disk does not answer'],
    ['SQLITE_CORRUPT', 'the database is damaged'],
    ['SQLITE_CONSTRAINT_UNIQUE', undefined],
  ])('is known by its name %s, however deep it is wrapped', (code, why) => {
    expect(whyUnwritten(new Error('query failed', { cause: Object.assign(new Error('x'), { code }) }))).toBe(why);
  });
});
