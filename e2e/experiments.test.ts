import path from 'node:path';
import Database from 'better-sqlite3';
import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { canvasText, clickOnCanvas, editWords, Key, press, saved, type } from './support/canvas';
import { arriveAsOwner } from './support/owner';

const DAY = 24 * 60 * 60 * 1000;
const NEW_WORDS = 'Know the moon tonight';

let ruta: Installation;
let api: Seller;
let seller: Person;
let gift: Awaited<ReturnType<Seller['sellingFunnel']>>;
let straight: Awaited<ReturnType<Seller['sellingFunnel']>>;

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  await api.changeShop({ mode: 'live' });
  gift = await api.sellingFunnel({ gift: true });
  straight = await api.sellingFunnel({ price: 10_000 });
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

/** Somebody new comes to the first page of the funnel, and perhaps leaves an address. @returns what they saw, and where they were led */
async function comes(chance: (html: string) => boolean, email: string): Promise<{ html: string; led: string | null }> {
  const visitor = new Buyer(ruta.site);
  const html = await visitor.visit(`/${gift.slug}`);
  if (!chance(html)) return { html, led: null };
  const form = /action="(\/go\/[^"]+\/form)"/.exec(html)?.[1] ?? '';
  const formId = /name="_form" value="([^"]+)"/.exec(html)?.[1] ?? '';
  const answer = await visitor.form(form, { _form: formId, firstName: 'Ilse', email, consent: 'on' });
  expect(answer.status).toBe(303);
  return { html, led: answer.headers.get('location') };
}
let people = 0;
/** So many come; of those who see the new words `better` of a hundred leave an address, of the others `usual`. */
async function traffic(count: number, usual: number, better: number): Promise<void> {
  const due = { usual: 0, better: 0 };
  for (let index = 0; index < count; index++) {
    await comes((html) => {
      const kind = html.includes(NEW_WORDS) ? 'better' : 'usual';
      due[kind] += kind === 'better' ? better : usual;
      if (due[kind] < 100) return false;
      due[kind] -= 100;
      return true;
    }, `reader${++people}@moonmail.test`);
  }
}

/** Lets days go by for a running test: what happened in it lies further back. */
function daysPass(days: number): void {
  const db = new Database(path.join(ruta.data, 'shop.sqlite'));
  db.pragma('busy_timeout = 5000');
  db.prepare('UPDATE rounds SET started_at = started_at - ?, looked_at = NULL WHERE ended_at IS NULL').run(days * DAY);
  db.close();
}

const isDone = (state: string) => seller.until(async () => (await seller.findAll(`[data-verdict="${state}"]`)).length > 0, `the verdict is ${state}`);

describe('a test on a headline', () => {
  it('is begun from the headline itself in two clicks, and typed where the funnel is edited', async () => {
    await traffic(20, 20, 20);
    await seller.open(`${ruta.studio}/funnels/${gift.id}/page/${gift.entry}`);
    await clickOnCanvas(seller, 'h1');
    await seller.click('Try another headline');
    await seller.sees('Arm “B” of “Headline of');
    await seller.sees('Nothing differs from the original yet');
    await seller.until(async () => (await canvasText(seller)) !== '', 'the arm’s page is open');
    await editWords(seller, 'h1');
    await press(seller, Key.CONTROL, 'a');
    await type(seller, NEW_WORDS);
    await saved(seller);
    await seller.sees('One thing differs');
    // The funnel’s own page is as it was.
    expect(JSON.stringify((await api.read(`/steps/${gift.entry}/page`)).page)).not.toContain(NEW_WORDS);
    await seller.driver.navigate().refresh();
    await seller.until(async () => (await canvasText(seller)).includes(NEW_WORDS), 'it is there again after a reload');
    expect(await axeProblems(seller)).toEqual([]);
  });

  it('says before the start what it takes, and shares that do not add up', async () => {
    await seller.click('Back to the test');
    await seller.sees('What it takes');
    await seller.sees('became “Know the moon tonight”');
    await seller.type('Difference hoped for', '200');
    await seller.driver.navigate().refresh();
    await seller.until(
      async () => (await (await seller.byLabel('Difference hoped for')).getAttribute('value')) === '200',
      'what was typed is there after a reload',
    );
    await seller.type('Share in %', '60');
    await seller.sees('110 % in all');
    await seller.click(await seller.byWords('Save', 'button[@type="submit"]'));
    await seller.sees('The shares come to 110 %. Together they have to be 100 %.');
    await seller.click('Even shares');
    await seller.click(await seller.byWords('Save', 'button[@type="submit"]'));
    await seller.until(async () => (await seller.findAll('[data-plan]')).length > 0, 'the plan is made');
    await seller.sees('Nothing speaks against it.');
    expect(await axeProblems(seller)).toEqual([]);
  });

  it('shows each visitor one arm at one address, and reads true while it runs', async () => {
    await seller.click('Start the test');
    await seller.click('Start it');
    await seller.sees('Nothing is proved yet.');
    const same = new Buyer(ruta.site);
    const first = await same.visit(`/${gift.slug}`);
    for (let again = 0; again < 3; again++) expect((await same.visit(`/${gift.slug}`)).includes(NEW_WORDS)).toBe(first.includes(NEW_WORDS));
    await traffic(240, 10, 55);
    await seller.driver.navigate().refresh();
    await isDone('winner');
    await seller.sees('“B” is better, and that is proved.');
    // Proved on its first day, it goes on all the same: a week has seven days.
    await seller.sees('Running');
    const counted = await seller.driver.executeScript<string[]>(
      'return [...document.querySelectorAll("[data-arm-row] td:first-of-type")].map((cell) => cell.firstChild.textContent)',
    );
    expect(counted.reduce((sum, each) => sum + Number(each), 0)).toBe(241);
    // What is under test says so where it is edited.
    await seller.open(`${ruta.studio}/funnels/${gift.id}/page/${gift.entry}`);
    await seller.sees('What you change and publish begins it anew, from zero.');
    await seller.open(ruta.studio);
    await seller.sees('can be decided');
  });

  it('puts the winner in place by itself, at the same address', async () => {
    daysPass(8);
    await seller.until(async () => (await api.read('/experiments'))[0].state === 'ended', 'the test has ended by itself');
    await seller.open(`${ruta.studio}/experiments`);
    await seller.sees('A winner');
    await seller.click('Headline of');
    await seller.sees('“B” earned it, and has taken the place of the original.');
    await seller.type('In your own words', 'Say what they see tonight');
    await seller.click('Keep it');
    await seller.sees('Saved');
    for (let index = 0; index < 6; index++) expect((await comes(() => false, '')).html).toContain(NEW_WORDS);
    const person = await Person.arrive({ width: 390, height: 800 });
    await person.open(`${ruta.site}/${gift.slug}`);
    await person.sees(NEW_WORDS);
    await person.leave();
    await seller.open(`${ruta.studio}/funnels/${gift.id}/page/${gift.entry}`);
    await seller.until(async () => (await canvasText(seller)).includes(NEW_WORDS), 'the draft has it too');
    await seller.sees('All published');
    // It is found again by what was learned.
    await seller.open(`${ruta.studio}/experiments?search=see%20tonight`);
    await seller.sees('Learned: Say what they see tonight');
  });
});

describe('a test on a price', () => {
  /** Somebody reads the page and buys. Whatever they pay is what every page showed them. @returns what they paid, minor units */
  async function buys(email: string): Promise<number> {
    const buyer = new Buyer(ruta.site);
    const seen = [await buyer.visit(`/${straight.slug}`), await buyer.openCheckout(`/${straight.slug}/checkout`)];
    const prices = seen.map((html) =>
      [...new Set(html.match(/€1\d\d\b|"price":"1\d\d\.00"/g) ?? [])].map((price) => Number(price.replace(/\D/g, '').slice(0, 3))),
    );
    const { status } = await buyer.pay(straight.checkout, ruta.standinsUrl, CARD.good, { email });
    expect(status).toBe(200);
    const { total } = await api.orderOf(email);
    for (const shown of prices) expect([...new Set(shown)]).toEqual([total / 100]);
    return total;
  }

  it('charges each buyer what their arm shows, until one price is put in place', async () => {
    expect(await buys('before@moonmail.test')).toBe(10_000);
    await seller.open(`${ruta.studio}/experiments`);
    await seller.click('Plan a test');
    await seller.choose('Funnel', 'Straight');
    await seller.choose('At the stop', 'Checkout');
    await seller.type('What is tried', 'A dearer price');
    await seller.click('Plan this test');
    await seller.sees('B is the same as the original. Open it and change what is to be tried.');
    await seller.click(await seller.find(By.css('[data-arm="B"] a[href*="/offer/"]')));
    await seller.sees('Arm “B” of “A dearer price”');
    await seller.click('A price of its own');
    await seller.sees('Only visitors of this variant see and pay it.');
    await seller.type('Price in EUR', '119');
    await seller.sees('Also shown on “');
    await saved(seller);
    await seller.click('Back to the test');
    await seller.sees('sold at €119');
    await seller.choose('What it wants more of', 'Visitors who buy');
    await seller.click(await seller.byWords('Save', 'button[@type="submit"]'));
    await seller.sees('Saved');
    // Whoever came has bought: there is nothing to be gained, and the test says so.
    await seller.sees('Everybody reaches this goal already');
    for (let index = 0; index < 3; index++) await new Buyer(ruta.site).visit(`/${straight.slug}/checkout`);
    await seller.driver.navigate().refresh();
    await seller.click('Start the test');
    await seller.click('Start it');
    await seller.sees('Nothing is proved yet.');
    const paid = [];
    for (let index = 0; index < 12; index++) paid.push(await buys(`buyer${index}@moonmail.test`));
    expect(new Set(paid)).toEqual(new Set([10_000, 11_900]));
    await seller.driver.navigate().refresh();
    await seller.sees('12 of about');
    await seller.click('End the test');
    await seller.click(await seller.byWords('B', 'label[.//input[@type="radio"]]'));
    await seller.sees('Nothing is proved of this arm.');
    await seller.click('End it');
    await seller.sees('Ended by hand: “B” was put in place.');
    for (let index = 0; index < 3; index++) expect(await buys(`after${index}@moonmail.test`)).toBe(11_900);
  });
});

describe('a test on a branch', () => {
  it('leads each arm its own way from the same page', async () => {
    await seller.open(`${ruta.studio}/experiments`);
    await seller.click('Plan a test');
    await seller.choose('Funnel', 'Gift first');
    await seller.type('What is tried', 'Only the gift');
    await seller.click('Plan this test');
    await seller.click(await seller.find(By.css('[data-arm="B"] a[href*="/map/"]')));
    await seller.sees('Arm “B” of “Only the gift”');
    const select = await seller.find('[data-outcome="submitted"] select');
    await select.findElement(By.xpath('.//option[normalize-space(.)="Thank you"]')).click();
    await saved(seller);
    await seller.sees('One thing differs');
    await seller.click('Back to the test');
    await seller.sees('form sent → “Thank you” instead of “Checkout”');
    await seller.click('Start the test');
    await seller.click('Start it');
    await seller.sees('Nothing is proved yet.');
    const led = [];
    for (let index = 0; index < 12; index++) led.push((await comes(() => true, `branch${index}@moonmail.test`)).led?.split('?')[0]);
    expect(new Set(led).size).toBe(2);
    expect(led).toContain(`/${gift.slug}/checkout`);
    expect(led).toContain(`/${gift.slug}/thank-you`);
    // On the map the line that is led elsewhere is a double one.
    await seller.open(`${ruta.studio}/funnels/${gift.id}/map`);
    await seller.until(async () => (await seller.findAll('.react-flow__edge path[style*="rgb(106, 75, 163)"]')).length > 0, 'the line under test is marked');
    // A change of what is under test is published: a new round, and the old one stays readable.
    const { page, revision } = await api.read(`/steps/${gift.entry}/page`);
    await api.make(`/steps/${gift.entry}/page`, { revision, page: { ...page, title: 'Another title' } }, 'PUT');
    await seller.open(`${ruta.studio}/funnels/${gift.id}/page/${gift.entry}`);
    await seller.click('Publish 1 change');
    await seller.sees('Publishing begins it anew');
    await seller.click(await seller.byWords('Publish 1 change', '*[@role="dialog"]//button'));
    await seller.sees('Published. It is live now.');
    await seller.open(`${ruta.studio}/experiments`);
    await seller.click('Only the gift');
    await seller.sees('Round 2');
    await seller.sees('Round 1, until');
  });
});
