// `npm run pictures`: takes the pictures of docs/screenshots/ anew from the sample shop.
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { Installation } from '../apps/server/test/support/installation';
import { Person } from './support/browser';
import { editWords, Key, press } from './support/canvas';
import { CARDS, pressPay, typeCard } from './support/pay';

const folder = path.resolve(import.meta.dirname, '../docs/screenshots');
const ruta = await Installation.start({ demo: true });

/** Waits until pictures and typefaces are there, then takes the picture. */
async function take(person: Person, name: string): Promise<void> {
  await person.driver.executeAsyncScript(
    `const done = arguments[0];
     const documents = [document, ...[...document.querySelectorAll('iframe')].flatMap((frame) => { try { return frame.contentDocument ?? []; } catch { return []; } })];
     const ready = documents.flatMap((each) => [each.fonts.ready, ...[...each.images].filter((image) => !image.complete).map((image) => new Promise((resolve) => { image.onload = image.onerror = resolve; }))]);
     Promise.all(ready).then(() => setTimeout(done, 250));`,
  );
  writeFileSync(path.join(folder, `${name}.png`), await person.picture());
}

try {
  const buyer = await Person.arrive();
  await buyer.open(`${ruta.site}/moon-month?utm_source=letter&utm_campaign=weekly-letter`);
  await take(buyer, 'landing');
  await buyer.type('First name', 'Ilse');
  await buyer.type('E-mail', 'ilse.v@moonmail.test');
  await buyer.choose('Where do you live?', 'North of 45');
  await buyer.click('Send me the moon');
  await buyer.click('Yes, I want it for');
  await buyer.choose('Country', 'Netherlands');
  await buyer.sees('Netherlands 21 %');
  await typeCard(buyer, CARDS.approved);
  await take(buyer, 'checkout');
  await pressPay(buyer);
  await buyer.sees('Add Sketching the Sky');
  await take(buyer, 'upsell');
  await buyer.click('Yes, add the full set');
  await buyer.sees('Thank you, Ilse');
  await buyer.leave();

  const phone = await Person.arrive({ width: 390, height: 844 });
  await phone.open(`${ruta.site}/moon-month`);
  await take(phone, 'landing-phone');
  await phone.open(`${ruta.site}/moon-month/checkout`);
  await phone.find('.card-frame iframe');
  await take(phone, 'checkout-phone');
  await phone.leave();

  const seller = await Person.arrive();
  await seller.open(ruta.studio);
  await seller.type('E-mail', 'ines@perigeelane.test');
  await seller.type('Password', 'moonlight-demo');
  await seller.click(await seller.find('button[type=submit]'));
  await seller.sees('Latest orders');
  await take(seller, 'today');
  for (const [name, address, words] of [
    ['funnels', '/funnels', 'Moon Month to First Light'],
    ['catalog', '/catalog', 'First Light'],
    ['insight', '/insight/day', 'Per visitor'],
    ['orders', '/sales/orders', 'Ilse'],
    ['settings', '/settings', 'A headline in your brand'],
  ] as const) {
    await seller.open(ruta.studio + address);
    await seller.sees(words);
    if (name === 'settings') await seller.driver.executeScript(`document.querySelector('[name=look]').closest('fieldset').scrollIntoView()`);
    await take(seller, name);
  }
  // Designs are shown with what is sold.
  await seller.open(`${ruta.studio}/funnels/new`);
  await seller.choose('Product on sale', 'First Light');
  await seller.sees('Reading lamp');
  await seller.driver.executeScript(`document.querySelector('[data-design]').closest('fieldset').scrollIntoView()`);
  await seller.until(
    () => seller.driver.executeScript<boolean>(`return document.querySelectorAll('[data-page-picture] > div').length > 4`),
    'the pictures are drawn',
  );
  await take(seller, 'designs');
  await seller.open(`${ruta.studio}/experiments`);
  await seller.click('Checkout in one column or two');
  await seller.sees('Nothing is proved yet');
  await seller.find('[data-chart] path');
  await take(seller, 'experiments');
  await seller.open(`${ruta.studio}/catalog`);
  await seller.click('First Light');
  await seller.sees('Public name');
  await seller.sees('What does it cost?');
  await seller.click('What does it cost?');
  await seller.sees('Buyers read');
  await take(seller, 'product');
  await seller.open(`${ruta.studio}/catalog/calculator`);
  await seller.choose('Product', 'First Light');
  await seller.choose('Edition and price', 'Course with observing kit, In four payments');
  await seller.choose('Country', 'Netherlands');
  await seller.choose('Discount code', 'LONGNIGHT');
  await seller.sees('Netherlands 21 %');
  await take(seller, 'calculator');
  await seller.open(`${ruta.studio}/sales/orders`);
  await seller.click(await seller.find('tbody a'));
  await seller.sees('How this adds up');
  await take(seller, 'order');

  await seller.open(`${ruta.studio}/funnels`);
  await seller.click('Moon Month to First Light');
  await seller.sees('left an address');
  await take(seller, 'map');
  await seller.click(await seller.find('.react-flow__node[aria-label="Checkout"]'));
  await seller.sees('Where it leads');
  await press(seller, 'o');
  await seller.sees('Which bumps stand beside it?');
  await seller.driver.executeScript('document.querySelectorAll("[data-offer-card]")[1].scrollIntoView({ block: "start" })');
  await seller.click(await seller.find('[data-offer-card]:nth-of-type(1) input'));
  await take(seller, 'offer');
  await seller.open(`${ruta.studio}/funnels`);
  await seller.click('Moon Month to First Light');
  await seller.sees('left an address');
  await press(seller, 'p');
  await editWords(seller, 'h1 .words');
  await press(seller, Key.CONTROL, Key.END);
  await seller.driver.actions().sendKeys(' tonight').perform();
  await seller.sees('Saved ');
  await seller.sees('1 change not published');
  await take(seller, 'page');
  await seller.leave();
} finally {
  await ruta.stop();
}
