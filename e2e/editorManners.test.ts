import { By } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import { OfferFunnel } from '../apps/server/test/support/offers';
import { writeOwnWords } from '../apps/server/test/support/ownWords';
import { selling } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { canvasText, clickOnCanvas, editWords, Key, press, saved, type } from './support/canvas';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
let api: Seller;
let seller: Person;
let funnel: OfferFunnel;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  funnel = await OfferFunnel.draw(api);
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

async function openPage(person = seller): Promise<void> {
  await person.open(`${ruta.studio}/funnels/${funnel.id}/page/${funnel.step('sales').id}`);
  await person.until(async () => (await canvasText(person)).includes('First Light'), 'the page is open');
}
const page = async () => (await api.read(`/steps/${funnel.step('sales').id}/page`)).page;
/** The first of the rows of the outline with some words. */
const row = (words: string) => seller.byWords(words, 'button[@data-outline]');
const active = () =>
  seller.driver.executeScript<string>(
    `const it = document.activeElement; return it.dataset.outline || it.title || it.getAttribute('aria-label') || it.tagName;`,
  );

describe('the editor', () => {
  it('keeps its shortcuts after a click into the page', async () => {
    await openPage();
    await clickOnCanvas(seller, 'h1');
    // Out of the words, and to the section around them.
    await press(seller, Key.ESCAPE);
    await press(seller, Key.ESCAPE);
    await press(seller, ']');
    await seller.until(async () => (await seller.address()).includes(funnel.step('checkout').id), 'the next stop is open');
    await seller.until(async () => (await canvasText(seller)).includes('Your order'), 'with its page');
    await press(seller, '[');
    await seller.until(async () => (await seller.address()).includes(funnel.step('sales').id), 'and back');
  });

  it('lets words be typed from the outline with Enter, and gives the keyboard back to it', async () => {
    await openPage();
    const headline = await row('Headline');
    const id = await headline.getAttribute('data-outline');
    await seller.driver.executeScript('arguments[0].focus()', headline);
    await press(seller, Key.ENTER);
    await seller.until(
      () =>
        seller.driver.executeScript<boolean>(
          `return document.querySelector('iframe[title="The page being edited"]').contentDocument.activeElement?.isContentEditable === true`,
        ),
      'the words are open',
    );
    await press(seller, Key.CONTROL, 'a');
    await type(seller, 'Typed by keyboard');
    await press(seller, Key.ESCAPE);
    await seller.until(async () => (await active()) === id, 'the outline has the keyboard');
    await saved(seller);
    expect(JSON.stringify(await page())).toContain('Typed by keyboard');
    // Moved, the row keeps it too.
    await press(seller, Key.ALT, Key.ARROW_DOWN);
    await seller.until(async () => (await active()) === id, 'the moved row has the keyboard');
  });

  it('brings the keyboard to the content of a place that is arrived at', async () => {
    await seller.open(`${ruta.studio}/funnels`);
    await seller.click('Catalog');
    await seller.sees('Files');
    await seller.until(() => seller.driver.executeScript<boolean>(`return document.activeElement !== document.body`), 'something has the keyboard');
    await openPage();
    await press(seller, 'm');
    await seller.find('.react-flow__node');
    await seller.until(async () => (await active()) === 'Map', `the map has the keyboard, not ${await active()}`);
  });

  it('begins a new line of a list with Enter, parts one in two, and removes any', async () => {
    await openPage();
    await seller.click(await row('Headline'));
    await seller.click(await seller.find('[aria-label="Add to this page"]'));
    await seller.click(await seller.byWords('List', '*[@role="menuitem"]'));
    await editWords(seller, '.edit-element[data-selected] .words');
    await press(seller, Key.CONTROL, 'a');
    // On a slow machine and in one go: no letter is lost between one line and the next.
    const slow = (rate: number) => (seller.driver as chrome.Driver).sendDevToolsCommand('Emulation.setCPUThrottlingRate', { rate });
    await slow(6);
    await seller.driver.actions().sendKeys('First', Key.ENTER, 'Second', Key.ENTER, 'Third', Key.ESCAPE).perform();
    await slow(1);
    const lines = async () => {
      for (const section of (await page()).sections)
        for (const column of section.columns)
          for (const element of column.elements)
            if (element.type === 'list' && JSON.stringify(element).includes('First'))
              return element.items.map((item: Array<{ text: string }>) => item[0]?.text);
      return [];
    };
    await until(async () => (await lines()).slice(0, 3).join() === 'First,Second,Third', 'three lines are saved');
    await seller.click(await seller.find('[aria-label="Remove “Second”"]'));
    await until(async () => (await lines()).slice(0, 2).join() === 'First,Third', 'the one in the middle is gone');
  });

  it('shows bold and link while words are typed, and leads where a link says', async () => {
    await openPage();
    await seller.click(await row('Headline'));
    await seller.click(await seller.find('[aria-label="Add to this page"]'));
    await seller.click(await seller.byWords('Text', '*[@role="menuitem"]'));
    await editWords(seller, '.edit-element[data-selected] .words');
    await press(seller, Key.CONTROL, 'a');
    await seller.click(await seller.find('[aria-label="Bold (Ctrl B)"]'));
    await seller.click(await seller.find('[aria-label="Link"]'));
    await seller.type('Address', 'nowhere');
    await seller.click('Set the link');
    await seller.sees('Enter a full address beginning with https://');
    await seller.type('Address', 'https://sky.test/guide');
    await seller.click('Set the link');
    await until(async () => JSON.stringify(await page()).includes('"link":"https://sky.test/guide"'), 'the link is saved');
    expect(JSON.stringify(await page())).toContain('"bold":true');
    expect(await axeProblems(seller)).toEqual([]);
    await writeOwnWords(api, funnel.id);
    await funnel.publish();
    expect(await (await fetch(`${ruta.site}/${funnel.slug}`)).text()).toMatch(/<a href="https:\/\/sky\.test\/guide"><strong>/);
  });

  it('shows a draft in a tab of its own, and something to do on a page that was emptied', async () => {
    await openPage();
    const preview = await (await seller.byWords('Preview', 'a')).getAttribute('href');
    // Kept from before, since the emptied page is saved meanwhile.
    const { sections } = await page();
    for (const section of sections) {
      await seller.click(await seller.find(`[data-outline="${section.id}"]`));
      await press(seller, Key.DELETE);
    }
    await seller.until(async () => (await canvasText(seller)).includes('Add its first section'), 'it says what to do');
    for (const _section of sections) await press(seller, Key.CONTROL, 'z');
    await saved(seller);
    await seller.open(preview ?? '');
    await seller.until(
      () =>
        seller.driver.executeScript<boolean>(
          `return document.querySelector('iframe')?.contentDocument?.body?.innerText.includes('Typed by keyboard') ?? false`,
        ),
      'the draft is shown',
    );
    expect(await seller.findAll('nav')).toEqual([]);
  });

  it('leaves room for the page at 768 pixels, with its outline at hand', async () => {
    const narrow = await arriveAsOwner(ruta.studio, { width: 768, height: 1024 });
    try {
      await openPage(narrow);
      const width = () =>
        narrow.driver.executeScript<number>(`return document.querySelector('iframe[title="The page being edited"]').getBoundingClientRect().width`);
      expect(await width()).toBeGreaterThan(340);
      const right = await narrow.driver.executeScript<number>(
        `return document.querySelector('[aria-label="Desktop, 1200 wide"]').getBoundingClientRect().right`,
      );
      expect(right).toBeLessThanOrEqual(768);
      await narrow.click(await narrow.find('[aria-label="Show the outline"]'));
      await narrow.click(await narrow.find(By.xpath('//button[@data-outline][contains(., "Headline")]')));
      expect(await narrow.driver.executeScript<boolean>('return document.documentElement.scrollWidth <= innerWidth')).toBe(true);
    } finally {
      await narrow.leave();
    }
  });
});

describe('words of a template', () => {
  it('are marked, keep a funnel from going live, and give way to the first letter that is typed', async () => {
    const [{ id: productId, name }] = await api.rows('/products');
    const draft = await api.make('/funnels', { name: 'Fresh', template: 'straight-sale', productId });
    await seller.open(`${ruta.studio}/funnels/${draft.id}/page/${draft.graph.entryId}`);
    await seller.until(async () => (await canvasText(seller)).includes('Say the first thing'), 'the words of the template stand there');
    await seller.click('Publish');
    await seller.sees('Text of the template still stands here: “Say the first thing that changes for the buyer” and 2 more.');
    expect(await (await seller.find('[role=dialog] button:disabled')).getText()).toBe('Publish all stops');
    // Each passage is where its words lead.
    await seller.click('Show all 3 passages');
    const passage = (await seller.findAll('[role=dialog] details a'))[1];
    const text = (await passage?.getText()) ?? '';
    await seller.click(passage as never);
    await seller.until(
      () =>
        seller.driver.executeScript<boolean>(
          `return document.querySelector('iframe[title="The page being edited"]').contentDocument.querySelector('.edit-element[data-selected]')?.textContent.includes(arguments[0]) ?? false`,
          text,
        ),
      'the passage is selected',
    );
    for (const words of ['You know the sky', 'In a week', `With ${name} at hand`]) {
      await editWords(seller, '.edit-placeholder');
      await type(seller, words);
      await press(seller, Key.ESCAPE);
    }
    await saved(seller);
    const own = await canvasText(seller);
    expect(own).toContain('You know the sky');
    expect(own).not.toContain('Say the');
    // The product's name among them is pointed out, and bound with one click.
    await seller.sees(`“${name}” is typed here.`);
    await seller.click('Bind it to the product');
    await saved(seller);
    const { page: bound } = await api.read(`/steps/${draft.graph.entryId}/page`);
    expect(JSON.stringify(bound)).toContain('{"type":"text","text":"With "},{"type":"bound","value":"product.name"},{"type":"text","text":" at hand"}');
    await seller.click('Publish');
    await seller.until(async () => !(await seller.text()).includes('Text of the template'), 'nothing stands in the way');
    await seller.click('Publish all stops');
    await seller.sees('It is live now');
    await press(seller, Key.ESCAPE);
  });
});

describe('what is long, and what is narrow', () => {
  const WORD = 'Sternbild'.repeat(14).slice(0, 119);

  it('lets a word of 119 letters push no price off a checkout or a list', async () => {
    const long = await OfferFunnel.draw(api, { product: selling(WORD, { kind: 'one-time', regular: 13_800 }, { buyAgain: true }) });
    await long.publish();
    for (const size of [
      { width: 360, height: 740 },
      { width: 1280, height: 800 },
    ]) {
      const buyer = await Person.arrive(size);
      try {
        await buyer.open(`${ruta.site}/${long.slug}/checkout`);
        await buyer.find('[data-pay]');
        const fits = `return document.documentElement.scrollWidth <= innerWidth
          && [...document.querySelectorAll('.quote td')].filter((cell) => cell.offsetParent).every((cell) => cell.getBoundingClientRect().right <= innerWidth)`;
        expect(await buyer.driver.executeScript<boolean>(fits)).toBe(true);
      } finally {
        await buyer.leave();
      }
    }
    await seller.open(`${ruta.studio}/catalog`);
    await seller.sees('Sternbild');
    expect(await figuresStand(seller)).toBe(true);
  });

  it('shows totals on a phone, and every area of the rail with large text', async () => {
    const phone = await arriveAsOwner(ruta.studio, { width: 390, height: 844 });
    try {
      for (const place of ['sales/orders', 'sales/contacts', 'catalog']) {
        await phone.open(`${ruta.studio}/${place}`);
        await phone.find('main h1');
        await phone.until(async () => (await phone.text()).length > 60, 'the place is there');
        expect(await figuresStand(phone), place).toBe(true);
      }
    } finally {
      await phone.leave();
    }
    await seller.open(`${ruta.studio}/catalog`);
    await seller.find('nav[aria-label=Areas]');
    await seller.driver.executeScript(`document.documentElement.style.fontSize = '150%'`);
    const cut = `return [...document.querySelectorAll('nav[aria-label=Areas] a')].filter((link) => link.scrollWidth > link.clientWidth + 1).map((link) => link.innerText)`;
    expect(await seller.driver.executeScript<string[]>(cut)).toEqual([]);
    const main = `return document.querySelector('main').getBoundingClientRect().left >= document.querySelector('nav[aria-label=Areas]').getBoundingClientRect().right`;
    expect(await seller.driver.executeScript<boolean>(main)).toBe(true);
  });

  /** Whether nothing is wider than the screen, and the last column of a list stands whole in it. */
  const figuresStand = (person: Person) =>
    person.driver.executeScript<boolean>(`
      const cells = [...document.querySelectorAll('tbody td:last-child')];
      const holder = document.querySelector('section[tabindex]');
      return document.documentElement.scrollWidth <= innerWidth && (!holder || cells.every((cell) => cell.getBoundingClientRect().right <= holder.getBoundingClientRect().right + 1));`);
});
