import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import { OfferFunnel, offerOf, thing } from '../apps/server/test/support/offers';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { canvasText, editWords, Key, press, saved, type } from './support/canvas';
import { arriveAsOwner } from './support/owner';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let api: Seller;
let seller: Person;
let funnel: OfferFunnel;
const folder = mkdtempSync(path.join(tmpdir(), 'ruta-parts-'));

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  funnel = await OfferFunnel.draw(api);
  const [book, sketching] = [await thing(api, 'Workbook', 2_400), await thing(api, 'Sketching', 7_200)];
  await funnel.bumps(offerOf(book.id, { place: 'bump', words: { headline: 'The workbook' }, bump: { picture: null } }));
  await funnel.offerAfter(funnel.step('checkout').id, 'paid', 'Sketching', [
    offerOf(sketching.id, { deadline: { until: { kind: 'minutes', minutes: 15 }, afterwards: 'gone' } }),
  ]);
  await funnel.publish();
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
  rmSync(folder, { recursive: true });
});

async function at(kind: string, view: 'page' | 'offer'): Promise<void> {
  await seller.open(`${ruta.studio}/funnels/${funnel.id}/${view}/${funnel.step(kind).id}`);
}
const sheet = (label: string) => seller.find(By.xpath(`//*[@aria-label="Who sees this part of the page?"]//*[@aria-label="${label}"]`));

describe('a page by what is known', () => {
  it('has another version of a part for everybody else, and is looked at as one buyer sees it', async () => {
    await at('sales', 'page');
    await seller.until(async () => (await canvasText(seller)).includes('First Light'), 'the page is open');
    await seller.click(await seller.byWords('Headline', 'button[@data-outline]'));
    await seller.click('Ask something');
    await (await sheet('What is asked')).findElement(By.css('option[value=returning]')).click();
    await seller.sees('Whoever has been here before');
    await seller.click('Version for everybody else');
    await editWords(seller, '.edit-element[data-selected] .words');
    await press(seller, Key.CONTROL, 'a');
    await type(seller, 'New to the sky');
    await press(seller, Key.ESCAPE);
    await saved(seller);
    const both = await canvasText(seller);
    expect(both).toContain('New to the sky');
    await seller.click('All versions');
    await seller.choose('Has been here before', 'yes');
    await seller.until(async () => !(await canvasText(seller)).includes('New to the sky'), 'who was here before sees the first version');
    await seller.choose('Has been here before', 'no');
    await seller.until(async () => (await canvasText(seller)).includes('New to the sky'), 'who was not sees the other');
    expect(await axeProblems(seller)).toEqual([]);
    await seller.click('Show all versions again');
    await funnel.publish();
    // Who has never been here gets the one without a trace of the other; who comes again gets the first.
    const visitor = await Person.arrive();
    try {
      await visitor.open(`${ruta.site}/${funnel.slug}`);
      expect(await (await visitor.find('h1')).getText()).toBe('New to the sky');
      expect((await visitor.driver.getPageSource()).match(/<h1/g)).toHaveLength(1);
    } finally {
      await visitor.leave();
    }
  });

  it('counts down to the very deadline that the server keeps', async () => {
    const offer = funnel.graph.steps.find((step: { name: string }) => step.name === 'Sketching');
    // Where the deadline is set, its countdown is offered for the page that it is for.
    await seller.open(`${ruta.studio}/funnels/${funnel.id}/offer/${offer.id}`);
    await seller.sees('The page doesn’t show this deadline yet.');
    await seller.click('Add a countdown');
    await seller.sees('The page counts down to it.');
    await seller.click('Change the countdown');
    await seller.until(async () => (await canvasText(seller)).includes('This offer stands for'), 'the countdown is on the page');
    await funnel.publish();
    const buyer = await Person.arrive({ width: 390, height: 844 });
    try {
      await buyer.open(`${ruta.site}/${funnel.slug}/checkout`);
      await buyer.type('First name', 'Ilse');
      await buyer.type('E-mail', 'clock@moonmail.test');
      await typeCard(buyer, CARDS.approved);
      await pressPay(buyer);
      const clock = async () => (await buyer.find('.countdown-clock')).getText();
      await buyer.until(async () => /^14:5\d$/.test(await clock()), 'nearly a quarter of an hour is left');
      const before = await clock();
      await buyer.until(async () => (await clock()) < before, 'it runs');
      await buyer.driver.navigate().refresh();
      await buyer.until(async () => /^14:\d\d$/.test(await clock()), 'it does not begin anew');
      expect((await clock()) < before).toBe(true);
      expect(await axeProblems(buyer)).toEqual([]);
    } finally {
      await buyer.leave();
    }
  });
});

describe('what a checkout consists of', () => {
  it('is put in order where its offers are set, and a bump gets a picture of its own', async () => {
    await at('checkout', 'offer');
    await seller.sees('Order of its parts');
    await seller.click(await seller.find('[aria-label="Discount code: up"]'));
    await seller.click(await seller.find('[aria-label="Discount code: up"]:not(:disabled)'));
    const stepId = funnel.step('checkout').id;
    const form = async () => {
      const { page } = await api.read(`/steps/${stepId}/page`);
      return JSON.stringify(page);
    };
    await until(async () => (await form()).includes('"parts":["code","choice","contact","payment"]'), 'the order is saved');
    const file = path.join(folder, 'book.png');
    await sharp({ create: { width: 600, height: 400, channels: 3, background: '#7a4b2a' } })
      .png()
      .toFile(file);
    await seller.choose('Picture', 'Its own');
    await (await seller.find('[aria-label="Bump 1"] input[type=file]')).sendKeys(file);
    await until(async () => {
      const { graph } = await api.read(`/funnels/${funnel.id}`);
      return graph.steps.some((step: { sells: Array<{ bump: { picture: { kind: string } | null } }> }) =>
        step.sells.some(({ bump }) => bump.picture?.kind === 'file'),
      );
    }, 'the bump has its picture');
    expect(await axeProblems(seller)).toEqual([]);
    await funnel.publish();
    const html = await (await fetch(`${ruta.site}/${funnel.slug}/checkout`)).text();
    expect(html).toMatch(/<img[^>]*class="bump-picture"/);
    expect(html.indexOf('Have a discount code?')).toBeLessThan(html.indexOf('name="email"'));
  });
});
