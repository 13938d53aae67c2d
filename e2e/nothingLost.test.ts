import Database from 'better-sqlite3';
import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Installation } from '../apps/server/test/support/installation';
import { Person } from './support/browser';
import { canvasText, editWords, Key, press, saved, type } from './support/canvas';

let ruta: Installation;
let seller: Person;
beforeAll(async () => {
  ruta = await Installation.start({ demo: true });
  seller = await Person.arrive();
  await seller.open(ruta.studio);
  await signIn();
  await seller.sees('What needs you');
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

async function signIn(): Promise<void> {
  await seller.type('E-mail', 'ines@perigeelane.test');
  await seller.type('Password', 'moonlight-demo');
  await seller.click(await seller.find('button[type=submit]'));
}

/** Opens the first page of the sample funnel by its own address. */
async function openPage(): Promise<void> {
  await seller.open(`${ruta.studio}/funnels`);
  await seller.click('Moon Month to First Light');
  await seller.sees('left an address');
  await press(seller, 'p');
  await hasPage();
}
const hasPage = () => seller.until(async () => (await canvasText(seller)).includes('Free printable'), 'the page is open');
const shows = (words: string) => seller.until(async () => (await canvasText(seller)).includes(words), `the page shows “${words}”`);

async function write(words: string): Promise<void> {
  await editWords(seller, 'h1 .words');
  await press(seller, Key.CONTROL, 'a');
  await type(seller, words);
}

/** Asks the API from within the browser, as another window of the same person would. */
function asked<T>(script: string): Promise<T> {
  return seller.driver.executeAsyncScript<T>(
    `const done = arguments[0];
     (async () => {
       const { csrfToken } = await (await fetch('/api/session')).json();
       const send = (path, method, body) => fetch('/api' + path, { method, headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken }, body: body && JSON.stringify(body) });
       ${script}
     })().then(done, (error) => done(String(error)));`,
  );
}

describe('what is typed on a page', () => {
  it('survives leaving at once for another stop, the map, the rail, and Back', async () => {
    await openPage();
    for (const [words, leave] of [
      ['To another stop', async () => seller.click(await seller.find(By.xpath('//a[contains(@href, "/page/")][contains(., "Checkout")]')))],
      ['To the map', () => seller.click('Map')],
      ['Along the rail', () => seller.click('Sales')],
      ['And back', () => seller.driver.navigate().back()],
    ] as Array<[string, () => Promise<unknown>]>) {
      await write(words);
      await leave();
      await seller.until(async () => !(await canvasText(seller)).includes(words), 'the page is left');
      await openPage();
      await shows(words);
    }
  });

  it('survives a reload in the middle of a word, on a page too large for a last message', async () => {
    await openPage();
    const stepId = /page\/([^/]+)/.exec(await seller.address())?.[1] ?? '';
    const bytes = await asked<number>(`
      const { page, revision } = await (await send('/steps/${stepId}/page', 'GET')).json();
      const column = page.sections.at(-1).columns[0];
      const words = [{ type: 'text', text: 'word '.repeat(300) }];
      for (let i = 0; i < 50; i++) column.elements.push({ id: column.elements[0].id.slice(0, 4) + String(i).padStart(16, '0'), type: 'text', style: 'body', words });
      const response = await send('/steps/${stepId}/page', 'PUT', { page, revision });
      return response.ok ? JSON.stringify(page).length : await response.text();`);
    expect(String(bytes)).toMatch(/^\d{5,}$/);
    await seller.driver.navigate().refresh();
    await hasPage();
    await write('Reloaded at once');
    await seller.driver.navigate().refresh();
    await shows('Reloaded at once');
    await saved(seller);
    await seller.driver.navigate().refresh();
    await shows('Reloaded at once');
  });

  it('waits in the browser while the server is away, says so wherever one goes, and is sent by itself', async () => {
    await openPage();
    await ruta.killServer();
    await write('While it was away');
    expect(await seller.text()).not.toMatch(/Saved \d\d:\d\d/);
    await seller.click('Map');
    await seller.sees('is not saved yet.');
    expect(await seller.text()).toContain('kept in this browser');
    await ruta.startServer();
    await seller.until(async () => !(await seller.text()).includes('is not saved yet.'), 'it is sent');
    await openPage();
    await shows('While it was away');
  });

  it('can be given up for what another window saved, and then waits nowhere', async () => {
    await openPage();
    const stepId = /page\/([^/]+)/.exec(await seller.address())?.[1] ?? '';
    expect(
      await asked<number>(`
        const { page, revision } = await (await send('/steps/${stepId}/page', 'GET')).json();
        const headline = page.sections.flatMap((section) => section.columns.flatMap((column) => column.elements)).find(({ type, level }) => type === 'headline' && level === 1);
        headline.words = [{ type: 'text', text: 'The other words' }];
        return (await send('/steps/${stepId}/page', 'PUT', { page, revision })).status;`),
    ).toBe(200);
    await write('Given up');
    await seller.sees('Both versions are here');
    await seller.click('The other one');
    await seller.click('Go on with the other one');
    await seller.until(async () => (await canvasText(seller)).includes('The other words'), 'the other version is on');
    expect(await canvasText(seller)).not.toContain('Given up');
    await seller.click('Map');
    await seller.sees('left an address');
    expect(await seller.driver.executeScript<string[]>(`return Object.keys(localStorage).filter((key) => key.startsWith('ruta.unsaved.'))`)).toEqual([]);
    expect(await seller.text()).not.toContain('is not saved yet.');
  });

  it('is saved after a new sign-in in place, once the old one has ended', async () => {
    await openPage();
    const db = new Database(`${ruta.data}/shop.sqlite`);
    db.prepare('DELETE FROM sessions').run();
    db.close();
    await write('Signed out meanwhile');
    await seller.sees('Sign in again');
    expect(await canvasText(seller)).toContain('Signed out meanwhile');
    await signIn();
    await saved(seller);
    await seller.driver.navigate().refresh();
    await shows('Signed out meanwhile');
  });
});

describe('a stop’s own settings', () => {
  it('save themselves; what cannot be saved stays while parts of the page are selected, and is not left unasked', async () => {
    await openPage();
    await press(seller, Key.ESCAPE);
    await seller.sees('This stop');
    await seller.type('Name', 'Renamed stop');
    await seller.until(async () => (await (await seller.find('header')).getText()).includes('Renamed stop'), 'it is on the line');
    await (await seller.byLabel('Name')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    await seller.sees('Give the stop a name.');
    await editWords(seller, 'h1 .words');
    await seller.until(async () => !(await seller.text()).includes('This stop'), 'the headline is selected');
    for (let i = 0; i < 3; i++) await press(seller, Key.ESCAPE);
    await seller.sees('This stop');
    expect(await (await seller.byLabel('Name')).getAttribute('value')).toBe('');
    await seller.click('Map');
    await seller.sees('Leave without saving?');
    await seller.click('Stay here');
    await seller.type('Name', 'Renamed again');
    await seller.until(async () => (await (await seller.find('header')).getText()).includes('Renamed again'), 'it is saved');
    await saved(seller);
  });
});

describe('settings', () => {
  it('ask before what is typed is left', async () => {
    await seller.open(`${ruta.studio}/settings`);
    await seller.type('Shop name', 'Perigee Lane and Daughters');
    await seller.click('Catalog');
    await seller.sees('Leave without saving?');
    await seller.click('Stay here');
    expect(await (await seller.byLabel('Shop name')).getAttribute('value')).toBe('Perigee Lane and Daughters');
  });

  it('of a new funnel and pasted keys are there again after a reload', async () => {
    await seller.open(`${ruta.studio}/funnels/new`);
    await seller.type('Name', 'Autumn sky');
    await seller.driver.navigate().refresh();
    await seller.until(async () => (await (await seller.byLabel('Name')).getAttribute('value')) === 'Autumn sky', 'the name is there again');
    const product = await asked<{ id: string }>('return (await (await fetch("/api/products?search=Dark%20Sky&limit=1")).json()).rows[0]');
    await seller.open(`${ruta.studio}/catalog/${product.id}`);
    await seller.choose('Licence keys', 'From a list you paste');
    await seller.type('Paste keys, one a line', 'MOON-1');
    // What the form itself keeps brings the field back, and what was pasted is in it.
    await seller.driver.navigate().refresh();
    await seller.driver
      .switchTo()
      .alert()
      .accept()
      .catch(() => undefined);
    await seller.until(async () => (await (await seller.byLabel('Paste keys, one a line')).getAttribute('value')) === 'MOON-1', 'the keys are there again');
    await seller.type('Paste keys, one a line', '');
    await seller.click('Start from what is saved');
  });

  it('and products are there again after a reload, until they are saved or left on purpose', async () => {
    await seller.open(`${ruta.studio}/catalog`);
    await seller.click('Red Torch');
    await seller.type('Internal label', 'Torch, red and small');
    await seller.driver.navigate().refresh();
    await seller.driver
      .switchTo()
      .alert()
      .accept()
      .catch(() => undefined);
    await seller.sees('What you typed here earlier and did not save is back.');
    expect(await (await seller.byLabel('Internal label')).getAttribute('value')).toBe('Torch, red and small');
    await seller.click('Start from what is saved');
    expect(await (await seller.byLabel('Internal label')).getAttribute('value')).toBe('');
    await seller.type('Internal label', 'Torch, small');
    await seller.driver.navigate().refresh();
    await seller.driver
      .switchTo()
      .alert()
      .accept()
      .catch(() => undefined);
    await seller.sees('is back.');
    await seller.click(await seller.find('button[type=submit]'));
    await seller.sees('Saved ');
    await seller.driver.navigate().refresh();
    await seller.until(async () => (await (await seller.byLabel('Internal label')).getAttribute('value')) === 'Torch, small', 'it is saved');
    expect(await seller.text()).not.toContain('is back.');
    // The tables of the settings do the same.
    await seller.open(`${ruta.studio}/settings/tax`);
    const rate = async () => (await seller.find('[aria-label="Standard rate, row 1"]')).getAttribute('value');
    const before = await rate();
    await (await seller.find('[aria-label="Standard rate, row 1"]')).sendKeys('.5');
    await seller.driver.navigate().refresh();
    await seller.driver
      .switchTo()
      .alert()
      .accept()
      .catch(() => undefined);
    await seller.sees('is back.');
    expect(await rate()).toBe(`${before}.5`);
    await seller.click('Start from what is saved');
    expect(await rate()).toBe(before);
  });

  it('of an older window are refused, and stay as they were typed', async () => {
    await seller.open(`${ruta.studio}/settings`);
    await seller.type('Shop name', 'From the older window');
    expect(
      await asked<number>(`
        const { settings: { currency, ...settings } } = await (await send('/shop', 'GET')).json();
        return (await send('/shop', 'PUT', { ...settings, name: 'From the newer window' })).status;`),
    ).toBe(200);
    await seller.click('Save');
    await seller.sees('were changed in another window meanwhile');
    expect(await (await seller.byLabel('Shop name')).getAttribute('value')).toBe('From the older window');
    const { name } = await asked<{ name: string }>(`return (await (await send('/shop', 'GET')).json()).settings;`);
    expect(name).toBe('From the newer window');
  });

  it('say what they do to every live total, and do it only then', async () => {
    // Whoever leaves the older window is asked; here the answer is yes.
    await seller.driver.executeScript('window.onbeforeunload = null');
    await seller.click('Catalog');
    await seller.click('Leave without saving');
    await seller.open(`${ruta.studio}/settings`);
    await seller.click(await seller.byLabel('Prices include tax'));
    await seller.click('Save');
    await seller.sees('Who pays €100.00 today for a price of €100.00 will pay €123.00 in Portugal');
    await seller.click('Leave it as it is');
    const { pricesIncludeTax } = await asked<{ pricesIncludeTax: boolean }>(`return (await (await send('/shop', 'GET')).json()).settings;`);
    expect(pricesIncludeTax).toBe(true);
  });

  it('of products and codes are refused in an older window too', async () => {
    const statuses = await asked<number[]>(`
      const { rows: [row] } = await (await send('/products', 'GET')).json();
      const product = await (await send('/products/' + row.id, 'GET')).json();
      const put = (path, body, begun) => fetch('/api' + path, { method: 'PUT', headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken, 'if-match': begun }, body: JSON.stringify(body) }).then((response) => response.status);
      const { rows: [code] } = await (await send('/codes', 'GET')).json();
      const before = [product.updatedAt, code.revision].map(String);
      return [
        await put('/products/' + product.id, { ...product, label: 'First' }, before[0]),
        await put('/products/' + product.id, { ...product, label: 'Second' }, before[0]),
        await put('/codes/' + code.id, { ...code.terms, limit: 77 }, before[1]),
        await put('/codes/' + code.id, { ...code.terms, limit: 78 }, before[1]),
      ];`);
    expect(statuses).toEqual([200, 409, 200, 409]);
  });

  it('in a dialog ask before they are closed', async () => {
    await seller.open(`${ruta.studio}/catalog/codes`);
    await seller.click(await seller.find(By.xpath('//*[normalize-space(text())="LONGNIGHT"]')));
    await seller.type('Uses in all', '5');
    await press(seller, Key.ESCAPE);
    await seller.sees('What you typed here is not saved.');
    await seller.click('Stay here');
    expect(await (await seller.byLabel('Uses in all')).getAttribute('value')).toBe('5');
    await press(seller, Key.ESCAPE);
    await seller.click('Leave without saving');
    await seller.until(async () => (await seller.driver.findElements(By.css('[role=dialog]'))).length === 0, 'the dialog is closed');
  });
});
