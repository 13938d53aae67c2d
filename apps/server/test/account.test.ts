import { isCommon, isNameOf, PasswordSchema } from '@ruta/core/team';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mails, OWNER, Seller } from './support/clients';
import { Installation, until } from './support/installation';

let ruta: Installation;
let owner: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  owner = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());

/** Somebody signs in from a browser of their own. */
async function signsIn(password: string): Promise<{ status: number; browser: Seller }> {
  const browser = new Seller(ruta.studio);
  const response = await browser.json('/api/session', { email: OWNER.email, password });
  if (response.ok) browser.trust(((await response.json()) as { csrfToken: string }).csrfToken);
  return { status: response.status, browser };
}
const isIn = async (browser: Seller) => ((await (await browser.get('/api/session')).json()) as { user: object | null }).user !== null;
const forgot = (email: string) => new Seller(ruta.studio).json('/api/session/forgotten', { email });
const reset = async (token: string, password: string) => {
  const response = await new Seller(ruta.studio).json('/api/session/reset', { token, password });
  return [response.status, ((await response.json()) as { title?: string }).title];
};
async function tokenFromMail(count: number): Promise<string> {
  await until(
    async () => (await mails(ruta.standinsUrl, OWNER.email)).filter(({ subject }) => subject === 'Choose a new password').length >= count,
    'the mail arrives',
  );
  const sent = (await mails(ruta.standinsUrl, OWNER.email)).filter(({ subject }) => subject === 'Choose a new password');
  return /reset\?token=([\w.~-]+)/.exec(sent.at(-1).text)?.[1] ?? '';
}

describe('a forgotten password', () => {
  it('is chosen anew by a link that is sent, once, and every browser is signed out', async () => {
    expect((await forgot(OWNER.email.toUpperCase())).status).toBe(201);
    const token = await tokenFromMail(1);
    expect(await reset(token, 'password123')).toEqual([400, 'Some of this does not fit.']);
    expect(await isIn(owner)).toBe(true);
    expect((await reset(token, 'Perigee Lane'))[0], 'a name that everybody knows').toBe(400);
    // Of many that are sent at once one is good.
    const at = await Promise.all(Array.from({ length: 6 }, () => reset(token, 'four owls on a fence')));
    expect(at.map(([status]) => status).sort()).toEqual([201, 410, 410, 410, 410, 410]);
    expect(await isIn(owner)).toBe(false);
    expect((await signsIn(OWNER.password)).status).toBe(401);
    expect((await signsIn('four owls on a fence')).status).toBe(201);
    const ended = [410, 'This link has ended, or was used already. Have another one sent.'];
    expect(await reset(token, 'five owls on a fence')).toEqual(ended);
    // Nor is one that somebody has made up, or lengthened.
    const [user, until_, signature] = token.split('.');
    expect(await reset(`${user}.${Number(until_) + 999_999}.${signature}`, 'five owls on a fence')).toEqual(ended);
    expect(await reset('usr_nobody.9999999999999.x', 'five owls on a fence')).toEqual(ended);
  });

  it('of an address that nobody has is answered the same, and nothing is sent', async () => {
    const [known, unknown] = [await forgot(OWNER.email), await forgot('nobody@moonmail.test')];
    expect(unknown.status).toBe(known.status);
    expect(await unknown.text()).toBe(await known.text());
    expect(await mails(ruta.standinsUrl, 'nobody@moonmail.test')).toEqual([]);
    // Asked for again and again, it comes once in five minutes.
    for (let again = 0; again < 4; again++) await forgot(OWNER.email);
    expect((await mails(ruta.standinsUrl, OWNER.email)).filter(({ subject }) => subject === 'Choose a new password').length).toBeLessThanOrEqual(2);
  });
});

describe('an account', () => {
  it('tells where it is signed in, and signs a browser out', async () => {
    const [here, there] = [(await signsIn('four owls on a fence')).browser, (await signsIn('four owls on a fence')).browser];
    const sessions: Array<{ id: string; isThis: boolean; browser: string; since: number }> = await here.read('/account/sessions');
    expect(sessions.filter(({ isThis }) => isThis)).toHaveLength(1);
    expect(sessions.length).toBeGreaterThanOrEqual(2);
    expect(sessions[0]).toMatchObject({ isThis: true, browser: expect.stringContaining('Chrome'), since: expect.any(Number) });
    const theirs = (await there.read('/account/sessions')).find(({ isThis }: { isThis: boolean }) => isThis).id;
    expect(JSON.stringify(sessions)).not.toContain(here.cookie('ruta.sid')?.slice(4, 20) ?? 'nothing');
    const left = await here.make(`/account/sessions/${theirs}`, undefined, 'DELETE');
    expect(left.map(({ id }: { id: string }) => id)).not.toContain(theirs);
    expect([await isIn(here), await isIn(there)]).toEqual([true, false]);
    expect((await here.send('/account/sessions/nothing', undefined, 'DELETE')).status).toBe(404);
  });

  it('changes its password with the present one, and signs every other browser out', async () => {
    const [here, there] = [(await signsIn('four owls on a fence')).browser, (await signsIn('four owls on a fence')).browser];
    const wrong = await here.send('/account/password', { current: 'not this', password: 'six hares in a row' }, 'PUT');
    expect([wrong.status, await wrong.json()]).toMatchObject([400, { errors: [{ path: 'current', message: 'This is not your present password.' }] }]);
    const common = await here.send('/account/password', { current: 'four owls on a fence', password: 'Password2026!' }, 'PUT');
    expect((await common.json()).errors[0]).toMatchObject({ path: 'password', message: expect.stringContaining('first passwords that are guessed') });
    expect((await here.send('/account/password', { current: 'four owls on a fence', password: 'six hares in a row' }, 'PUT')).status).toBe(200);
    expect([await isIn(here), await isIn(there)]).toEqual([true, false]);
    expect((await signsIn('six hares in a row')).status).toBe(201);
  });

  it.each([
    ['Password2026!', true],
    ['qwertyuiop', true],
    ['1234567890', true],
    ['abcabcabcabc', true],
    ['aaaaaaaaaaaa', true],
    ['Pa55word!!', true],
    ['P4ssw0rd2026', true],
    ['passw0rd99', true],
    ['a long enough one', false],
    ['moonlight-demo', false],
    ['ilovestars and owls', false],
  ])('takes %s for one that is guessed first: %s', (password, expected) => {
    expect(isCommon(password)).toBe(expected);
    expect(PasswordSchema.safeParse(password).success).toBe(!expected && password.length >= 10);
  });

  it.each([
    ['Perigee Lane', true],
    ['perigee-lane-2026', true],
    ['PerigeeLanePerigeeLane', true],
    ['a lane at perigee', false],
  ])('takes %s for the name of the shop: %s', (password, expected) => {
    expect(isNameOf(password, 'Perigee Lane')).toBe(expected);
  });
});
