import { By } from 'selenium-webdriver';
import type { Person } from './browser';

export const CARDS = {
  approved: '9000000000000019',
  noFunds: '9000000000000027',
  expired: '9000000000000035',
  stolen: '9000000000000043',
  confirm: '9000000000000050',
  late: '9000000000000068',
  down: '9000000000000076',
};

/** Types a card into the processor's frame on the checkout. */
export async function typeCard(person: Person, number: string, expiry = '1129', code = '123'): Promise<void> {
  await person.inside('.card-frame iframe', async () => {
    for (const [id, text] of Object.entries({ number, expiry, code })) {
      const field = await person.driver.findElement(By.id(id));
      await field.clear();
      await field.sendKeys(text);
    }
  });
}

export const pressPay = async (person: Person) => person.click(await person.find('[data-pay]'));
