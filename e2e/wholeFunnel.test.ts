import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mails, Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import { LEGAL } from '../apps/server/test/support/legal';
import { thing } from '../apps/server/test/support/offers';
import { writeOwnWords } from '../apps/server/test/support/ownWords';
import { selling } from '../apps/server/test/support/products';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { Key, press } from './support/canvas';
import { arriveAsOwner } from './support/owner';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let api: Seller;
let seller: Person;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  await api.changeShop({ legal: { ...LEGAL.legal, terms: 'What you order is yours once it is paid.' } });
  await api.make('/products', selling('First Light', { kind: 'one-time', regular: 13_800 }, { buyAgain: true, kind: 'service' }));
  await thing(api, 'Workbook', 2_400, { kind: 'service' });
  await thing(api, 'Sketching', 7_200, { kind: 'service' });
  await thing(api, 'Moon only', 3_800, { kind: 'service' });
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

const stops = async () => (await api.rows('/funnels'))[0].stops.map(({ name }: { name: string }) => name) as string[];
const detail = async () => api.read(`/funnels/${(await api.rows('/funnels'))[0].id}`);
const stop = (name: string) => seller.find(`.react-flow__node[aria-label="${name}"]`);
/** Chooses from the menu that a plus has opened. */
const choose = async (kind: string) => seller.click(await seller.find(By.xpath(`//*[@role="menuitem"][contains(., "${kind}")]`)));
const plusBetween = (from: string, to: string) => seller.find(`[aria-label="Put a stop between “${from}” and “${to}”"]`);
const inMap = async (words: string) => seller.until(async () => (await seller.text()).includes(words), `the map says ${words}`);

describe('a funnel from nothing', () => {
  it('is drawn on the map with the mouse: a stop on a line, what it sells, a gentler one for a no', async () => {
    await seller.open(`${ruta.studio}/funnels/new`);
    await seller.choose('Product on sale', 'First Light');
    await seller.type('Name of the funnel', 'Ladder');
    await seller.click('Draw the funnel');
    await seller.find('.react-flow__node');
    await seller.click(await plusBetween('Checkout', 'Thank you'));
    await choose('Offer');
    await seller.sees('Where it leads');
    await seller.type('Name', 'Sketching the Sky');
    await stop('Sketching the Sky');
    await seller.click(await seller.find('aside a[href*="/offer/"]'));
    await seller.addProduct('Choose what', 'Sketching');
    await seller.choose('Its own discount', 'Percent');
    await seller.type('Percent off', '25');
    // 72.00 − 25 % = 54.00
    await seller.sees('Buyers pay €54 instead of €72.');
    await seller.click(await seller.find('nav[aria-label="Views of this funnel"] a'));
    await stop('Sketching the Sky');
    const lines = () => seller.findAll('[aria-label="Put a stop between “Sketching the Sky” and “Thank you”"]');
    await seller.until(async () => (await lines()).length === 2, 'a yes and a no lead on');
    const no = await seller.find(By.xpath('//span[contains(., "no thanks")]/following-sibling::button'));
    await seller.click(no);
    await choose('Offer');
    const isOpen = async () => (await (await seller.byLabel('Name')).getAttribute('value')) !== 'Sketching the Sky';
    await seller.until(isOpen, 'the sheet is that of the new stop');
    await seller.type('Name', 'Moon only');
    await stop('Moon only');
    await seller.click(await seller.find('aside a[href*="/offer/"]'));
    await seller.addProduct('Choose what', 'Moon only');
    await seller.sees('Buyers pay €38.');
    await until(async () => (await stops()).join() === 'First Light,Checkout,Sketching the Sky,Moon only,Thank you', 'the server has the map');
    expect(await axeProblems(seller)).toEqual([]);
  });

  it('has a bump whose result stands there while typing, with a warning where many countries forbid it', async () => {
    await seller.click(await seller.find(By.linkText('Checkout')));
    await seller.sees('Which bumps stand beside it?');
    await seller.addProduct('Add a bump', 'Workbook');
    const card = await seller.find('[aria-label="Bump 1"]');
    const field = (label: string) => card.findElement(By.xpath(`.//label[starts-with(normalize-space(.), "${label}")]/following-sibling::*`));
    await (await field('Its own discount')).findElement(By.xpath('.//option[. = "Amount"]')).click();
    await (await field('Amount off')).sendKeys(Key.chord(Key.CONTROL, 'a'), '4');
    await seller.sees('Buyers pay €20 instead of €24.');
    await (await field('Headline')).sendKeys('The workbook, printed');
    await seller.click(await card.findElement(By.xpath('.//label[contains(., "Ticked beforehand")]')));
    await seller.sees('Many countries forbid this');
    await seller.click(await card.findElement(By.xpath('.//label[contains(., "Ticked beforehand")]')));
    await until(async () => {
      const sells = (await detail()).graph.steps.find(({ kind }: { kind: string }) => kind === 'checkout').sells;
      return sells[1]?.words.headline === 'The workbook, printed' && sells[1].discount?.amount === 400 && !sells[1].bump.ticked;
    }, 'the bump is saved');
  });

  it('asks conditions in plain words and says for how many they would have held', async () => {
    const card = await seller.find('[aria-label="Bump 1"]');
    await seller.click(await card.findElement(By.xpath('.//button[contains(., "Ask something")]')));
    await card.findElement(By.css('[aria-label="What is asked"] option[value=country]')).click();
    // Whoever asks a question has answered nothing yet.
    await seller.sees('Something is missing still');
    await card.findElement(By.css('[aria-label="Add a country"] option[value=PT]')).click();
    await seller.sees('Whoever lives in Portugal');
    await seller.sees('Nobody has bought in the last 90 days');
    await seller.click(await card.findElement(By.css('[aria-label^="Remove “Country”"]')));
    await until(
      async () => (await detail()).graph.steps.find(({ kind }: { kind: string }) => kind === 'checkout').sells[1].condition === null,
      'it is open to all again',
    );
  });

  it('is changed, taken back and walked with the keyboard alone', async () => {
    await seller.open(`${ruta.studio}/funnels/${(await detail()).id}/map`);
    await stop('Checkout');
    await seller.driver.executeScript('document.querySelector(\'.react-flow__node[aria-label="First Light"]\').focus()');
    const current = () => seller.driver.executeScript<string>('return document.activeElement.getAttribute("aria-label") ?? ""');
    await press(seller, Key.ARROW_RIGHT);
    await seller.until(async () => (await current()) === 'Checkout', 'the checkout is next');
    await press(seller, Key.ARROW_RIGHT);
    await seller.until(async () => (await current()) === 'Sketching the Sky', 'then the offer');
    await press(seller, Key.ARROW_DOWN);
    await seller.until(async () => (await current()) === 'Moon only', `its no leads down, not to ${await current()}`);
    await press(seller, '+');
    await seller.find('[role=menu]');
    const marked = () =>
      seller.driver.executeScript<string | null>('return document.activeElement.closest("[role=menu]") && document.activeElement.textContent.trim()');
    await seller.until(async () => (await marked()) !== null, 'the keyboard is in the menu');
    for (let down = 0; down < 20 && !(await marked())?.startsWith('Sales'); down++) await press(seller, Key.ARROW_DOWN);
    await press(seller, Key.ENTER);
    await until(async () => (await stops()).includes('Sales page 2'), 'a stop stands behind it');
    await seller.until(async () => (await current()) === 'Sales page 2', 'the keyboard is at the new stop');
    await press(seller, Key.DELETE);
    await seller.sees('Who was led here goes on to “Thank you”.');
    await seller.click('Remove it');
    await until(async () => !(await stops()).includes('Sales page 2'), 'it is gone');
    await seller.until(async () => (await seller.findAll('[role=dialog]')).length === 0, 'the question is closed');
    await press(seller, Key.CONTROL, 'z');
    await until(async () => (await stops()).includes('Sales page 2'), 'it is back');
    await press(seller, Key.CONTROL, 'z');
    await until(async () => !(await stops()).includes('Sales page 2'), 'it was never there');
    await inMap('Moon only');
  });

  it('meets another person on the same map without losing what either did', async () => {
    const { id, revision, graph } = await detail();
    const of = (kind: string) => graph.steps.find((step: { kind: string }) => step.kind === kind) as { id: string };
    const [sales, checkout] = [of('sales'), of('checkout')];
    await seller.click(await stop('Checkout'));
    await seller.sees('Where it leads');
    // Somebody else renames another stop meanwhile.
    await api.make(`/funnels/${id}/map`, { revision, operations: [{ kind: 'changeStep', stepId: sales.id, changes: { name: 'Story' } }] });
    await seller.type('Name', 'Order');
    await until(async () => (await stops()).join().startsWith('Story,Order'), 'both changes are there');
    // And then the very same one.
    const latest = await detail();
    await api.make(`/funnels/${id}/map`, {
      revision: latest.revision,
      operations: [{ kind: 'changeStep', stepId: checkout.id, changes: { name: 'Payment' } }],
    });
    await seller.type('Name', 'Checkout');
    await seller.sees('Somebody else has changed the same thing');
    await seller.click('Use mine');
    await until(async () => (await stops()).join().startsWith('Story,Checkout'), 'mine was chosen');
  });

  it('is saved where it is left at once', async () => {
    await seller.type('Name', 'Pay');
    await seller.click('Catalog');
    await until(async () => (await stops()).join().startsWith('Story,Pay'), 'the name was sent');
    await seller.driver.navigate().back();
    await seller.click(await stop('Pay'));
    await seller.type('Name', 'Checkout');
    await until(async () => (await stops()).join().startsWith('Story,Checkout'), 'it is changed back');
  });

  it('waits in the browser while the server is away, says so wherever one goes, and is sent by itself', async () => {
    await ruta.killServer();
    await seller.type('Name', 'Later');
    await seller.click('Catalog');
    await seller.sees('“Ladder” is not saved yet.');
    await ruta.startServer();
    await until(async () => (await stops()).join().startsWith('Story,Later'), 'the name was sent');
    await seller.until(async () => !(await seller.text()).includes('is not saved yet.'), 'nothing waits');
    await seller.driver.navigate().back();
    await seller.click(await stop('Later'));
    await seller.type('Name', 'Checkout');
    // Reloaded before it is known to have arrived: it is neither lost nor done twice.
    await seller.driver.navigate().refresh();
    await stop('Checkout');
    await until(async () => (await stops()).join().startsWith('Story,Checkout'), 'it is changed back');
    expect(await seller.text()).not.toContain('Somebody else');
  });
});

describe('a buyer', () => {
  let site: string;
  beforeAll(async () => {
    const { id, slug } = await detail();
    await writeOwnWords(api, id);
    await api.make(`/funnels/${id}/publish`, {});
    site = `${ruta.site}/${slug}`;
  });

  /** What the processor has taken for an order, by its own books. */
  const taken = async (email: string): Promise<number[]> => {
    const order = (await api.rows('/orders')).find((row: { email: string }) => row.email === email);
    const { payments } = await api.read(`/orders/${order.id}`);
    const html = await (await fetch(ruta.standinsUrl)).text();
    return payments.map(({ charges }: { charges: Array<{ amount: number; providerChargeId: string }> }) => {
      const [charge] = charges;
      expect(html).toContain(charge?.providerChargeId);
      return charge?.amount;
    });
  };

  const branches: Array<[name: string, size: { width: number; height: number }, bump: boolean, answers: string[], amounts: number[]]> = [
    ['takes all', { width: 1280, height: 800 }, true, ['Yes, add it'], [15_800, 5_400]],
    ['takes the gentler one', { width: 390, height: 844 }, false, ['No thanks', 'Yes, add it'], [13_800, 3_800]],
    ['takes nothing more', { width: 390, height: 844 }, true, ['No thanks', 'No thanks'], [15_800]],
  ];
  it.each(branches)('who %s is charged just that', async (name, size, bump, answers, amounts) => {
    const email = `${name.replaceAll(' ', '-')}@moonmail.test`;
    const buyer = await Person.arrive(size);
    try {
      await buyer.open(`${site}/checkout`);
      await buyer.type('First name', 'Ilse');
      await buyer.type('E-mail', email);
      if (bump) {
        await buyer.click('The workbook, printed');
        await buyer.until(async () => (await (await buyer.find('[data-pay]')).getText()).includes('158.00'), 'the bump is in the total');
        await buyer.click('The workbook, printed');
        await buyer.until(async () => (await (await buyer.find('[data-pay]')).getText()).includes('138.00'), 'unticking takes it off');
        await buyer.click('The workbook, printed');
      }
      await typeCard(buyer, CARDS.approved);
      expect(await axeProblems(buyer)).toEqual([]);
      await pressPay(buyer);
      for (const [index, answer] of answers.entries()) {
        await buyer.sees(index === 0 ? 'Add Sketching' : 'Add Moon only');
        if (index === 0) expect(await axeProblems(buyer)).toEqual([]);
        await buyer.click(answer);
      }
      await buyer.sees('Thank you, Ilse');
      await until(async () => (await taken(email)).join() === amounts.join(), 'the processor has taken just that');
      const total = amounts.reduce((sum, amount) => sum + amount, 0);
      await buyer.sees(`€${(total / 100).toFixed(2)}`);
      await until(async () => (await mails(ruta.standinsUrl, email)).length === 1, 'one receipt arrives');
      expect((await mails(ruta.standinsUrl, email))[0].text).toContain(`Paid: €${(total / 100).toFixed(2)}`);
    } finally {
      await buyer.leave();
    }
  });

  it('is asked in a pop-up on pressing pay, after the contact details, and finds back to an offer by the mailed link', async () => {
    const { id, revision, graph } = await detail();
    const checkout = graph.steps.find(({ kind }: { kind: string }) => kind === 'checkout');
    const [main, bump] = checkout.sells;
    const sells = [main, { ...bump, bump: { ...bump.bump, position: 'pop-up' } }];
    await api.make(`/funnels/${id}/map`, { revision, operations: [{ kind: 'changeStep', stepId: checkout.id, changes: { sells } }] });
    const draft = await api.read(`/steps/${checkout.id}/page`);
    for (const section of draft.page.sections)
      for (const column of section.columns) for (const element of column.elements) if (element.type === 'order-form') element.stages = true;
    await api.make(`/steps/${checkout.id}/page`, { revision: draft.revision, page: draft.page }, 'PUT');
    await api.make(`/funnels/${id}/publish`, {});
    const buyer = await Person.arrive({ width: 390, height: 844 });
    try {
      await buyer.open(`${site}/checkout`);
      expect(await (await buyer.find('[data-pay]')).isDisplayed()).toBe(false);
      await buyer.click('To the payment');
      await buyer.sees('Please fill this in.');
      await buyer.type('First name', 'Ilse');
      await buyer.type('E-mail', 'popped@moonmail.test');
      await buyer.click('To the payment');
      await buyer.until(async () => (await buyer.find('[data-pay]')).isDisplayed(), 'the payment is open');
      await typeCard(buyer, CARDS.approved);
      await pressPay(buyer);
      await buyer.sees('Before you pay');
      expect(await axeProblems(buyer)).toEqual([]);
      await buyer.click('The workbook, printed');
      const pay = await buyer.find('dialog .button-main');
      await buyer.until(async () => (await pay.getText()).includes('158.00'), 'the bump is in the total');
      await buyer.click(pay);
      await buyer.sees('Add Sketching');
      expect(await taken('popped@moonmail.test')).toEqual([15_800]);
      // Left open there: the order's own page, whose address is mailed, leads back, within the seconds that a receipt still waits.
      const token = /order=([\w-]+)/.exec(await buyer.address())?.[1];
      await buyer.open(`${ruta.site}/order/${token}`);
      await buyer.click('Go on where you left off');
      await buyer.sees('Add Sketching');
      // Closing the tab brings the receipt, with no further wait for what may still be added.
      expect(await mails(ruta.standinsUrl, 'popped@moonmail.test')).toEqual([]);
      await buyer.open('about:blank');
      await until(async () => (await mails(ruta.standinsUrl, 'popped@moonmail.test')).length === 1, 'the receipt arrives');
    } finally {
      await buyer.leave();
    }
  });

  it('shows the seller what became of each bump and offer', async () => {
    const figures = await api.figures((await detail()).id);
    expect(figures.offers.map(({ role, shown, taken: took }: { role: string; shown: number; taken: number }) => [role, shown, took]).sort()).toEqual([
      ['bump', 4, 3],
      ['downsell', 2, 1],
      ['upsell', 4, 1],
    ]);
    await seller.open(`${ruta.studio}/funnels/${(await detail()).id}/map`);
    // The step that is looked at says everything, however small the map is.
    await seller.click(await stop('Checkout'));
    await seller.click('Money');
    await seller.sees('took a bump');
    await seller.sees('without bumps and offers');
  });
});
