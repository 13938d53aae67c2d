import { spawnSync } from 'node:child_process';
import path from 'node:path';
import Database from 'better-sqlite3';
import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { OWNER, Seller } from './support/clients';
import { Installation } from './support/installation';

let ruta: Installation;
let owner: Seller;
let secret = '';
let recovery: string[] = [];
beforeAll(async () => {
  ruta = await Installation.start();
  owner = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());

/** What an authenticator app shows so many slots of thirty seconds from now, by RFC 6238. */
const shown = (slots = 0) => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + slots * 30_000 });
async function signsIn(code?: string, password = OWNER.password) {
  const browser = new Seller(ruta.studio);
  const response = await browser.json('/api/session', { email: OWNER.email, password, ...(code === undefined ? {} : { code }) });
  const body = (await response.json()) as { title?: string; errors?: Array<{ path: string }>; csrfToken: string };
  if (response.ok) browser.trust(body.csrfToken);
  return { status: response.status, at: body.errors?.[0]?.path, title: body.title, browser };
}
const problem = async (response: Response) => {
  const { title, errors } = (await response.json()) as { title: string; errors?: Array<{ path: string }> };
  return [response.status, errors?.[0]?.path, title];
};

it('is turned on with a code of the app and the password, and signs every other browser out', async () => {
  const { browser: other } = await signsIn();
  expect(await owner.read('/account/two-factor')).toEqual({ isOn: false, recoveryCodesLeft: 0 });
  expect(await problem(await owner.send('/account/two-factor', { password: OWNER.password, code: '123456' }))).toEqual([
    409,
    undefined,
    'This was begun too long ago, or in another browser. Begin again.',
  ]);
  const begun = await owner.make('/account/two-factor/begin', undefined);
  secret = begun.secret;
  expect(secret).toMatch(/^[A-Z2-7]{32}$/);
  expect(Buffer.from(begun.picture.split(',')[1], 'base64').toString()).toContain('<svg');
  expect((await signsIn()).status, 'nothing is asked for until a code has come back').toBe(201);
  const wrong = shown() === '000000' ? '000001' : '000000';
  expect((await problem(await owner.send('/account/two-factor', { password: OWNER.password, code: wrong })))[1]).toBe('code');
  expect(await problem(await owner.send('/account/two-factor', { password: 'not this one', code: shown() }))).toEqual([
    400,
    'password',
    'This is not your present password.',
  ]);
  ({ recoveryCodes: recovery } = await owner.make('/account/two-factor', { password: OWNER.password, code: shown() }));
  expect(new Set(recovery).size).toBe(8);
  expect(await owner.read('/account/two-factor')).toEqual({ isOn: true, recoveryCodesLeft: 8 });
  expect((await other.get('/api/products')).status).toBe(401);
  // Neither the secret nor a recovery code can be read in the database.
  const db = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
  const kept = JSON.stringify(db.prepare('SELECT * FROM users').all()) + JSON.stringify(db.prepare('SELECT * FROM sessions').all());
  db.close();
  for (const told of [secret, ...recovery]) expect(kept).not.toContain(told);
});

it('asks for a code only once the password is right, and takes none twice', async () => {
  expect(await signsIn(undefined, 'not the password at all')).toMatchObject({ status: 401, at: 'password' });
  expect(await signsIn()).toMatchObject({ status: 401, at: 'code', title: 'Enter the six digits that your authenticator app shows, or a recovery code.' });
  // The one that turned it on is used; the next is good a little before its time.
  const next = shown(1);
  expect((await signsIn(`${next.slice(0, 3)} ${next.slice(3)}`)).status).toBe(201);
  expect(await signsIn(next)).toMatchObject({ status: 401, at: 'code', title: 'This code was used already. Wait for the next one.' });
  expect(await signsIn(shown(-20))).toMatchObject({ status: 401, at: 'code' });
  expect(await signsIn('words')).toMatchObject({
    status: 401,
    at: 'code',
    title: 'This code is not right, or not any more. Enter the one that the app shows now.',
  });
});

it('opens with a recovery code once, also after too many wrong codes', async () => {
  for (let index = 0; index < 20; index++) await signsIn(String(index).padStart(6, '0'));
  expect(await signsIn(shown(1))).toMatchObject({ status: 429, at: 'code', title: expect.stringContaining('Use a recovery code, or wait an hour') });
  const { status, browser } = await signsIn((recovery[3] ?? '').toUpperCase().replace('-', ' '));
  expect(status).toBe(201);
  expect(await browser.read('/account/two-factor')).toEqual({ isOn: true, recoveryCodesLeft: 7 });
  expect((await signsIn(recovery[3])).status).toBe(429);
});

it('is turned off with the password, or where the server runs', async () => {
  const { browser } = await signsIn(recovery[0]);
  expect((await problem(await browser.send('/account/two-factor/off', { password: 'not this one' }, 'PUT')))[1]).toBe('password');
  const command = (...words: string[]) =>
    spawnSync(process.execPath, [path.join(import.meta.dirname, '../dist/team.js'), ...words], {
      env: { ...process.env, RUTA_DATA: ruta.data },
      encoding: 'utf8',
    });
  const [helpless, unknown, done] = [command('help'), command('codes-off', 'nobody@moonmail.test'), command('codes-off', OWNER.email.toUpperCase())];
  expect([helpless.status, helpless.stderr.trim()]).toEqual([2, 'Say “codes-off” and the address of whoever has lost their authenticator app.']);
  expect([unknown.status, unknown.stderr.trim()]).toEqual([2, 'Nobody of the team has the address “nobody@moonmail.test”.']);
  expect([done.status, done.stdout.trim()]).toEqual([0, `${OWNER.email.toUpperCase()} signs in with the password alone now.`]);
  expect((await signsIn()).status).toBe(201);
  secret = (await owner.make('/account/two-factor/begin', undefined)).secret;
  await owner.make('/account/two-factor', { password: OWNER.password, code: shown() });
  expect(await owner.make('/account/two-factor/off', { password: OWNER.password }, 'PUT')).toEqual({ isOn: false, recoveryCodesLeft: 0 });
  expect((await signsIn()).status).toBe(201);
});

it('takes what is good once from one of many that are sent at once', async () => {
  const accounts = await Installation.start();
  try {
    const seller = await Seller.ofNewShop(accounts.studio);
    const { secret: told } = await seller.make('/account/two-factor/begin', undefined);
    const codeIn = (slots: number) => new TOTP({ secret: Secret.fromBase32(told) }).generate({ timestamp: Date.now() + slots * 30_000 });
    // Turned on twice at once: the recovery codes of one answer are those that are kept.
    const turned = await Promise.all([1, 2].map(() => seller.send('/account/two-factor', { password: OWNER.password, code: codeIn(0) })));
    expect(turned.map(({ status }) => status).sort()).toEqual([201, 409]);
    const { recoveryCodes } = (await (turned.find(({ ok }) => ok) as Response).json()) as { recoveryCodes: string[] };
    const signIns = async (codes: string[]) => {
      const answers = await Promise.all(
        codes.map((code) => new Seller(accounts.studio).json('/api/session', { email: OWNER.email, password: OWNER.password, code })),
      );
      return answers.map(({ status }) => status).sort();
    };
    const one = (times: number) => [201, ...Array.from({ length: times - 1 }, () => 401)];
    expect(await signIns(Array.from({ length: 6 }, () => codeIn(1)))).toEqual(one(6));
    expect(await signIns(Array.from({ length: 6 }, () => recoveryCodes[0] ?? ''))).toEqual(one(6));
    // Different ones at once are each used up: none comes back by what another one wrote.
    expect(await signIns(recoveryCodes.slice(1, 4))).toEqual([201, 201, 201]);
    expect((await seller.read('/account/two-factor')).recoveryCodesLeft).toBe(4);
    expect(await signIns(recoveryCodes.slice(0, 4))).toEqual([401, 401, 401, 401]);
  } finally {
    await accounts.stop();
  }
});
