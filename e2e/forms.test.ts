import { afterAll, beforeAll, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';

let ruta: Installation;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  funnel = await (await Seller.ofNewShop(ruta.studio)).sellingFunnel({ gift: true });
});
afterAll(() => ruta.stop());

it('a form says what is wrong beside its field, no longer once it is mended, and then that the gift is on its way', async () => {
  const reader = await Person.arrive();
  try {
    await reader.open(`${ruta.site}/${funnel.slug}`);
    await reader.click(await reader.find('form[data-form] button[type=submit]'));
    await reader.sees('Please fill this in.');
    expect(await reader.address()).toBe(`${ruta.site}/${funnel.slug}`);
    expect(await axeProblems(reader)).toEqual([]);
    const said = () =>
      reader.driver.executeScript<string[]>('return [...document.querySelectorAll(".field-error")].map((line) => line.textContent).filter(Boolean)');
    await (await reader.find('form[data-form] input[name=email]')).sendKeys('vera');
    await reader.click(await reader.find('form[data-form] button[type=submit]'));
    await reader.sees('Enter an e-mail address, for example name@example.test.');
    await (await reader.find('form[data-form] input[name=email]')).sendKeys('@moonmail.test');
    for (const field of await reader.findAll('form[data-form] [data-field] input[required]'))
      if (!(await field.getAttribute('value'))) await field.sendKeys('Vera');
    expect(await said()).toEqual([]);
    await reader.click(await reader.find('form[data-form] button[type=submit]'));
    await reader.sees('Your gift is on its way.');
    expect(await axeProblems(reader)).toEqual([]);
  } finally {
    await reader.leave();
  }
});
