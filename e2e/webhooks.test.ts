import http from 'node:http';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Buyer, Seller } from '../apps/server/test/support/clients';
import { freePort, Installation } from '../apps/server/test/support/installation';
import { axeProblems } from './support/axe';
import type { Person } from './support/browser';
import { arriveAsOwner } from './support/owner';

let ruta: Installation;
let api: Seller;
let seller: Person;
let listener: http.Server;
let port: number;
let told = 0;

beforeAll(async () => {
  port = await freePort();
  ruta = await Installation.start({ settings: { RUTA_INSIDE: `127.0.0.1:${port}` } });
  api = await Seller.ofNewShop(ruta.studio);
  listener = http.createServer((_request, response) => {
    told++;
    response.writeHead(200).end('written down');
  });
  await new Promise<void>((resolve) => listener.listen(port, '127.0.0.1', resolve));
  seller = await arriveAsOwner(ruta.studio);
});
afterAll(async () => {
  await seller.leave();
  listener.close();
  await ruta.stop();
});

it('a webhook is added, told, looked at in its log, told again, paused, and removed', async () => {
  const funnel = await api.sellingFunnel({ gift: true });
  await seller.open(`${ruta.studio}/connections`);
  await seller.click('Add a webhook');
  await seller.type('Name', 'Book-keeping');
  await seller.type('Address', 'books');
  await seller.click('Add it');
  await seller.sees('Enter an address that begins with https://');
  await seller.type('Address', `http://127.0.0.1:${port}/books`);
  expect(await axeProblems(seller)).toEqual([]);
  await seller.click('Add it');
  await seller.sees('Secret of Book-keeping');
  expect(await (await seller.find('[role=dialog] code')).getText()).toMatch(/^whsec_/);
  await seller.click('I have kept it');
  await seller.sees('Waiting for the first event');

  const formId = /name="_form" value="(\w+)"/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '';
  await new Buyer(ruta.site).form(`/go/${funnel.entry}/form`, { _form: formId, email: 'told@moonmail.test', firstName: 'Marta' });
  await seller.sees('1 taken');
  await seller.click(await seller.find('[aria-label="Log of Book-keeping"]'));
  await seller.sees('Somebody left an address');
  await seller.sees('Answered 200');
  await seller.click('What was told, and the answer');
  await seller.sees('told@moonmail.test');
  await seller.sees('written down');
  expect(told).toBe(1);
  await seller.click('Send again');
  await seller.until(async () => told === 2, 'it is told again');
  await seller.sees('after 2 tries');
  await seller.click(await seller.find('[role=dialog] [aria-label=Close]'));

  await seller.click(await seller.find('[aria-label="Change Book-keeping"]'));
  await seller.click(await seller.byLabel('Switched on'));
  await seller.click('Save');
  await seller.sees('Off');
  await seller.click(await seller.find('[aria-label="Remove Book-keeping"]'));
  await seller.click('Remove it');
  await seller.until(async () => !(await seller.text()).includes('Book-keeping'), 'it is gone');
  expect(await api.read('/webhooks')).toEqual([]);
});
