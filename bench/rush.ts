import type autocannon from 'autocannon';
import Database from 'better-sqlite3';
import { Seller } from '../apps/server/test/support/clients';
import type { Installation } from '../apps/server/test/support/installation';
import { OfferFunnel } from '../apps/server/test/support/offers';
import { fillPeople } from './fillShop';
import { addressOf, inPairs, type Measurement, requestsPerSecond } from './measure';

const PAIRS = 5;
/** What a busy shop has behind it: none of it may slow a checkout. */
const BEHIND = { orders: 20_000, contacts: 100_000 };

let count = 0;
/** Each request is somebody else's, at a computer of their own. */
function somebody(): Record<string, string> {
  count++;
  return {
    cookie: `ruta_visitor=vis_rush${count.toString(36).padStart(9, '0')}`,
    'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/131.0 Safari/537.36',
    'x-forwarded-for': addressOf(count),
    'content-type': 'application/json',
    accept: 'application/json, text/html',
  };
}

const asked = (make: () => Partial<autocannon.Request>): autocannon.Request[] => [{ setupRequest: (request) => ({ ...request, ...make() }) }];

/** The checkout page and its live total with a bump beside, of a shop with many orders, against Express doing no more than it must. */
export async function rushBench(ruta: Installation, bareUrl: string): Promise<Measurement[]> {
  const seller = await Seller.ofNewShop(ruta.studio);
  const funnel = await OfferFunnel.draw(seller);
  await funnel.publish();
  const database = new Database(`${ruta.data}/shop.sqlite`);
  fillPeople((statement) => database.exec(statement), BEHIND);
  database.close();
  const { id, slug } = funnel.step('checkout');
  const address = `/${funnel.slug}/${slug}`;
  const html = await (await fetch(ruta.site + address, { headers: somebody() })).text();
  const form = () => JSON.stringify({ cart: `crt_rush${count.toString(36).padStart(10, '0')}`, country: 'NL', email: '', firstName: '' });
  const total = await (await fetch(`${ruta.site}/pay/${id}/quote`, { method: 'POST', headers: somebody(), body: form() })).json();
  if (!html.includes('name="cart"') || !('quote' in total)) throw new Error('the checkout does not answer');
  await fetch(`${bareUrl}/plain`, { method: 'PUT', body: html, headers: { 'content-type': 'text/html' } });
  const page = await inPairs(
    'checkout.page',
    'requests/s',
    PAIRS,
    () => requestsPerSecond({ url: ruta.site, requests: asked(() => ({ method: 'GET', path: address, headers: somebody() })) }),
    () => requestsPerSecond({ url: bareUrl, requests: asked(() => ({ method: 'GET', path: '/plain', headers: somebody() })) }),
  );
  const quotes = (url: string, path: string) =>
    requestsPerSecond({ url, requests: asked(() => ({ method: 'POST', path, headers: somebody(), body: form() })) });
  const quote = await inPairs(
    'quote.http',
    'totals/s',
    PAIRS,
    () => quotes(ruta.site, `/pay/${id}/quote`),
    () => quotes(bareUrl, '/quote'),
  );
  return [page, quote];
}
