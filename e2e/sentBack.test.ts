import { By } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { CARDS, pressPay, typeCard } from './support/pay';

const PHONE = { width: 390, height: 800 };
let ruta: Installation;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  const seller = await Seller.ofNewShop(ruta.studio);
  await seller.changeShop({ sellsToBusinesses: true });
  funnel = await seller.sellingFunnel({ gift: true });
});
afterAll(() => ruta.stop());

/** What has the keyboard: its name or data, and whether the whole of it is on the screen. */
const focused = (person: Person) =>
  person.driver.executeScript<{ what: string; isSeen: boolean }>(`
    const { activeElement: at } = document;
    const { top, bottom } = at.getBoundingClientRect();
    return { what: at.name || at.tagName, isSeen: top >= 0 && bottom <= innerHeight };
  `);

describe('a page that is sent back', () => {
  it('opens at the field that was refused, with the keyboard in it, also without script and on a phone', async () => {
    const reader = await Person.arrive({ ...PHONE, script: false });
    try {
      await reader.open(`${ruta.site}/${funnel.slug}`);
      for (const field of await reader.findAll('form[data-form] [data-field] input[required]')) await field.sendKeys('Vera');
      const email = await reader.find('form[data-form] input[name=email]');
      await email.clear();
      // A browser takes it for an address.
      await email.sendKeys('vera@moonmail');
      await reader.click(await reader.find('form[data-form] button[type=submit]'));
      await reader.until(async () => (await reader.findAll('[aria-invalid]')).length > 0, 'it is sent back');
      const wrong = await reader.driver.switchTo().activeElement();
      expect(await wrong.getAttribute('name')).toBe('email');
      expect(await wrong.getAttribute('value')).toBe('vera@moonmail');
      // What cannot be paid so is said at the head of the order form.
      await reader.open(`${ruta.site}/${funnel.slug}/checkout`);
      const head = await reader.driver.findElement(By.css('#order-form noscript'));
      expect(await head.getText()).toContain('Paying by card needs JavaScript');
    } finally {
      await reader.leave();
    }
  });

  it('says at the card that it was declined, with the card in view and the keyboard in it; the total follows as one types', async () => {
    const buyer = await Person.arrive(PHONE);
    try {
      await buyer.open(`${ruta.site}/${funnel.slug}/checkout`);
      await buyer.type('E-mail', 'vera@moonmail.test');
      await buyer.type('First name', 'Vera');
      // A business from elsewhere in the union pays no tax: without leaving the field.
      await buyer.choose('Country', 'Netherlands');
      const total = async () => (await buyer.find('.order-peek [data-total]')).getText();
      const before = await total();
      await (await buyer.find('input[name=taxNumber]')).sendKeys('NL123456782B12');
      await buyer.until(async () => (await total()) !== before, 'the total follows what is typed');
      expect(await buyer.driver.executeScript('return document.activeElement.name')).toBe('taxNumber');
      await typeCard(buyer, CARDS.noFunds);
      await pressPay(buyer);
      await buyer.until(async () => (await (await buyer.find('#card-error')).getText()) !== '', 'the card is declined');
      await buyer.until(async () => (await focused(buyer)).what === 'IFRAME', 'the keyboard is in the card');
      expect((await focused(buyer)).isSeen).toBe(true);
      expect(await (await buyer.find('[data-message]')).isDisplayed()).toBe(false);
      expect(await axeProblems(buyer)).toEqual([]);
      // While the processor takes its time, that is said at once.
      await typeCard(buyer, CARDS.approved);
      await buyer.driver.executeScript(`
        window.waited = [];
        new MutationObserver(() => window.waited.push(document.querySelector('[data-wait]').textContent)).observe(document.querySelector('[data-wait]'), { childList: true });
        addEventListener('pagehide', () => sessionStorage.setItem('waited', window.waited.join('|')));
      `);
      await pressPay(buyer);
      await buyer.until(async () => !(await buyer.address()).includes('/checkout'), 'it is paid');
      expect(await buyer.driver.executeScript('return sessionStorage.getItem("waited")')).toContain('Your payment is being processed.');
    } finally {
      await buyer.leave();
    }
  });
});
