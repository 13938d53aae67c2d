import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { OWNER, Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
beforeAll(async () => {
  ruta = await Installation.start();
  await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());

it('an owner has codes of an app asked for, keeps the recovery codes, and signs in with one of each', async () => {
  const owner = await arriveAsOwner(ruta.studio);
  let secret = '';
  let recovery = '';
  const shown = () => new TOTP({ secret: Secret.fromBase32(secret) }).generate();
  try {
    await owner.open(`${ruta.studio}/settings/account`);
    await owner.click('Turn on');
    await owner.sees('Point an authenticator app at this picture');
    expect(await axeProblems(owner)).toEqual([]);
    secret = (await (await owner.find('[data-secret]')).getText()).replaceAll(' ', '');
    await owner.type('Code that the app shows', '12345');
    await owner.type('Your password', OWNER.password);
    await owner.click('Turn codes on');
    await owner.sees('This is not the code that the app shows now.');
    await owner.type('Code that the app shows', shown());
    await owner.click('Turn codes on');
    await owner.sees('Keep these recovery codes where you find them without your phone.');
    expect(await axeProblems(owner)).toEqual([]);
    recovery = await (await owner.find('[data-recovery] li')).getText();
    await owner.click('I have kept them');
    await owner.sees('Recovery codes left: 8');
  } finally {
    await owner.leave();
  }
  const later = await Person.arrive();
  try {
    await later.open(ruta.studio);
    await later.type('E-mail', OWNER.email);
    await later.type('Password', OWNER.password);
    await later.click(await later.find('button[type=submit]'));
    await later.sees('Six digits from your authenticator app');
    // What was typed before is still there, and the keyboard is where the code goes.
    expect(await later.driver.executeScript('return document.activeElement?.autocomplete')).toBe('one-time-code');
    expect(await axeProblems(later)).toEqual([]);
    await later.type('Code', '000000');
    await later.click(await later.find('button[type=submit]'));
    await later.sees('This code is not right');
    await later.type('Code', recovery);
    await later.click(await later.find('button[type=submit]'));
    await later.sees('Today');
    await later.open(`${ruta.studio}/settings/account`);
    await later.sees('Recovery codes left: 7');
    await later.click('Turn off, or move to another phone');
    await later.type('Your password', OWNER.password);
    await later.click('Turn codes off');
    await later.sees('nobody gets in who has only found out your password');
  } finally {
    await later.leave();
  }
});

it('what was refused is said until it is changed, and again if it is refused again', async () => {
  const visitor = await Person.arrive();
  const alerts = async () => Promise.all((await visitor.findAll('[role=alert]')).map((each) => each.getText()));
  const noneIsLeft = () => visitor.until(async () => (await alerts()).length === 0, 'nothing is said any more');
  try {
    await visitor.open(ruta.studio);
    await visitor.type('E-mail', 'somebody@perigeelane.test');
    for (const password of ['not this one', 'nor this one']) {
      await visitor.type('Password', password);
      await noneIsLeft();
      await visitor.click(await visitor.find('button[type=submit]'));
      await visitor.sees('This address and password do not belong together.');
    }
  } finally {
    await visitor.leave();
  }
}, 60_000);

it('a field that was refused is marked until it is changed, and the others stay marked', async () => {
  const other = await Installation.start();
  await Seller.ofNewShop(other.studio);
  const owner = await arriveAsOwner(other.studio);
  const marked = async () =>
    owner.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('[aria-invalid=true]')].map((each) => document.querySelector('label[for="' + each.id + '"]').textContent)`,
    );
  const areMarked = (...labels: string[]) => owner.until(async () => JSON.stringify(await marked()) === JSON.stringify(labels), `${labels} are marked`);
  try {
    await owner.open(`${other.studio}/settings/account`);
    await owner.type('Present password', 'not mine at all');
    await owner.type('New password', 'short');
    await owner.click('Change the password');
    await areMarked('New password');
    await owner.type('New password', 'a few words of my own');
    await areMarked();
    await owner.click('Change the password');
    await owner.sees('This is not your present password.');
    await areMarked('Present password');
    await owner.type('New password', 'other words of my own');
    await areMarked('Present password');
    await owner.type('Present password', 'nor is this mine');
    await areMarked();
    await owner.click('Change the password');
    await areMarked('Present password');
    await owner.type('Present password', OWNER.password);
    await owner.click('Change the password');
    await owner.sees('Changed. Every other browser was signed out.');
  } finally {
    await owner.leave();
    await other.stop();
  }
}, 90_000);
