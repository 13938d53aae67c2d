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
  await signIn(seller);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

async function signIn(person: Person): Promise<void> {
  await person.open(ruta.studio);
  await person.type('E-mail', 'ines@perigeelane.test');
  await person.type('Password', 'moonlight-demo');
  await person.click(await person.find('button[type=submit]'));
  await person.sees('What needs you');
}

async function openPage(person: Person): Promise<void> {
  await person.open(`${ruta.studio}/funnels`);
  await person.click('Moon Month to First Light');
  await person.sees('left an address');
  await press(person, 'p');
  await person.until(async () => (await canvasText(person)).includes('Free printable'), 'the page is open');
}

describe('work in the studio', () => {
  it('carries a changed brand to the public pages at once, and refuses a ground nothing reads well on', async () => {
    await seller.open(`${ruta.studio}/settings`);
    await seller.type('Ground', '#808080');
    await seller.click('Save the brand');
    await seller.sees('Choose a lighter or a darker ground');
    await seller.type('Ground', '#FFFFFF');
    await seller.type('Accent', '#0057B8');
    await seller.click('Save the brand');
    await seller.sees('Saved');
    const page = await (await fetch(`${ruta.site}/moon-month`)).text();
    expect(page).toContain('--accent:#0057B8');
  });

  it('says beside the field that an address is taken, and keeps what was typed', async () => {
    await seller.open(`${ruta.studio}/funnels/new`);
    await seller.choose('Product on sale', 'First Light');
    await seller.type('Name of the funnel', 'Second line');
    await seller.click('Draw the funnel');
    await seller.sees('Not published yet');
    await seller.click(await seller.find('[aria-label="Name and address of the funnel"]'));
    await seller.type('Address', 'moon-month');
    await seller.click(await seller.find('[role=dialog] button[type=submit]'));
    await seller.sees('The funnel “Moon Month to First Light” has this address already.');
    expect(await (await seller.byLabel('Address')).getAttribute('value')).toBe('moon-month');
    await seller.type('Address', 'Not An Address');
    await seller.click(await seller.find('[role=dialog] button[type=submit]'));
    await seller.sees('Use small letters, digits and single hyphens');
  });

  it('binds a stop’s page to another product, and lets no word of the first stay behind', async () => {
    await seller.open(`${ruta.studio}/funnels`);
    await seller.click('Second line');
    await seller.find('.react-flow__node');
    await press(seller, 'p');
    await seller.until(async () => (await canvasText(seller)).includes('First Light'), 'the page speaks of the course');
    await seller.choose('Product', 'Moon Month');
    await seller.until(
      async () => (await canvasText(seller)).includes('Moon Month') && !(await canvasText(seller)).includes('First Light'),
      'it speaks of the calendar alone',
    );
  });

  it('moves a section by keyboard in the outline', async () => {
    await openPage(seller);
    const names = async () => Promise.all((await seller.findAll('[data-outline^=sec]')).map((row) => row.getText()));
    const before = await names();
    await (await seller.find('[aria-label="Move Opening"]')).sendKeys(Key.SPACE);
    await seller.until(async () => (await seller.findAll('[aria-label="Move Opening"][aria-pressed=true]')).length === 1, 'the section is picked up');
    await press(seller, Key.ARROW_UP);
    await seller.until(
      async () =>
        /moved over/.test(
          await seller.driver.executeScript<string>(
            'return document.body.innerText + [...document.querySelectorAll("[aria-live]")].map((e) => e.textContent).join()',
          ),
        ),
      'it is over another place',
    );
    await press(seller, Key.ARROW_UP);
    await press(seller, Key.SPACE);
    await seller.until(async () => (await names()).indexOf('Opening') === 0, 'it stands first');
    await press(seller, Key.CONTROL, 'z');
    await seller.until(async () => (await names()).join() === before.join(), 'undo puts it back');
    await saved(seller);
  });

  it('loses nothing while the server is away, and saves once it is back', async () => {
    await openPage(seller);
    await ruta.killServer();
    await editWords(seller, 'h1 .words');
    await press(seller, Key.CONTROL, 'a');
    await type(seller, 'Written in the dark');
    await seller.sees('Not saved: The server cannot be reached');
    expect(await canvasText(seller)).toContain('Written in the dark');
    await ruta.startServer();
    await seller.sees('Saved ');
    await seller.driver.navigate().refresh();
    await seller.until(async () => (await canvasText(seller)).includes('Written in the dark'), 'it is there after a reload');
  });

  it('tells a second window that the first has saved meanwhile, instead of overwriting it', async () => {
    const second = await Person.arrive();
    try {
      await signIn(second);
      await second.open(await seller.address());
      await second.until(async () => (await canvasText(second)).includes('Written in the dark'), 'both windows show the page');
      await editWords(seller, 'h1 .words');
      await press(seller, Key.CONTROL, 'a');
      await type(seller, 'From the first window');
      await saved(seller);
      await seller.until(
        async () => (await (await fetch(`${ruta.site}/moon-month`)).text()).includes('Know what the moon does tonight'),
        'the draft stays a draft',
      );
      await editWords(second, 'h1 .words');
      await press(second, Key.CONTROL, 'a');
      await type(second, 'From the second');
      // Both versions are there to look at; nothing is saved until one is chosen, and the other stays one step back.
      await second.sees('This page was changed in another window meanwhile. Both versions are here');
      await second.click('The other one');
      await second.until(async () => (await canvasText(second)).includes('From the first window'), 'the other version is shown');
      await second.click('Yours');
      await second.until(async () => (await canvasText(second)).includes('From the second'), 'the own version is shown');
      await second.click('Go on with yours');
      await saved(second);
      await second.driver.navigate().refresh();
      await second.until(async () => (await canvasText(second)).includes('From the second'), 'the chosen version is saved');
    } finally {
      await second.leave();
    }
  });

  it('brings a long list to its end, says when the rest cannot be had, and lets no link be overruled by what was searched', async () => {
    const toTheEnd = () =>
      seller.driver.executeScript(`const list = document.querySelector('section[aria-label=Orders]'); list.scrollTop = list.scrollHeight;`);
    await seller.open(`${ruta.studio}/sales/orders`);
    await seller.until(async () => (await seller.findAll('tbody tr')).length > 10, 'the orders are listed');
    await ruta.killServer();
    await toTheEnd();
    await seller.sees('The rest of this list could not be loaded.');
    await ruta.startServer();
    await seller.click('Try again');
    await seller.until(async () => {
      await toTheEnd();
      return (await (await seller.find('tbody')).getText()).includes('1001');
    }, 'the first order ever is there');
    await seller.type('Search orders', '1001');
    await seller.until(async () => (await seller.address()).includes('search=1001'), 'the search stands in the address');
    await seller.click('Sales');
    await seller.until(async () => (await seller.findAll('tbody tr')).length > 10, 'all are listed again');
    expect(await (await seller.byLabel('Search orders')).getAttribute('value')).toBe('');
  });

  it('archives a product with what was sold intact, once its seller has read what closes', async () => {
    await seller.open(`${ruta.studio}/catalog`);
    const archiveChosen = async () => {
      for (const name of ['First Light, course', 'Dark Sky Map Pack']) await seller.click(await seller.find(`[aria-label="Select ${name}"]`));
      await seller.click('Archive');
      await seller.sees('“First Light, course” in the live funnel “Moon Month to First Light”');
    };
    await seller.type('Search name', 'First');
    await seller.until(async () => (await seller.findAll('tbody tr')).length < 4, 'the list is searched');
    await seller.type('Search name', ' ');
    await seller.sees('Dark Sky Map Pack');
    await archiveChosen();
    await seller.sees('Archive 2 products?');
    await seller.click(await seller.find(By.xpath('//*[@role="dialog"]//button[contains(., "Archive 2")]')));
    await seller.sees('2 products archived.');
    await seller.until(async () => !(await seller.text()).includes('First Light, course'), 'it is gone from the list');
    await seller.click('Undo');
    await seller.until(async () => (await seller.text()).includes('First Light, course'), 'it is back in the list');
    await seller.click('First Light, course');
    await seller.click('Archive');
    await seller.click('Archive 1');
    await seller.sees('1 product archived.');
    await seller.until(async () => !(await seller.text()).includes('First Light, course'), 'it is gone from the list');
    await seller.open(`${ruta.studio}/sales/orders`);
    await seller.sees('First Light');
    const checkout = await (await fetch(`${ruta.site}/moon-month/checkout`)).text();
    expect(checkout).toContain('is not on sale at the moment');
    expect(checkout).not.toContain('name="email"');
    expect((await seller.driver.findElements(By.css('tbody tr'))).length).toBeGreaterThan(3);
  });

  it('duplicates a funnel, puts one away so that its pages are gone at once, and brings it back', async () => {
    await seller.open(`${ruta.studio}/funnels`);
    await seller.sees('Figures of the last 30 days');
    const more = async (name: string) => seller.click(await seller.find(`[aria-label="More about ${name}"]`));
    const name = await seller.driver.executeScript<string>(
      'return [...document.querySelectorAll("[aria-label^=\\"More about\\"]")].at(-1).getAttribute("aria-label").slice(11)',
    );
    const address = await seller.driver.executeScript<string>('return [...document.querySelectorAll("main li a")].at(-1).getAttribute("href")');
    const live = await seller.driver.executeAsyncScript<{ addresses: Record<string, string>; graph: { entryId: string } }>(
      'const done = arguments[1]; fetch("/api/funnels/" + arguments[0]).then((answer) => answer.json()).then(done)',
      address.split('/')[2],
    );
    const page = async () => (await fetch(live.addresses[live.graph.entryId] ?? '')).status;
    expect(await page()).toBe(200);
    await more(name);
    const chosen = async (words: string) => seller.click(await seller.byWords(words, '*[@role="menuitem"]'));
    const isClosed = () => seller.until(async () => (await seller.findAll('[role=dialog], [role=menu]')).length === 0, 'what was open has closed');
    await chosen('Archive');
    await seller.sees('Its pages are offline from this moment');
    await seller.click('Archive it');
    await seller.until(async () => (await page()) === 404, 'its pages are offline');
    await isClosed();
    await seller.click('Archived funnels');
    await seller.sees('Put away: nobody is led to them.');
    await more(name);
    await chosen('Bring back');
    await seller.until(async () => (await page()) === 200, 'its pages are there again');
    await isClosed();
    await seller.click('Back to the funnels');
    await seller.sees('Figures of the last 30 days');
    await more(name);
    await chosen('Duplicate');
    await seller.until(async () => (await (await seller.byLabel('Name')).getAttribute('value')) === `${name} (copy)`, 'it is a copy of the same');
    // With another product it is called and found by that, behind its gift if it has one: which funnel is last is of the hour.
    await seller.choose('Product', 'Eclipse Field Guide');
    await seller.until(
      async () => ((await (await seller.byLabel('Address')).getAttribute('value')) ?? '').includes('eclipse-field-guide'),
      'its address follows',
    );
    await seller.click(await seller.find('[role=dialog] button[type=submit]'));
    await seller.sees('Not published yet');
    const copy = await seller.driver.executeAsyncScript<{
      graph: { steps: Array<{ kind: string; sells: Array<{ productId: string }> }> };
      products: Record<string, { name: string }>;
    }>('const done = arguments[0]; fetch("/api/funnels/" + location.pathname.split("/")[2]).then((answer) => answer.json()).then(done)');
    const sold = copy.graph.steps.find(({ kind }) => kind === 'checkout')?.sells[0]?.productId ?? '';
    expect(copy.products[sold]?.name).toContain('Eclipse Field Guide');
  });

  it('lets somebody in again who forgot their password, by a link that is sent to them', async () => {
    const person = await Person.arrive();
    await person.open(ruta.studio);
    await person.until(() => person.driver.executeScript<boolean>('return document.activeElement?.type === "email"'), 'the first field has the keyboard');
    await person.type('E-mail', 'ines@perigeelane.test');
    await person.click('Forgotten your password?');
    expect(await (await person.byLabel('E-mail')).getAttribute('value')).toBe('ines@perigeelane.test');
    await person.click('Send the link');
    await person.sees('a link is on its way to it');
    let link: string | undefined;
    await person.until(async () => {
      const mails = (await (await fetch(`${ruta.standinsUrl}/mailbox/messages?to=ines%40perigeelane.test`)).json()) as Array<{ text: string }>;
      link = /http\S+\/reset\?token=\S+/.exec(mails.map(({ text }) => text).join('\n'))?.[0];
      return link !== undefined;
    }, 'the mail arrives');
    await person.open(link ?? '');
    await person.type('New password', 'password99');
    await person.click('Keep this password');
    await person.sees('one of the first passwords that are guessed');
    await person.type('New password', 'four owls on a fence');
    await person.click('Keep this password');
    await person.sees('Your password is new');
    await person.click(await person.find('main button'));
    await person.type('E-mail', 'ines@perigeelane.test');
    await person.type('Password', 'four owls on a fence');
    await person.click(await person.find('button[type=submit]'));
    await person.sees('What needs you');
    await person.leave();
  });
});
