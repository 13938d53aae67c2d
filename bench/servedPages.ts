import { gzipSync } from 'node:zlib';
import type autocannon from 'autocannon';
import { Seller } from '../apps/server/test/support/clients';
import type { Installation } from '../apps/server/test/support/installation';
import { OfferFunnel } from '../apps/server/test/support/offers';
import { inPairs, type Measurement, requestsPerSecond } from './measure';

const PAIRS = 7;
/** Pages that one visitor looks at, as people do. */
const VIEWS_EACH = 3;

const headers = {
  'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/131.0 Safari/537.36',
  'accept-encoding': 'gzip',
  cookie: 'ruta_visitor=vis_benchbenchbench',
};

/** A published page served to visitors, against Express sending the same bytes. */
export async function pagesBench(ruta: Installation, bareUrl: string): Promise<Measurement> {
  const page = `${ruta.site}/moon-month`;
  const html = await (await fetch(page)).text();
  await fetch(`${bareUrl}/bytes`, { method: 'PUT', body: gzipSync(html, { level: 9 }), headers: { 'content-type': 'text/html' } });
  return inPairs(
    'page.throughput',
    'requests/s',
    PAIRS,
    () => requestsPerSecond({ url: page, headers }),
    () => requestsPerSecond({ url: `${bareUrl}/bytes`, headers }),
  );
}

const VERSIONS = 10;

/** A published page with ten parts that only some visitors see, served to one of them, against Express sending the same bytes. */
export async function versionsBench(ruta: Installation, bareUrl: string): Promise<Measurement> {
  const seller = await Seller.ofNewShop(ruta.studio);
  const funnel = await OfferFunnel.draw(seller);
  const { id } = funnel.step('sales');
  const { page, revision } = await seller.read(`/steps/${id}/page`);
  const [column] = page.sections[0].columns;
  for (let number = 0; number < VERSIONS; number++) {
    const condition = number % 2 === 0 ? { fact: 'device', device: 'desktop' } : { fact: 'returning', returning: number % 4 === 1 };
    const words = [{ type: 'text', text: `For some visitors only, part ${number}` }];
    column.elements.push({ id: `elm_version${String(number).padStart(6, '0')}`, type: 'text', style: 'body', words, show: { kind: 'when', condition } });
  }
  await seller.make(`/steps/${id}/page`, { revision, page }, 'PUT');
  await funnel.publish();
  const address = `${ruta.site}/${funnel.slug}`;
  const html = await (await fetch(address, { headers })).text();
  if (!html.includes('For some visitors only')) throw new Error('no version is shown');
  await fetch(`${bareUrl}/bytes`, { method: 'PUT', body: gzipSync(html, { level: 9 }), headers: { 'content-type': 'text/html' } });
  return inPairs(
    'page.versions',
    'requests/s',
    PAIRS,
    () => requestsPerSecond({ url: address, headers }),
    () => requestsPerSecond({ url: `${bareUrl}/bytes`, headers }),
  );
}

/** Page views that are recorded, against Express answering 204. Every view has an id of its own, so that every one is written. */
export function viewsBench(ruta: Installation, bareUrl: string): Promise<Measurement> {
  let count = 0;
  const addressOfVisitor = (view: number) => {
    const number = Math.floor(view / VIEWS_EACH);
    return `198.18.${(number >> 8) & 255}.${number & 255}`;
  };
  const numbered = (number: number) => number.toString(36).padStart(12, '0');
  const views = (path: string) => ({
    method: 'POST' as const,
    requests: [
      {
        setupRequest: (request: autocannon.Request) => {
          count++;
          return {
            ...request,
            method: 'POST' as const,
            path: `${path}?id=evt_bench${numbered(count)}&path=%2Fmoon-month&query=%3Futm_source%3Dbench`,
            // Each at a computer of their own, since one alone may not be so many.
            headers: { ...headers, cookie: `ruta_visitor=vis_bench${numbered(Math.floor(count / VIEWS_EACH))}`, 'x-forwarded-for': addressOfVisitor(count) },
          };
        },
      },
    ],
  });
  return inPairs(
    'events.ingest',
    'views/s',
    PAIRS,
    () => requestsPerSecond({ url: ruta.site, ...views('/e') }),
    () => requestsPerSecond({ url: bareUrl, ...views('/nothing') }),
  );
}
