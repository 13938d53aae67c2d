import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { OWNER, Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { writeOwnWords } from '../apps/server/test/support/ownWords';
import { axeProblems } from './support/axe';
import { Person } from './support/browser';
import { Key, press } from './support/canvas';
import { CARDS, pressPay, typeCard } from './support/pay';

let ruta: Installation;
let api: Seller;
let seller: Person;
let folder: string;
beforeAll(async () => {
  ruta = await Installation.start();
  api = await Seller.ofNewShop(ruta.studio);
  folder = mkdtempSync(path.join(tmpdir(), 'ruta-selling-'));
  seller = await Person.arrive();
  await seller.open(ruta.studio);
  await seller.type('E-mail', OWNER.email);
  await seller.type('Password', OWNER.password);
  await seller.click(await seller.find('button[type=submit]'));
  await seller.sees('Add something to sell');
});
afterAll(async () => {
  await seller.leave();
  await ruta.stop();
});

const productId = async () => /prd_\w+/.exec(await seller.address())?.[0] ?? '';
const addProduct = async (name: string) => {
  await seller.type('Public name', name);
  await seller.click('Add the product');
  await seller.until(async () => /\/catalog\/prd_/.test(await seller.address()), 'the product has its own address');
};
/** Puts what stands on the sheet on sale, and gives the address of its checkout. */
async function onSale(): Promise<string> {
  const funnel = await api.make('/funnels', { name: 'Sale', template: 'straight-sale', productId: await productId() });
  await writeOwnWords(api, funnel.id);
  await api.make(`/funnels/${funnel.id}/publish`, {});
  return `${ruta.site}/${funnel.slug}/checkout`;
}
/** Fills the form in and pays; ends on the thank-you page. */
async function buy(buyer: Person, email: string): Promise<void> {
  await buyer.type('First name', 'Ilse');
  await buyer.type('E-mail', email);
  await typeCard(buyer, CARDS.approved);
  await pressPay(buyer);
  await buyer.sees('Thank you, Ilse');
}
const orderOf = async (email: string) => {
  const [row] = await api.rows(`/orders?search=${email}`);
  const order = await api.read(`/orders/${row.id}`);
  return { ...order, first: order.payments[0], upcoming: await api.read(`/orders/${row.id}/upcoming`) };
};

describe('each kind of price', () => {
  const kinds: Array<{
    kind: string;
    fill: () => Promise<void>;
    /** What the sheet says buyers read and pay, while it is typed. */
    preview: string[];
    checkout: string[];
    charged: number | null;
    later: number;
  }> = [
    {
      kind: 'One payment',
      fill: async () => {
        await seller.type('Amount in EUR', '168');
        await seller.click('Has a sale price');
        await seller.type('On sale in EUR', '138,00');
      },
      preview: ['€168', '€138.00'],
      checkout: ['€168.00', '€138.00'],
      charged: 13_800,
      later: 0,
    },
    {
      kind: 'Instalments',
      fill: async () => {
        await seller.type('All together in EUR', '100');
        await seller.type('How many', '3');
      },
      // 33.33 twice, the last absorbs the cent
      preview: ['3 × €33.33 a month, the last €33.34', '€100.00'],
      checkout: ['1st of 3 payments', '€33.33', '€66.67 in all'],
      charged: 3333,
      later: 2,
    },
    {
      kind: 'Subscription',
      fill: async () => {
        await seller.type('Each period in EUR', '9');
        await seller.type('Set-up fee in EUR', '5');
        await seller.click('Begins with a trial');
        await seller.type('Days of trial', '14');
      },
      preview: ['€9 a month, 14 days free, set-up €5', 'no end'],
      checkout: ['14 days free', '€5.00', '€9.00 a month', 'until you cancel'],
      charged: 500,
      later: 3,
    },
    {
      kind: 'Buyers choose the amount',
      fill: async () => {
        await seller.type('Suggested in EUR', '8');
        await seller.type('Smallest in EUR', '3');
      },
      preview: ['from €3, you choose', '€8.00'],
      checkout: ['What would you like to pay?', '€8.00'],
      charged: 800,
      later: 0,
    },
  ];

  it.each(kinds)('$kind is made on the sheet, sold, and shown with its charge and schedule', async ({ kind, fill, preview, checkout, charged, later }) => {
    await seller.open(`${ruta.studio}/catalog/new`);
    await seller.find('form');
    await seller.choose('Price', kind);
    await fill();
    for (const words of preview) await seller.sees(words);
    await addProduct(`Thing, ${kind.toLowerCase()}`);
    const address = await onSale();
    const buyer = await Person.arrive();
    try {
      await buyer.open(address);
      for (const words of checkout) await buyer.sees(words);
      const email = `${kind.split(' ')[0]?.toLowerCase()}@moonmail.test`;
      await buy(buyer, email);
      const order = await orderOf(email);
      expect(order.first.charges.map((charge: { amount: number }) => charge.amount)).toEqual(charged === null ? [] : [charged]);
      expect(order.upcoming.payments).toHaveLength(later);
      await seller.open(`${ruta.studio}/sales/orders/${order.id}`);
      await seller.sees('How this adds up');
      await seller.click('How this adds up');
      await seller.sees('To pay today');
      if (later > 0) await seller.sees(order.upcoming.endless ? 'and so on' : 'In all, with today');
    } finally {
      await buyer.leave();
    }
  });

  it('is given back in part, with the sum on the button, at the processor', async () => {
    const { id } = await orderOf('buyers@moonmail.test');
    await seller.open(`${ruta.studio}/sales/orders/${id}`);
    await seller.click('Give money back');
    await seller.type('Amount', '8.01');
    await seller.sees('At most €8.00.');
    await seller.type('Amount', '2.50');
    await seller.type('Reason', 'One lesson was missing');
    await seller.click('Give €2.50 back');
    await seller.sees('Partly refunded');
    await seller.until(async () => (await orderOf('buyers@moonmail.test')).refunds[0].state === 'done', 'the processor has given it back');
    await seller.sees('One lesson was missing');
    expect((await orderOf('buyers@moonmail.test')).refunds).toMatchObject([{ amount: 250, way: 'processor' }]);
  });

  it('free is given for an address, and not sold', async () => {
    await seller.open(`${ruta.studio}/catalog/new`);
    await seller.find('form');
    await seller.choose('Price', 'Free');
    await seller.sees('Free');
    await addProduct('Moon Month');
    expect((await api.send('/funnels', { name: 'Sale', template: 'straight-sale', productId: await productId() })).status).toBe(400);
  });

  it.each([
    ['Amount in EUR', '12.345', 'EUR has at most 2 decimals.'],
    ['Amount in EUR', '-3', 'An amount cannot be negative.'],
    ['Amount in EUR', '99999999999', 'This amount is too large.'],
    ['Amount in EUR', '1.23.4,50', 'at most one decimal mark'],
  ])('%s “%s” is refused beside the field, and nothing typed is lost', async (label, text, message) => {
    await seller.open(`${ruta.studio}/catalog/new`);
    await seller.find('form');
    await seller.type('Public name', 'Kept');
    await seller.type(label, text);
    await seller.click('Add the product');
    await seller.sees(message);
    expect(await (await seller.byLabel('Public name')).getAttribute('value')).toBe('Kept');
    expect(await (await seller.byLabel(label)).getAttribute('value')).toBe(text);
    await seller.driver.executeScript('window.onbeforeunload = null');
    await seller.click('Catalog');
    await seller.sees('Leave without saving?');
    await seller.click('Leave without saving');
  });
});

describe('pictures', () => {
  it('are put in order by keyboard, and the first one leads', async () => {
    await seller.open(`${ruta.studio}/catalog/new`);
    await seller.find('form');
    await seller.type('Amount in EUR', '5');
    for (const [index, background] of ['#1a2347', '#e3a23a'].entries()) {
      const file = path.join(folder, `picture-${index}.png`);
      await sharp({ create: { width: 600, height: 400, channels: 3, background } })
        .png()
        .toFile(file);
      await (await seller.find('input[type=file][accept="image/*"]')).sendKeys(file);
      await seller.until(async () => (await seller.findAll('main img[src*="/media/"]')).length === index + 1, 'the picture is there');
    }
    const order = async () => Promise.all((await seller.findAll('main img[src*="/media/"]')).map((image) => image.getAttribute('src')));
    const before = await order();
    const handle = await seller.find('[aria-label="Move picture 2"]');
    await handle.sendKeys(Key.SPACE);
    await seller.until(async () => (await seller.findAll('[aria-label="Move picture 2"][aria-pressed=true]')).length === 1, 'the picture is picked up');
    await press(seller, Key.ARROW_LEFT);
    const first = /fil_\w+/.exec(before[0] ?? '')?.[0] ?? '';
    const said = () => seller.driver.executeScript<string>('return [...document.querySelectorAll("[aria-live]")].map((each) => each.textContent).join()');
    await seller.until(async () => (await said()).includes(`over droppable area ${first}`), 'it is over the place of the first');
    await press(seller, Key.SPACE);
    await seller.until(async () => (await order())[0] === before[1], 'the second one leads');
    await addProduct('With pictures');
    const { pictureIds } = await api.read(`/products/${await productId()}`);
    expect(before[1]).toContain(pictureIds[0]);
  });
});

describe('editions and codes', () => {
  it('let a buyer choose, and take a code off at once', async () => {
    await seller.open(`${ruta.studio}/catalog/new`);
    await seller.find('form');
    await seller.type('Amount in EUR', '24');
    await seller.click('Sell it in several editions');
    const names = async () => seller.driver.findElements(By.css('input[name$=".name"][name^="editions."]'));
    const editionNames = (await names()).filter((_, index) => index < 2);
    expect(editionNames.length).toBe(2);
    await editionNames[0]?.sendKeys('50° north');
    await editionNames[1]?.sendKeys('35° south');
    const amounts = await seller.driver.findElements(By.css('input[name$=".regular"]'));
    await amounts[1]?.sendKeys('26');
    await addProduct('Star Wheel');
    const address = await onSale();

    await seller.open(`${ruta.studio}/catalog/codes`);
    await seller.click('Add a code');
    await seller.type('Code', 'longnight');
    await seller.type('Percent', '150');
    await seller.click(await seller.find('[role=dialog] button[type=submit]'));
    await seller.sees('A discount is at most 100 percent.');
    await seller.type('Percent', '15');
    expect(await axeProblems(seller)).toEqual([]);
    await seller.click(await seller.find('[role=dialog] button[type=submit]'));
    await seller.sees('The order');

    const buyer = await Person.arrive();
    try {
      await buyer.open(address);
      await buyer.click('35° south');
      await buyer.sees('€26.00');
      await buyer.click('Have a discount code?');
      await buyer.type('Discount code', 'nonsense');
      await buyer.click('Apply');
      await buyer.sees('This code is not known.');
      await buyer.type('Discount code', 'LongNight');
      await buyer.click('Apply');
      // 26.00 − 15 % = 22.10
      await buyer.sees('€22.10');
      expect(await axeProblems(buyer)).toEqual([]);
      await buy(buyer, 'wheel@moonmail.test');
      expect((await orderOf('wheel@moonmail.test')).first.charges).toMatchObject([{ amount: 2210 }]);
    } finally {
      await buyer.leave();
    }
    await seller.open(`${ruta.studio}/catalog/codes`);
    await seller.sees('€22.10');
  });
});

describe('the catalog', () => {
  it('is filtered, searched and changed in bulk', async () => {
    await seller.open(`${ruta.studio}/catalog`);
    await seller.sees('Star Wheel');
    expect(await axeProblems(seller)).toEqual([]);
    await seller.click(await seller.find('[aria-label="Select Star Wheel"]'));
    await (await seller.find('[aria-label="What to change"] option[value=addTags]')).click();
    await (await seller.find('[aria-label="Words, separated by commas"]')).sendKeys('paper, sky');
    await seller.click('Change 1');
    await seller.until(async () => (await seller.findAll('[aria-label="Every tag"] option')).length === 3, 'the tags are there to filter by');
    await (await seller.find('[aria-label="Every tag"] option[value=paper]')).click();
    await seller.until(async () => (await seller.findAll('tbody tr')).length === 1, 'one product is left');
    expect(await seller.address()).toContain('tag=paper');
  });

  it('goes out and comes back equal; what does not fit is told line by line, and nothing of it is brought in', async () => {
    const exported = await (await api.get('/api/products/export/csv')).text();
    const file = path.join(folder, 'products.csv');
    const [header = '', first = ''] = exported.replace(/^\uFEFF/, '').split('\r\n');
    const columns = header.split(',');
    const row = (cells: Record<string, string>) => columns.map((name) => cells[name] ?? '').join(',');
    await seller.open(`${ruta.studio}/catalog`);
    await seller.click('Files');
    await seller.click('Import CSV or JSON');
    const choose = async (text: string) => {
      writeFileSync(file, text);
      await (await seller.find('[role=dialog] input[type=file]')).sendKeys(file);
    };
    await choose(`${exported.trimEnd()}\r\n${row({ name: 'Torch', price_kind: 'one-time', regular: '"1.23.4,50"' })}\r\n`);
    await seller.sees('1 place does not fit.');
    await seller.sees('at most one decimal mark');
    expect(await axeProblems(seller)).toEqual([]);
    writeFileSync(file, Buffer.from([0x6e, 0x61, 0xe9]));
    await (await seller.find('[role=dialog] input[type=file]')).sendKeys(file);
    await seller.sees('another encoding than UTF-8');
    await choose(`${header}\r\n${first}\r\n${row({ name: 'Torch', price_kind: 'one-time', regular: '19', tags: 'lamp' })}\r\n`);
    await seller.sees('1 would be added, 0 changed, 1 stay as they are.');
    expect((await api.rows('/products')).some((product: { name: string }) => product.name === 'Torch')).toBe(false);
    await seller.click('Import 1 products');
    await seller.sees('Done: 1 added, 0 changed.');
    await press(seller, Key.ESCAPE);
    await seller.sees('Torch');
  });

  it('reckons what a buyer from anywhere would pay, step by step', async () => {
    await seller.open(`${ruta.studio}/catalog/calculator`);
    await seller.choose('Product', 'Torch');
    await seller.choose('Country', 'Netherlands');
    await seller.choose('Discount code', 'LONGNIGHT');
    // 19.00 − 15 % = 16.15; 16.15 × 21 ÷ 121 = 2.80
    await seller.sees('Tax within, 21 %: €16.15 × 21 ÷ 121');
    await seller.sees('€2.80');
    await seller.type('Business tax number', 'LU12345614');
    await seller.sees('check digits');
    await seller.type('Business tax number', 'NL123456782B90');
    expect(await axeProblems(seller)).toEqual([]);
  });
});

describe('tax and shipping', () => {
  it('are changed by hand, and say where they do not fit', async () => {
    await seller.open(`${ruta.studio}/settings/tax`);
    await seller.sees('Standard %');
    expect(await axeProblems(seller)).toEqual([]);
    await seller.click('Add a row');
    const table = (await api.read('/shop')).taxTable;
    const before = table.length;
    const row = `rows.${before}`;
    expect(await seller.findAll(`input[name^="${row}."]`)).toHaveLength(7);
    for (const name of ['standard', 'reduced', 'digital']) await (await seller.find(`input[name="${row}.${name}"]`)).sendKeys('13');
    await seller.click('Save the rates');
    await seller.sees('Two rows for PT begin at the same time.');
    await (await seller.find(`input[name="${row}.region"]`)).sendKeys('Azores');
    await seller.click('Save the rates');
    await seller.until(async () => (await api.read('/shop')).taxTable.length === before + 1, 'the row is kept');
    await seller.sees('Saved');
    // Adding one row leaves every other as it was, to the minute.
    expect((await api.read('/shop')).taxTable.slice(0, before)).toEqual(table);

    await seller.open(`${ruta.studio}/settings/shipping`);
    await seller.click('Add a zone');
    await seller.type('Zone 1', 'Home');
    await seller.click('Save shipping');
    await seller.sees('Choose at least one country.');
    await (await seller.find('[aria-label="Add a country to zone 1"] option[value=PT]')).click();
    await seller.choose('Rate', 'by weight');
    await seller.type('Up to, in grams', '250');
    await seller.type('Costs in EUR', '3,50');
    expect(await axeProblems(seller)).toEqual([]);
    await seller.click('Save shipping');
    await seller.until(async () => (await api.read('/shop')).shippingTable.length === 1, 'the zone is kept');
    expect((await api.read('/shop')).shippingTable).toEqual([
      { name: 'Home', countries: ['PT'], rate: { kind: 'weight', bands: [{ upTo: 250, amount: 350 }] } },
    ]);
  });
});
