import { words } from '@ruta/core/elements';
import { buildSection, headlinePart, one, part } from '@ruta/core/sections';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation, until } from '../apps/server/test/support/installation';
import { OfferFunnel } from '../apps/server/test/support/offers';
import { newId } from '../apps/server/test/support/products';
import type { Person } from './support/browser';
import { canvasText, clickOnCanvas, Key, press, saved, type } from './support/canvas';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
let api: Seller;
let seller: Person;
let stepId: string;
let funnelId: string;

const questions = ['When does it begin?', 'What do I need?', 'Can I return it?'].map((question, index) => ({
  question,
  answer: words(`Answer number ${index + 1}.`),
}));
const sayings = ['One.', 'Two.', 'Three.', 'Four.'].map((text) => ({ words: words(text), name: 'Łucja', detail: '' }));

beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  const funnel = await OfferFunnel.draw(api);
  funnelId = funnel.id;
  stepId = funnel.step('sales').id;
  const { page, revision } = await api.read(`/steps/${stepId}/page`);
  const section = (name: string, ...parts: ReturnType<typeof part>[]) => buildSection({ name, columns: one(...parts) }, newId);
  const sections = [
    section('Short', headlinePart(1, 'large', words('Short'))),
    section('Between', part('spacer', {}), part('spacer', {}), part('divider')),
    section('Leafed through', part('testimonials', { arrangement: 'carousel', items: sayings })),
    section('Asked often', part('faq', { items: questions })),
  ];
  await api.make(`/steps/${stepId}/page`, { revision, page: { ...page, sections: [...sections.slice(0, 1), ...page.sections, ...sections.slice(1)] } }, 'PUT');
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

async function open(): Promise<void> {
  await seller.open(`${ruta.studio}/funnels/${funnelId}/page/${stepId}`);
  await seller.until(async () => (await canvasText(seller)).includes('When does it begin?'), 'the page is open');
}
const onCanvas = <T>(script: string): Promise<T> =>
  seller.driver.executeScript<T>(`const page = document.querySelector('iframe[title="The page being edited"]').contentDocument; return ${script};`);
const stored = async () => JSON.stringify((await api.read(`/steps/${stepId}/page`)).page);
/** Whether a part of the page is within what is seen of it. */
const isInSight = (css: string) =>
  seller.driver.executeScript<boolean>(
    `const frame = document.querySelector('iframe[title="The page being edited"]');
     const room = frame.closest('.overflow-y-auto').getBoundingClientRect();
     const scale = frame.getBoundingClientRect().width / frame.offsetWidth;
     const box = frame.contentDocument.querySelector(arguments[0]).getBoundingClientRect();
     const top = frame.getBoundingClientRect().top + box.top * scale;
     return top < room.bottom && top + box.height * scale > room.top;`,
    css,
  );

describe('the canvas', () => {
  it('opens what a page folds away by a click, and its words stand in the sheet as well', async () => {
    await open();
    await clickOnCanvas(seller, '.faq details:nth-child(3) summary');
    await seller.until(() => onCanvas<boolean>(`page.querySelector('.faq details:nth-child(3)').open`), 'the third answer is open');
    await clickOnCanvas(seller, '.faq details:nth-child(3) .words');
    await type(seller, ' Always');
    await saved(seller);
    expect(await stored()).toContain('Always');
    await seller.type('Answer 2', 'A dark sky,\nand time.');
    await seller.until(
      async () => (await onCanvas<string>(`page.querySelector('.faq:has(:nth-child(3)) details:nth-child(2)').textContent`)).includes('A dark sky,'),
      'it stands on the page',
    );
    await saved(seller);
    expect(await stored()).toContain('"A dark sky,"},{"type":"break"},{"type":"text","text":"and time."');
    // Sayings that are leafed through come by the arrows, and can be typed in the sheet.
    const before = await onCanvas<number>(`page.querySelector('.sayings-carousel').scrollLeft`);
    await clickOnCanvas(seller, '[data-turn="1"]');
    await seller.until(async () => (await onCanvas<number>(`page.querySelector('.sayings-carousel').scrollLeft`)) > before, 'the next ones are there');
    await seller.sees('What they said');
  });

  it('puts the caret where it is clicked, also beside the words in their box', async () => {
    await open();
    const place = await onCanvas<{ x: number; y: number }>(
      `(() => {
        const frame = document.querySelector('iframe[title="The page being edited"]');
        frame.closest('.overflow-y-auto').scrollTop = 0;
        const scale = frame.getBoundingClientRect().width / frame.offsetWidth;
        const box = page.querySelector('h1').getBoundingClientRect();
        const text = page.querySelector('h1 .words').getBoundingClientRect();
        const { left, top } = frame.getBoundingClientRect();
        return { x: Math.round(left + (text.right + Math.min(120, (box.right - text.right) / 2)) * scale), y: Math.round(top + (box.top + box.height / 2) * scale) };
      })()`,
    );
    await seller.driver
      .actions()
      .move({ ...place, duration: 0 })
      .click()
      .perform();
    await seller.until(() => onCanvas<boolean>('page.activeElement?.isContentEditable === true'), 'the words are open');
    await type(seller, 'er nights');
    await until(async () => (await stored()).includes('"Shorter nights"'), 'it stands behind what was there');
  });

  it('takes a single key for a shortcut only where nothing is selected for typing, and not at all if it is told so', async () => {
    await open();
    await clickOnCanvas(seller, 'h1 .words');
    await press(seller, Key.ESCAPE);
    const here = await seller.address();
    await press(seller, 'm');
    await press(seller, ']');
    // The headline is still selected: what is pressed may be meant for it.
    expect(await seller.address()).toBe(here);
    await press(seller, Key.ESCAPE);
    await press(seller, 'm');
    await seller.find('.react-flow__node');
    await press(seller, '?');
    await seller.click('Shortcuts with a single key');
    await press(seller, Key.ESCAPE);
    await seller.until(async () => (await seller.findAll('[role=dialog]')).length === 0, 'the dialog closes');
    const map = await seller.address();
    await press(seller, 'p');
    await press(seller, '/');
    expect(await seller.address()).toBe(map);
    expect(await seller.findAll('[role=dialog]')).toHaveLength(0);
    await seller.open(`${ruta.studio}/settings/account`);
    await seller.click('Shortcuts with a single key');
    await seller.open(map);
    await seller.find('.react-flow__node');
    await press(seller, 'p');
    await seller.until(async () => (await seller.address()).includes('/page/'), 'the page is open');
  });

  it('brings what is chosen in the outline into view, and what is added', async () => {
    await open();
    const last = await seller.driver.executeScript<string>(
      `return [...document.querySelectorAll('[data-outline^=sec]')].find((row) => row.textContent.includes('Asked often')).dataset.outline`,
    );
    expect(await isInSight(`[data-section="${last}"]`)).toBe(false);
    await seller.click(await seller.find(`[data-outline="${last}"]`));
    await seller.until(() => isInSight(`[data-section="${last}"]`), 'the section is in view');
    await seller.click(await seller.byWords('Short', 'button[@data-outline]'));
    await seller.until(async () => !(await isInSight(`[data-section="${last}"]`)), 'the first one is in view again');
    await seller.click(await seller.find('[aria-label="Add to this page"]'));
    await seller.click('Section, from the library');
    await seller.click(await seller.find('[data-library]'));
    const added = () => onCanvas<string | null>(`page.querySelector('.edit-section[data-selected]')?.dataset.section ?? null`);
    await seller.until(async () => (await added()) !== null && (await isInSight(`[data-section="${await added()}"]`)), 'what was added is in view');
  });
});
