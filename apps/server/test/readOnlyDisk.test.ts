import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { freePort, Installation, until } from './support/installation';

const folder = mkdtempSync(path.join(tmpdir(), 'ruta-disk-'));
const [image, place] = [path.join(folder, 'disk.img'), path.join(folder, 'disk')];
const works = (program: string, ...given: string[]) => spawnSync(program, given).status === 0;
const mount = () => works('mount', '-o', 'loop', image, place);

/** A real file system in a file; only where this computer lets one be made and mounted. */
function makeDisk(): boolean {
  mkdirSync(place);
  writeFileSync(image, Buffer.alloc(64 * 1024 * 1024));
  return works('mkfs.ext4', '-q', '-F', image) && mount();
}

describe.skipIf(!makeDisk())('a disk that the system has made read-only', () => {
  let ruta: Installation;
  afterAll(async () => {
    await ruta?.stop().catch(() => {});
    spawnSync('umount', ['-l', place]);
    rmSync(folder, { recursive: true, force: true });
  });

  const health = async () => {
    const answer = await fetch(`${ruta.studio}/api/health`);
    return { code: answer.status, ...((await answer.json()) as { status: string; problem?: string }) };
  };

  it('is said in true words, sells nothing, and sells again once it is mounted anew', async () => {
    ruta = await Installation.start({ data: path.join(place, 'data'), settings: { RUTA_LOG: 'silent' } });
    const seller = await Seller.ofNewShop(ruta.studio);
    const funnel = await seller.sellingFunnel();
    const buy = async (email: string) => {
      const buyer = new Buyer(ruta.site);
      await buyer.openCheckout(`/${funnel.slug}/checkout`);
      return buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email });
    };
    expect((await buy('before@moonmail.test')).status).toBe(200);

    // What the system does where a disk has faults: every write ends with an error, also through what is open already.
    execFileSync('mount', ['-o', 'remount,abort', place]);
    const refused = await buy('meanwhile@moonmail.test');
    expect(refused.status).toBe(503);
    expect(JSON.stringify(refused.body)).toContain('We could not write this down just now. If money was taken, you will hear from us within minutes');
    const standing = await health();
    expect(standing).toMatchObject({ code: 503, status: 'failing' });
    expect(standing.problem).toMatch(/^Nothing can be written down: the (data folder cannot be written|disk does not answer)\.$/);
    expect((await new Buyer(ruta.site).get(`/${funnel.slug}`)).status).toBe(200);
    const [need] = (await seller.read('/today')).needs;
    expect(need).toMatchObject({ title: 'Nothing can be written down' });
    expect((await seller.send('/products', { name: 'x' })).status).not.toBe(500);

    // It still ends when told to, and does not begin on such a disk.
    await ruta.stopServer();
    const started = spawnSync(process.execPath, [path.resolve(import.meta.dirname, '../dist/main.js')], {
      env: { ...process.env, RUTA_DATA: path.join(place, 'data'), RUTA_PORT: String(await freePort()), RUTA_SITE_PORT: String(await freePort()) },
      encoding: 'utf8',
      timeout: 20_000,
    });
    expect(started.status).toBe(1);
    expect(started.stderr.trim()).toMatch(/^The data folder \S+ cannot be written\./);
    expect(started.stderr.trim()).not.toContain('\n');

    execFileSync('umount', [place]);
    expect([0, 1]).toContain(spawnSync('e2fsck', ['-f', '-y', image]).status);
    expect(mount()).toBe(true);
    expect(existsSync(path.join(place, 'data', 'shop.sqlite'))).toBe(true);
    await ruta.startServer();
    expect(await health()).toMatchObject({ code: 200 });
    expect((await buy('after@moonmail.test')).status).toBe(200);
    const emails = (await seller.rows('/orders')).map(({ email }: { email: string }) => email);
    expect(emails).toEqual(expect.arrayContaining(['before@moonmail.test', 'after@moonmail.test']));
    await until(async () => (await seller.read('/today')).needs.every(({ title }: { title: string }) => title !== need.title), 'Today says that it is over');
  }, 90_000);
});
