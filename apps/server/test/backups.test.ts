import { spawnSync } from 'node:child_process';
import { chmodSync, cpSync, existsSync, mkdtempSync, readdirSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listBackups } from '../src/backups/folder';
import { backUpByClock } from '../src/backups/job';
import { keptByAge } from '../src/backups/keptByAge';
import { openSecrets } from '../src/base/secrets';
import { todayOf } from '../src/today/service';
import { Buyer, CARD, Seller } from './support/clients';
import { freePort, Installation, until } from './support/installation';
import { testServices } from './support/services';

const root = path.resolve(import.meta.dirname, '../../..');
const DAY = 24 * 60 * 60 * 1000;
const folders: string[] = [];
const newFolder = () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'ruta-backups-'));
  folders.push(folder);
  return folder;
};

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
});
afterAll(async () => {
  await ruta.stop();
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

const command = (data: string, ...words: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [path.join(root, 'apps/server/dist/backup.js'), ...words], {
    env: { ...process.env, RUTA_DATA: data },
    encoding: 'utf8',
  });
  return { status, said: (stdout + stderr).trim() };
};
async function buys(email: string): Promise<void> {
  const buyer = new Buyer(ruta.site);
  await buyer.openCheckout(`/${funnel.slug}/checkout`);
  expect((await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email })).status).toBe(200);
}
/** Orders that were paid, and those of them whose lines, payment or charge are not there. */
function booksIn(file: string): { paid: number; torn: number } {
  const db = new Database(file, { readonly: true });
  const count = (where: string) => (db.prepare(`select count(*) n from orders o where o.state = 'paid' ${where}`).get() as { n: number }).n;
  const books = {
    paid: count(''),
    torn: count(`and not (exists (select 1 from order_lines l where l.order_id = o.id)
      and exists (select 1 from payments p where p.order_id = o.id and p.state = 'paid')
      and exists (select 1 from charges c where c.order_id = o.id and c.state = 'captured'))`),
  };
  db.close();
  return books;
}

describe('a backup', () => {
  it('is made while orders come in, is whole, and a shop runs on from it', async () => {
    for (let index = 0; index < 3; index++) await buys(`before${index}@moonmail.test`);
    const selling = Promise.all(Array.from({ length: 8 }, (_, index) => buys(`during${index}@moonmail.test`)));
    const taken = command(ruta.data);
    expect(taken).toMatchObject({ status: 0, said: expect.stringMatching(/^Backup \S+: \d+ orders, .* Opened and whole\.$/) });
    await selling;
    const [backup] = listBackups({ dataDir: ruta.data, backupDir: null });
    const copy = path.join(ruta.data, 'backups', backup?.name ?? '');
    const books = booksIn(path.join(copy, 'shop.sqlite'));
    expect(books.torn).toBe(0);
    expect(books.paid).toBeGreaterThanOrEqual(3);
    expect(books.paid).toBeLessThanOrEqual(11);
    expect(backup?.files).toBeGreaterThan(0);
    // Nobody else on this computer reads it.
    for (const name of ['shop.sqlite', 'secret.key']) expect(statSync(path.join(copy, name)).mode & 0o077).toBe(0);
    expect(statSync(copy).mode & 0o077).toBe(0);

    // Put into another folder, it is the shop as it was then: the same people sign in, the same key reads what was sealed.
    const elsewhere = newFolder();
    cpSync(path.join(ruta.data, 'backups'), path.join(elsewhere, 'backups'), { recursive: true });
    expect(command(elsewhere, 'restore')).toMatchObject({
      status: 0,
      said: expect.stringContaining(`${books.paid === backup?.orders ? books.paid : backup?.orders} orders`),
    });
    const again = await Installation.start({ data: elsewhere });
    try {
      const owner = new Seller(again.studio);
      const signedIn = await owner.json('/api/session', { email: 'ines@perigeelane.test', password: 'a long enough one' });
      expect(signedIn.status).toBe(201);
      owner.trust(((await signedIn.json()) as { csrfToken: string }).csrfToken);
      expect((await owner.rows('/orders')).filter(({ email }: { email: string }) => email.startsWith('before'))).toHaveLength(3);
      expect((await new Buyer(again.site).get(`/${funnel.slug}`)).status).toBe(200);
    } finally {
      await again.stopServer();
      await again.stop();
    }
  }, 90_000);

  it('is put back only where no server runs, and what was there is moved aside', async () => {
    const [backup] = listBackups({ dataDir: ruta.data, backupDir: null });
    expect(command(ruta.data, 'restore')).toEqual({ status: 2, said: expect.stringContaining('Another Ruta server uses the data folder') });
    expect(command(ruta.data, 'restore', 'yesterday').said).toContain('Another Ruta server');
    await buys('later@moonmail.test');
    await ruta.stopServer();
    expect(command(ruta.data, 'restore', 'yesterday')).toEqual({ status: 2, said: expect.stringContaining(`There is no backup “yesterday”`) });
    expect(command(ruta.data, 'list').said).toContain(backup?.name);
    const all = booksIn(path.join(ruta.data, 'shop.sqlite')).paid;
    expect(command(ruta.data, 'restore').status).toBe(0);
    expect(booksIn(path.join(ruta.data, 'shop.sqlite')).paid).toBeLessThan(all);
    const aside = readdirSync(ruta.data).find((name) => name.startsWith('before-restore-')) ?? '';
    expect(booksIn(path.join(ruta.data, aside, 'shop.sqlite')).paid).toBe(all);
    await ruta.startServer();
    expect(command(ruta.data, 'sing')).toEqual({ status: 2, said: expect.stringContaining('There is no command “sing”') });
  }, 90_000);

  it('that was damaged is not put back, and nothing is changed', () => {
    const folder = newFolder();
    cpSync(path.join(ruta.data, 'backups'), path.join(folder, 'backups'), { recursive: true });
    const [backup] = listBackups({ dataDir: folder, backupDir: null });
    truncateSync(path.join(folder, 'backups', backup?.name ?? '', 'shop.sqlite'), 40_000);
    expect(command(folder, 'restore')).toEqual({ status: 2, said: expect.stringMatching(/is damaged .*Choose another one/) });
    expect(existsSync(path.join(folder, 'shop.sqlite'))).toBe(false);
    expect(command(newFolder(), 'restore').said).toContain('There is no backup in');
  });

  it('is seen and made in the studio, one at a time', async () => {
    const begins = Date.now();
    const begun = await Promise.all(Array.from({ length: 5 }, () => seller.make('/backups', {})));
    expect(begun.map(({ isMaking }) => isMaking)).toEqual(Array(5).fill(true));
    await until(async () => !(await seller.read('/backups')).isMaking, 'it is made');
    const { backups, problem, folder } = await seller.read('/backups');
    // Of one day the newest stays.
    expect([backups[0].at >= begins, problem, existsSync(path.join(folder, backups[0].name))]).toEqual([true, null, true]);
    expect(backups[0].orders).toBeGreaterThan(0);
  });

  it('is made once a day by the clock, and what keeps it from being made stands on Today', async () => {
    const services = testServices();
    openSecrets(services.config.dataDir);
    const made = () => listBackups(services.config).length;
    await backUpByClock(services);
    expect(made()).toBe(0);
    services.moment.at += 61_000;
    await backUpByClock(services);
    expect(made()).toBe(1);
    services.moment.at += DAY / 2;
    await backUpByClock(services);
    expect(made()).toBe(1);
    for (let day = 0; day < 12; day++) {
      services.moment.at += DAY;
      await backUpByClock(services);
    }
    // Seven days, and what the weeks before them keep.
    expect(made()).toBeGreaterThanOrEqual(7);
    expect(made()).toBeLessThan(11);
    expect(todayOf(services).needs).toEqual([]);
    // Where a folder should be stands a file: told in words, and tried again later.
    const blocked = path.join(newFolder(), 'not-a-folder');
    writeFileSync(blocked, '');
    Object.assign(services.config, { backupDir: path.join(blocked, 'backups') });
    services.moment.at += 2 * DAY;
    await backUpByClock(services);
    expect(todayOf(services).needs[0]).toMatchObject({ title: 'No backup could be made', detail: expect.stringContaining('could not be made') });
    Object.assign(services.config, { backupDir: null });
    services.moment.at += DAY;
    await backUpByClock(services);
    expect(todayOf(services).needs).toEqual([]);
    services.end();
  });

  it('is kept by its age: a week of days, five weeks, a year of months, and always the newest', () => {
    const now = 400 * DAY;
    const daily = Array.from({ length: 400 }, (_, index) => now - index * DAY - 1);
    const kept = [...keptByAge(daily, now)].map((at) => Math.floor((now - at) / DAY)).sort((a, b) => a - b);
    expect(kept).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 14, 21, 28, 30, 60, 90, 120, 150, 180, 210, 240, 270, 300, 330]);
    expect(keptByAge([now - 900 * DAY], now)).toEqual(new Set([now - 900 * DAY]));
    // A clock that was set back drops none of them.
    expect(keptByAge([5 * DAY, 6 * DAY], 0)).toEqual(new Set([6 * DAY]));
  });
});

describe('a server that is started', () => {
  /** Starts one on a folder and waits for its end. @returns what it said */
  async function started(data: string) {
    const settings = { RUTA_DATA: data, RUTA_PORT: String(await freePort()), RUTA_SITE_PORT: String(await freePort()), RUTA_STANDINS: 'off' };
    const { status, stderr } = spawnSync(process.execPath, [path.join(root, 'apps/server/dist/main.js')], {
      env: { ...process.env, ...settings },
      encoding: 'utf8',
      timeout: 20_000,
    });
    return { status, said: stderr.trim() };
  }
  /** A shop's folder with a key and a database that are whole. */
  function wholeFolder(): string {
    const folder = newFolder();
    const [backup] = listBackups({ dataDir: ruta.data, backupDir: null });
    for (const name of ['shop.sqlite', 'secret.key']) cpSync(path.join(ruta.data, 'backups', backup?.name ?? '', name), path.join(folder, name));
    return folder;
  }
  it.each<[string, (folder: string) => void, RegExp]>([
    [
      'a database that is missing beside its key',
      (folder) => rmSync(path.join(folder, 'shop.sqlite')),
      /^The database \S+shop\.sqlite is missing beside its key file\./,
    ],
    ['an empty database', (folder) => truncateSync(path.join(folder, 'shop.sqlite'), 0), /^The database \S+shop\.sqlite is empty\./],
    ['a database that was cut short', (folder) => truncateSync(path.join(folder, 'shop.sqlite'), 60_000), /^The database \S+shop\.sqlite is damaged \(/],
    [
      'something else in its place',
      (folder) => writeFileSync(path.join(folder, 'shop.sqlite'), 'x'.repeat(9_000)),
      /^The database \S+shop\.sqlite is damaged \(/,
    ],
    ['a key file that is missing', (folder) => rmSync(path.join(folder, 'secret.key')), /^The key file of this shop is missing\./],
    ['an empty key file', (folder) => writeFileSync(path.join(folder, 'secret.key'), ''), /^The key file of this shop is damaged\./],
    [
      'the key file of another shop',
      (folder) => writeFileSync(path.join(folder, 'secret.key'), 'ab'.repeat(32)),
      /^The key file \S+secret\.key is another shop’s/,
    ],
  ])('on %s says so in one line, and serves nothing', async (_words, harm, expected) => {
    const folder = wholeFolder();
    harm(folder);
    const before = readdirSync(folder).filter((name) => name !== 'server.lock');
    const { status, said } = await started(folder);
    expect(status).toBe(1);
    expect(said).toMatch(expected);
    expect(said.split('\n')).toHaveLength(1);
    // Nothing was made in the place of what is missing.
    expect(
      readdirSync(folder)
        .filter((name) => before.includes(name) || name === 'shop.sqlite' || name === 'secret.key')
        .sort(),
    ).toEqual(before.sort());
  });

  it('on a folder that another one uses says so, and is let in once that one has gone, however it went', async () => {
    expect(await started(ruta.data)).toEqual({ status: 1, said: expect.stringContaining('Another Ruta server uses the data folder') });
    await until(async () => (await fetch(`${ruta.studio}/api/health`).catch(() => null))?.ok === true, 'the first one goes on');
    await ruta.killServer();
    await ruta.startServer();
  }, 60_000);

  it('keeps its folder to its owner, and answers of the API out of the browser’s memory', async () => {
    for (const name of ['', 'shop.sqlite', 'secret.key', 'files', 'backups']) {
      if (existsSync(path.join(ruta.data, name))) expect([name, statSync(path.join(ruta.data, name)).mode & 0o077]).toEqual([name, 0]);
    }
    // What an older release left open is closed at the next start.
    await ruta.stopServer();
    chmodSync(ruta.data, 0o755);
    chmodSync(path.join(ruta.data, 'shop.sqlite'), 0o644);
    await ruta.startServer();
    expect(statSync(path.join(ruta.data, 'shop.sqlite')).mode & 0o077).toBe(0);
    for (const address of ['/api/orders', '/api/session', '/api/nothing-here']) {
      expect((await seller.get(address)).headers.get('cache-control')).toBe('no-store');
    }
  });
});
