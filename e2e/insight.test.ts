import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { By } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Installation } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { Key } from './support/canvas';

let ruta: Installation;
let seller: Person;
beforeAll(async () => {
  ruta = await Installation.start({ demo: true });
  seller = await Person.arrive({ width: 1280, height: 800 });
  await seller.open(ruta.studio);
  await seller.type('E-mail', 'ines@perigeelane.test');
  await seller.type('Password', 'moonlight-demo');
  await seller.click(await seller.find('button[type=submit]'));
  await seller.sees('What needs you');
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

const cells = (css: string) =>
  seller.driver.executeScript<string[]>('return [...document.querySelectorAll(arguments[0])].map((cell) => cell.firstChild?.textContent ?? "")', css);
/** The net revenue of the whole period, as the figures over the reports say it. */
const revenue = async () => (await cells('dl[aria-label="The period"] dd')).at(-1)?.trim();
/** A figure of the last line of a table, by the name of its column. */
async function total(column: string): Promise<string | undefined> {
  const heads = await seller.driver.executeScript<string[]>('return [...document.querySelectorAll("thead th")].map((head) => head.textContent.trim())');
  return (await cells('tfoot td'))[heads.indexOf(column) - 1];
}

describe('Insight', () => {
  it('says the same sum in every report, and each leads to the orders that it is made of', async () => {
    await seller.click('Insight');
    await seller.sees('Per visitor');
    const whole = await revenue();
    expect(whole).toMatch(/^€\d/);
    for (const report of ['Funnels', 'Stops', 'Products', 'Plans', 'Codes', 'Campaigns', 'Ad spend', 'Sources', 'Countries', 'Devices', 'Hours']) {
      await seller.click(await seller.find(By.xpath(`//nav[@aria-label="Reports"]//a[normalize-space(.)="${report}"]`)));
      await seller.until(async () => (await total('Net revenue')) === whole, `${report} says ${whole}`);
    }
    await seller.click(await seller.find(By.xpath('//nav[@aria-label="Reports"]//a[normalize-space(.)="Sources"]')));
    await seller.sees('field-notes');
    const [, , , , , , , row] = await cells('tbody tr:first-child td');
    await seller.click(await seller.find('tbody tr:first-child th button'));
    await seller.sees('Orders behind letter');
    await seller.sees(`${row} net revenue`);
    await seller.driver.actions().sendKeys(Key.ESCAPE).perform();
    expect(await axeProblems(seller)).toEqual([]);
  });

  it('sorts by a press, stays as it is asked through a reload, and goes back', async () => {
    await seller.open(`${ruta.studio}/insight/source?period=90`);
    await seller.click(await seller.find(By.xpath('//th//button[contains(., "Visitors")]')));
    const most = () => seller.driver.executeScript<string>('return document.querySelector("tbody th")?.textContent');
    await seller.until(async () => (await most()) === 'skylark', 'most visitors stand first');
    await seller.click(await seller.find(By.xpath('//th//button[contains(., "Visitors")]')));
    await seller.until(async () => (await most()) !== 'skylark', 'fewest stand first');
    await (await seller.find('select[aria-label=Against] option[value=none]')).click();
    await seller.until(async () => (await seller.driver.getCurrentUrl()).includes('compare=none'), 'it is asked');
    await seller.driver.navigate().refresh();
    await seller.sees('field-notes');
    expect(await seller.driver.getCurrentUrl()).toMatch(/period=90&compare=none$/);
    expect(await (await seller.find('select[aria-label=Period]')).getAttribute('value')).toBe('90');
    await seller.click(await seller.find(By.xpath('//nav[@aria-label="Reports"]//a[normalize-space(.)="Devices"]')));
    await seller.sees('Phone');
    await seller.driver.navigate().back();
    await seller.sees('field-notes');
  });

  it('draws what is asked: days, hours, carts, and where the people of a funnel go', async () => {
    for (const [report, label] of [
      ['day', 'Per visitor by day'],
      ['hour', 'Orders by hour of the week'],
      ['cart', 'Carts by day: paid at once, won back and left'],
    ] as const) {
      await seller.open(`${ruta.studio}/insight/${report}`);
      await seller.find(`[aria-label="${label}"] svg path`);
    }
    await seller.open(`${ruta.studio}/funnels`);
    await seller.click('Moon Month to First Light');
    await seller.click('Results');
    await seller.find('[aria-label="How people go from stop to stop"] svg path');
    await seller.sees('First Light story');
    expect(await axeProblems(seller)).toEqual([]);
  });

  it('takes a file of ad spend with other columns, days and decimals, remembers how, and refuses one in another currency', async () => {
    const day = new Date(Date.now() - 3 * 24 * 60 * 60 * 1000);
    const written = `${day.getUTCDate()}.${day.getUTCMonth() + 1}.${day.getUTCFullYear()}`;
    const file = path.join(ruta.data, 'spend.csv');
    const bring = async (lines: string[]) => {
      writeFileSync(file, lines.join('\n'));
      await (await seller.find('input[type=file]')).sendKeys(file);
    };
    await seller.open(`${ruta.studio}/insight/spend`);
    await seller.click('Bring in ad spend');
    await bring(['Tag;Kampagne;Kosten', `${written};night-radio;$ 12,00`]);
    await seller.sees('This is in $, and the shop counts in EUR');
    await bring(['Tag;Kampagne;Kosten', `${written};night-radio;1.012,50`, 'Summe;;1.012,50']);
    await seller.sees('€1,012.50');
    await seller.sees('1 lines without a day are left out');
    await seller.click('Bring it in');
    await seller.sees('Done: 1 added');
    await bring(['Tag;Kampagne;Kosten', `${written};night-radio;1.012,50`]);
    await seller.sees('As the last time with these columns');
    await seller.click(await seller.find('[aria-label=Close]'));
    await seller.until(async () => (await seller.text()).includes('€1,012.50'), 'the report has it');
  });

  it('says on the first page what is unusual, and why', async () => {
    await seller.open(ruta.studio);
    await seller.sees('What is unusual');
    await seller.sees('Visitors from radio');
    await seller.sees('Chance alone does that');
  });

  it('follows subscribers by the month they began in, and says where their orders are', async () => {
    await seller.open(`${ruta.studio}/insight/cohort?period=year`);
    await seller.sees('After one month');
    await seller.click(await seller.find('tbody tr:first-child th button'));
    await seller.sees('Orders behind');
    await seller.sees('Clear Skies Club');
    await seller.driver.actions().sendKeys(Key.ESCAPE).perform();
  });
});

describe('a forecast', () => {
  const field = (label: string) => seller.find(`[aria-label="${label}"]`);
  const figure = async (name: string) =>
    seller.driver.executeScript<string>(
      'return [...document.querySelectorAll("dl[aria-label=Forecast] > div")].find((each) => each.firstChild.textContent === arguments[0])?.lastChild.firstChild.textContent',
      name,
    );
  const write = async (label: string, text: string) => (await field(label)).sendKeys(Key.chord(Key.CONTROL, 'a'), text);

  it('says where to work next, follows what is typed by keyboard alone, keeps it, and goes back to what is real', async () => {
    await seller.open(`${ruta.studio}/funnels`);
    await seller.click('Star Wheel');
    await seller.sees('Published');
    const [base] = /^.*\/funnels\/\w+/.exec(await seller.address()) ?? [''];
    await seller.open(`${base}/results?period=90`);
    await seller.click(await seller.find(By.xpath('//nav[@aria-label="Reports"]//a[normalize-space(.)="Forecast"]')));
    await seller.sees('Where to work next');
    const real = await figure('Profit');
    expect(real).toMatch(/^€\d/);
    await write('Rate of Checkout in percent', '0');
    await seller.until(async () => (await figure('Profit')) === '€0.00', 'nobody pays, nothing is earned');
    await write('Rate of Checkout in percent', '101');
    await seller.sees('Enter a number from 0 to 100.');
    await write('Rate of Checkout in percent', '50');
    await write('Visitors', '1000');
    await seller.click('Try a bump');
    await write('Rate of A new bump in percent', '20');
    await write('What a sale of A new bump brings in EUR', '10');
    await seller.until(async () => (await seller.findAll('main [role=status]')).length === 0, 'all is sampled');
    const income = await figure('Income');
    await seller.driver.navigate().refresh();
    await seller.sees('A new bump');
    await seller.until(async () => (await figure('Income')) === income, 'what was typed is there again');
    expect(await axeProblems(seller)).toEqual([]);
    await seller.type('Name', 'With a bump');
    await seller.click('Keep what is shown');
    await seller.sees('What happens is counted from tomorrow on.');
    await seller.click('Back to what is real');
    await seller.until(async () => (await figure('Profit')) === real, 'it is what it was');
    await seller.click(await seller.find('[aria-label="Open With a bump"]'));
    await seller.until(async () => (await figure('Income')) === income, 'it is opened again');
    await seller.click(await seller.find('[aria-label="Remove With a bump"]'));
    await seller.sees('Keep what you expect under a name');
  });
});

describe('contacts', () => {
  it('are found by what they bought and what they did not, with the editor of conditions, and stay filtered after a reload', async () => {
    await seller.open(`${ruta.studio}/sales/contacts`);
    await seller.click('All contacts');
    await seller.click('Ask something');
    await seller.choose('Product', 'First Light');
    await seller.sees('contacts match.');
    const matched = async () => Number(await (await seller.find('[role=dialog] [data-matches]')).getAttribute('data-matches'));
    const bought = await matched();
    await seller.click('Group');
    const group = (await seller.findAll('[role=dialog] select[aria-label="How the questions go together"]')).at(-1);
    await group?.findElement(By.css('option[value=none]')).click();
    await seller.click(await seller.find(By.xpath('(//*[@role="dialog"]//button[normalize-space(.)="Question"])[1]')));
    await seller.until(async () => (await seller.findAll('[role=dialog] [data-question]')).length === 2, 'there is another question');
    await seller.click(await seller.find(By.xpath('//*[@role="dialog"]//button[contains(., "Choose a product")]')));
    await seller.pick('Sketching the Sky');
    await seller.until(async () => (await matched()) < bought, 'fewer are left');
    const left = await matched();
    expect(left).toBeGreaterThan(0);
    expect(await axeProblems(seller)).toEqual([]);
    await seller.click('Apply filter');
    await seller.sees(`Export ${left} as CSV`);
    await seller.driver.navigate().refresh();
    await seller.sees(`Export ${left} as CSV`);
  });
});

describe('on a small screen', () => {
  const SIZES = [
    ['a phone', { width: 390, height: 800 }],
    ['a desktop at twice the size', { width: 640, height: 400 }],
  ] as const;
  it.each(SIZES)('on %s every place fits, and what Insight answers begins within its first 400 pixels', async (_name, size) => {
    const small = await Person.arrive(size);
    try {
      await small.open(ruta.studio);
      await small.type('E-mail', 'ines@perigeelane.test');
      await small.type('Password', 'moonlight-demo');
      await small.click(await small.find('button[type=submit]'));
      await small.sees('What needs you');
      const { funnel, test } = await small.driver.executeAsyncScript<Record<'funnel' | 'test', { id: string }>>(
        `const done = arguments[0];
        const first = (of) => fetch('/api/' + of + '?limit=1').then((answer) => answer.json()).then((all) => all.rows ?? all);
        Promise.all([first('funnels'), first('experiments')]).then(([[funnel], [test]]) => done({ funnel, test }));`,
      );
      const places: Array<[string, string]> = [
        ['/', 'main h2'],
        ['/funnels', 'main li'],
        [`/funnels/${funnel.id}/map`, 'nav[aria-label="Stops"] li'],
        [`/funnels/${funnel.id}/results/forecast`, 'tbody tr'],
        [`/experiments/${test.id}`, 'tbody tr'],
        ['/sales/orders', 'tbody tr'],
        ['/sales/carts', 'tbody tr'],
        ['/sales/contacts', 'tbody tr'],
        ['/catalog', 'tbody tr'],
        ['/insight', 'dl[aria-label="The period"]'],
        ['/settings', 'main form'],
        ['/settings/tax', 'tbody tr'],
        ['/settings/consent', 'main h1'],
        ['/connections', 'main h2'],
      ];
      for (const [place, there] of places) {
        await small.open(ruta.studio + place);
        await small.find(there);
        expect([place, await small.driver.executeScript('return document.documentElement.scrollWidth')]).toEqual([place, size.width]);
        // As cards every value stands in sight; a table that is one scrolls by itself.
        const hidden = `return [...document.querySelectorAll('tbody :is(td, th), tbody input')].filter((it) => it.getClientRects().length > 0
          && it.getBoundingClientRect().right > innerWidth).map((it) => it.outerHTML.slice(0, 90))`;
        if (size.width < 640) expect([place, await small.driver.executeScript(hidden)]).toEqual([place, []]);
        if (place === '/insight')
          expect(await small.driver.executeScript('return document.querySelector(\'dl[aria-label="The period"]\').getBoundingClientRect().top')).toBeLessThan(
            400,
          );
        await small.driver.actions().sendKeys(Key.TAB).perform();
        const focus = await small.driver.executeScript<boolean>(
          'const { top, bottom, left, right } = document.activeElement.getBoundingClientRect(); return bottom > 0 && top < innerHeight && right > 0 && left < innerWidth',
        );
        expect([place, focus]).toEqual([place, true]);
      }
    } finally {
      await small.leave();
    }
  });
});

describe('with colours that somebody chose themselves', () => {
  it('where one is, what is chosen and what has the keyboard are seen', async () => {
    const devTools = seller.driver as chrome.Driver;
    await devTools.sendDevToolsCommand('Emulation.setEmulatedMedia', { features: [{ name: 'forced-colors', value: 'active' }] });
    try {
      const grounds = (css: string) =>
        seller.driver.executeScript<string[]>(`return [...document.querySelectorAll(arguments[0])].map((it) => getComputedStyle(it).backgroundColor)`, css);
      for (const [place, chosen, others] of [
        ['/insight', 'nav [aria-current=page]', 'nav a:not([aria-current=page])'],
        ['/sales/orders', 'nav [aria-current=page]', 'nav a:not([aria-current=page])'],
        ['/catalog', 'nav [aria-current=page]', 'nav a:not([aria-current=page])'],
      ] as const) {
        await seller.open(ruta.studio + place);
        await seller.find(chosen);
        const [here, elsewhere] = [await grounds(chosen), await grounds(others)];
        expect(here.length, place).toBeGreaterThan(1);
        for (const ground of here) expect(elsewhere, place).not.toContain(ground);
        await seller.driver.actions().sendKeys(Key.TAB).perform();
        const focus = await seller.driver.executeScript<string>(
          `const { outlineStyle, outlineWidth } = getComputedStyle(document.activeElement); return outlineStyle + ' ' + outlineWidth`,
        );
        expect(focus, place).toBe('solid 3px');
      }
    } finally {
      await devTools.sendDevToolsCommand('Emulation.setEmulatedMedia', { features: [] });
    }
  });
});
