import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import type { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
let api: Seller;
let seller: Person;
let entry: string;
const folder = mkdtempSync(path.join(tmpdir(), 'ruta-uploads-'));

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  const funnel = await api.sellingFunnel();
  entry = funnel.entry;
  seller = await arriveAsOwner(ruta.studio);
  await seller.open(`${ruta.studio}/funnels/${funnel.id}/page/${entry}`);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
  rmSync(folder, { recursive: true, force: true });
});

const file = (name: string, content: string | Buffer): string => {
  const full = path.join(folder, name);
  writeFileSync(full, content);
  return full;
};
/** Hands a file to the chooser of the picture that a shared link shows. */
async function choose(full: string): Promise<void> {
  const input = await seller.find('[data-sheet] input[type=file]:not(:disabled)');
  await input.sendKeys(full);
}
const shareImage = async (): Promise<string | null> => (await api.read(`/steps/${entry}/page`)).page.shareImageId ?? null;

describe('a picture', () => {
  it('of forty megapixels is drawn smaller in a worker before it is sent, and says how far it is', async () => {
    const [width, height] = [8000, 5000];
    const grain = await sharp({ create: { width: 2000, height: 1250, channels: 3, background: '#20304a', noise: { type: 'gaussian', mean: 120, sigma: 30 } } })
      .png()
      .toBuffer();
    const large = await sharp(grain).resize({ width, height, kernel: 'nearest' }).jpeg({ quality: 70 }).toBuffer();
    expect(large.length).toBeGreaterThan(3 * 1024 * 1024);
    await seller.driver.executeScript(
      `window.said = []; window.workers = 0;
       const button = document.querySelector('[data-sheet] input[type=file]').closest('label');
       new MutationObserver(() => window.said.push(button.textContent)).observe(button, { subtree: true, childList: true, characterData: true });
       window.Worker = class extends Worker { constructor(...given) { super(...given); window.workers++; } };`,
    );
    await choose(file('large.jpg', large));
    await until(async () => (await shareImage()) !== null, 'it is kept');
    const { pictures } = await api.read(`/steps/${entry}/page`);
    expect(pictures[(await shareImage()) as string]).toMatchObject({ width: 3200, height: 2000 });
    const said = await seller.driver.executeScript<string[]>('return window.said');
    expect(said.some((words) => words.startsWith('Reading'))).toBe(true);
    expect(said.some((words) => /^(Uploading, \d+ %|Preparing)/.test(words))).toBe(true);
    expect(await seller.driver.executeScript<number>('return window.workers')).toBe(1);
  });
  it('that is broken, none, or could carry script is refused in words, and the one before stays', async () => {
    const before = await shareImage();
    const whole = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#fff', noise: { type: 'gaussian', mean: 128, sigma: 40 } } })
      .png()
      .toBuffer();
    for (const [name, content, words] of [
      ['half.png', whole.subarray(0, whole.length / 2), 'damaged'],
      ['words.png', 'not a picture', 'This is not a picture we can read'],
      ['drawn.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script>window.evil = 1</script></svg>', 'This is not a picture we can read'],
    ] as const) {
      await choose(file(name, content as string));
      await seller.until(async () => (await (await seller.find('[data-sheet] [role=alert]')).getText()).includes(words), `${name}: ${words}`);
    }
    expect(await shareImage()).toBe(before);
  });
});

describe('a large file of products', () => {
  const MANY = 12_000;
  const lines = Array.from({ length: MANY }, (_, index) => `Product ${index},"<p>Words, ${'and more of them '.repeat(30)}</p>",one-time,${5 + (index % 90)}`);
  const many = () => file('many.csv', `name,description,price_kind,regular\n${lines.join('\n')}\n`);
  const choose = async (full: string) => (await seller.find('[role=dialog] input[type=file]:not(:disabled)')).sendKeys(full);
  const isUnderWay = async () => (await seller.findAll('[role=dialog] progress')).length > 0;

  it('says how far it is, stops when asked, and comes in whole', async () => {
    await seller.open(`${ruta.studio}/catalog`);
    await seller.click('Files');
    await seller.click('Import CSV or JSON');
    await choose(file('wrong.csv', `name,price_kind,regular\n${Array.from({ length: 900 }, (_, index) => `P${index},one-time,x`).join('\n')}`));
    await seller.sees('At least 500 places do not fit. Nothing is imported until all do.');

    await choose(many());
    await seller.until(isUnderWay, 'it says how far it is');
    await seller.click('Stop');
    await seller.sees('Stopped. Nothing was changed.');

    await choose(many());
    await seller.sees('12,000 would be added');
    await seller.click('Import 12,000 products');
    await seller.until(isUnderWay, 'it is brought in');
    expect(await seller.findAll('[role=dialog] [aria-label=Close]')).toEqual([]);
    await seller.sees('Done: 12,000 added, 0 changed.');
    expect((await api.read('/products/count')).count).toBeGreaterThan(MANY);
  });

  it('is looked at no further once its screen is left', async () => {
    await seller.open(`${ruta.studio}/catalog`);
    await seller.click('Files');
    await seller.click('Import CSV or JSON');
    await seller.driver.executeScript(
      `window.asked = []; const ask = window.fetch;
       window.fetch = (given, ...rest) => { window.asked.push(given.method + ' ' + new URL(given.url).pathname); return ask(given, ...rest); };`,
    );
    await choose(many());
    await seller.until(isUnderWay, 'it says how far it is');
    await seller.click(await seller.find('[role=dialog] [aria-label=Close]'));
    await seller.until(
      async () => (await seller.driver.executeScript<string[]>('return window.asked')).some((each) => /^DELETE \/api\/tasks\/tsk_/.test(each)),
      'the server is told',
    );
  });
});

describe('a form that is saved while its picture is on its way', () => {
  const picture = async (name: string) =>
    file(
      name,
      await sharp({ create: { width: 300, height: 200, channels: 3, background: '#345' } })
        .png()
        .toBuffer(),
    );
  /** Holds every upload until it is let go. */
  const hold = () =>
    seller.driver.executeScript(
      `window.held = []; const send = (window.sending ??= XMLHttpRequest.prototype.send);
       XMLHttpRequest.prototype.send = function (...given) { window.held.push(() => send.apply(this, given)); };`,
    );
  const letGo = () => seller.driver.executeScript('for (const go of window.held.splice(0)) go();');
  const isHeld = () => seller.driver.executeScript<boolean>('return window.held.length > 0');

  it('waits for it, and keeps both', async () => {
    await seller.open(`${ruta.studio}/catalog/new`);
    await seller.type('Public name', 'Night postcard');
    await hold();
    await (await seller.find('section input[type=file][accept="image/*"]')).sendKeys(await picture('night.png'));
    await seller.until(isHeld, 'the picture is on its way');
    await seller.type('Amount', '4.00');
    await seller.click('Add the product');
    await seller.sees('Will be saved once the upload is complete');
    expect(await seller.driver.getCurrentUrl()).toContain('/catalog/new');
    await letGo();
    await seller.sees('is in your catalog');
    const id = (await seller.driver.getCurrentUrl()).split('/').at(-1);
    expect(await api.read(`/products/${id}`)).toMatchObject({ name: 'Night postcard', pictureIds: [expect.any(String)] });
  });

  it('says so where it cannot be had, saves nothing, and asks before it is left', async () => {
    await hold();
    await (await seller.find('section input[type=file][accept="image/*"]')).sendKeys(file('words.png', 'not a picture'));
    await seller.until(isHeld, 'it is on its way');
    await seller.click(await seller.byWords('Funnels'));
    await seller.sees('Leave before the upload is complete?');
    await seller.click('Stay here');
    await seller.click('Save');
    await letGo();
    await seller.sees('A file could not be uploaded, so nothing was saved.');
    await seller.sees('This is not a picture we can read');
    await seller.click('Save');
    await seller.sees('Saved ');
  });
});
