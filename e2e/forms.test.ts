import { newElement } from '@ruta/core/elements';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { mails, Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';

let ruta: Installation;
let api: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  funnel = await api.sellingFunnel({ gift: true });
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

it('an appointment is chosen, told, moved and cancelled by the clock of whoever books it', async () => {
  const { page, revision } = await api.read(`/steps/${funnel.entry}/page`);
  const free = [1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '02:00', until: '04:00' }));
  const element = { ...newElement('appointment', () => 'elm_appointment00'), free, minutes: 60, every: 60, noticeHours: 24 };
  page.sections[1].columns[0].elements.push(JSON.parse(JSON.stringify(element).replaceAll(',"placeholder":true', '')));
  await api.make(`/steps/${funnel.entry}/page`, { revision, page }, 'PUT');
  await api.make(`/funnels/${funnel.id}/publish`, {});
  const person = await Person.arrive({ width: 390, height: 844 });
  try {
    await (person.driver as chrome.Driver).sendDevToolsCommand('Emulation.setTimezoneOverride', { timezoneId: 'America/New_York' });
    await person.open(`${ruta.site}/${funnel.slug}`);
    // Two in the night in Lisbon is nine in the evening in New York, or ten, and the day before.
    await person.sees('Times are those of New York.');
    const starts = await person.driver.executeScript<string[]>(`return [...document.querySelectorAll('.slot span')].map((slot) => slot.textContent)`);
    expect(new Set(starts.map((time) => time.slice(-2)))).toEqual(new Set(['00']));
    expect(starts.every((time) => /^2[0-3]:00$/.test(time))).toBe(true);
    expect(await axeProblems(person)).toEqual([]);
    const form = '#elm_appointment00-form';
    const [summary] = await person.findAll(`${form} summary`);
    const day = (await summary?.getText())?.split('\n')[0]?.replace(/ \S+ times?$/, '') ?? '';
    await person.click(await person.find(`${form} .slot`));
    await (await person.find(`${form} [name=firstName]`)).sendKeys('Vera');
    await (await person.find(`${form} [name=email]`)).sendKeys('nadia@moonmail.test');
    await person.click(await person.find(`${form} [type=submit]`));
    await person.sees(`Booked: ${day} at ${starts[0]} (New York time)`);
    await until(async () => (await mails(ruta.standinsUrl, 'nadia@moonmail.test')).length === 1, 'it is told');
    const [told] = await mails(ruta.standinsUrl, 'nadia@moonmail.test');
    expect(told.text).toContain(`${day} at ${starts[0]} (New York time)`);
    await person.open(/http\S+\/go\/appointment\/\S+/.exec(told.text)?.[0] ?? '');
    await person.sees('Times are those of New York.');
    expect(await axeProblems(person)).toEqual([]);
    const slots = await person.findAll('.slot');
    if (slots[1]) await person.click(slots[1]);
    await person.click('Move it to this time');
    await person.sees('Your appointment was moved');
    await person.sees(`${day} at ${starts[1]} (New York time)`);
    await person.click('Cancel the appointment');
    await person.sees('Your appointment is cancelled');
  } finally {
    await person.leave();
  }
});
