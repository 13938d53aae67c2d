import http from 'node:http';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MAX_PICTURE_BYTES } from '../src/files/store';
import { Buyer, OWNER, Seller } from './support/clients';
import { Installation } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
interface Described {
  method: string;
  path: string;
  role: string;
}
let operations: Described[] = [];

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
  const { paths } = (await (await seller.get('/api/openapi.json')).json()) as { paths: Record<string, Record<string, { 'x-role': string }>> };
  operations = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ method, path, role: operation['x-role'] })),
  );
});
afterAll(() => ruta.stop());

const IDS = [
  '__proto__',
  'constructor',
  'hasOwnProperty',
  '%00',
  '..%2F..%2Fetc',
  '💥'.repeat(40),
  'x'.repeat(4000),
  '%F0%9F%92%A9',
  'fun_aaaaaa~arm_aaaaaa',
  '~',
  'live-99999999999999999999',
  ' ',
];
const BODIES: unknown[] = [
  null,
  [],
  'words',
  7,
  true,
  {},
  JSON.parse('{"__proto__":{"polluted":1},"constructor":{"prototype":{"polluted":1}}}'),
  { name: '\u0000', slug: '\u0000', id: '__proto__', search: { $gt: '' } },
  { name: ['a'], ids: 'constructor', operations: [{ kind: '__proto__' }], revision: 1e308, lines: {}, page: { sections: 'x' } },
  Object.fromEntries(Array.from({ length: 3000 }, (_, index) => [`field${index}`, index])),
];
const QUERIES = [
  '?search[]=1&search[a]=b&limit=abc',
  '?after=%00&sort=__proto__&direction=up&limit=1',
  '?from=2026-99-99&to=0000-00-00&by=constructor&days=-5&compare=x&filter=%7B%7D',
  '?after=eyJhIjoxfQ&sort=constructor&limit=200&search=%27%22%3B--%25_',
  `?search=${'%F0%9F%92%A5'.repeat(200)}`,
];
/** Signing out would end what is tried after it. */
const isTried = ({ method, path }: Described) => !(method === 'delete' && path === '/api/session');
const filled = (path: string, id: string) => path.replace(/\{\w+\}/g, () => (id === ' ' ? '%20' : id.includes('%') ? id : encodeURIComponent(id)));

describe('every operation of the API', () => {
  it('names its role, and is closed to whoever is not signed in', async () => {
    expect(operations.length).toBeGreaterThan(100);
    expect(operations.filter(({ role }) => !['open', 'viewer', 'editor', 'owner'].includes(role))).toEqual([]);
    const stranger = new Seller(ruta.studio);
    for (const { method, path, role } of operations.filter(({ role: each }) => each !== 'open')) {
      const response = await stranger.request(filled(path, 'prd_aaaaaa'), {
        method: method.toUpperCase(),
        ...(method === 'get' ? {} : { body: '{}', headers: { 'content-type': 'application/json' } }),
      });
      expect([method, path, role, response.status]).toEqual([method, path, role, 401]);
    }
  });

  it('is done by those alone whose role it names', async () => {
    const db = new Database(`${ruta.data}/shop.sqlite`);
    for (const role of ['editor', 'viewer'])
      db.prepare(
        'INSERT INTO users (id, email, name, password_hash, role, created_at) SELECT ?, ?, name, password_hash, ?, created_at FROM users WHERE role = ?',
      ).run(`usr_${role}0000`, `${role}@perigeelane.test`, role, 'owner');
    db.close();
    const mayNot = { viewer: ['editor', 'owner'], editor: ['owner'] };
    for (const [who, closed] of Object.entries(mayNot)) {
      const one = new Seller(ruta.studio);
      const session = await one.json('/api/session', { email: `${who}@perigeelane.test`, password: OWNER.password });
      one.trust(((await session.json()) as { csrfToken: string }).csrfToken);
      const answers = async (described: Described) => {
        const address = filled(described.path, 'prd_aaaaaa');
        return (described.method === 'get' ? await one.get(address) : await one.send(address.replace('/api', ''), {}, described.method.toUpperCase())).status;
      };
      const meant = operations.filter(({ role }) => role !== 'open').filter(isTried);
      expect(meant.filter(({ role }) => closed.includes(role)).length).toBeGreaterThan(5);
      for (const operation of meant) {
        const isRefused = (await answers(operation)) === 403;
        expect([who, operation.method, operation.path, isRefused]).toEqual([who, operation.method, operation.path, closed.includes(operation.role)]);
      }
    }
    // What moves money, whom else it concerns, and how the shop is connected is the owner's.
    const own = operations.filter(({ role }) => role === 'owner').map(({ path: address }) => address);
    for (const kind of ['/api/shop', '/api/connections', '/api/domains', '/refunds'])
      expect(
        own.some((address) => address.includes(kind)),
        kind,
      ).toBe(true);
  });

  it('takes whatever it is asked for the sender’s mistake, in words, and never for its own', async () => {
    const wrong: string[] = [];
    for (const operation of operations.filter(isTried)) {
      const { method, path } = operation;
      const hasId = path.includes('{');
      const tries =
        method === 'get'
          ? [...(hasId ? IDS.map((id) => filled(path, id)) : [path]), ...QUERIES.map((query) => filled(path, funnel.id) + query)].map((address) => ({
              address,
              body: undefined,
            }))
          : [
              ...(hasId ? IDS.map((id) => ({ address: filled(path, id), body: {} as unknown })) : []),
              ...BODIES.map((body) => ({ address: filled(path, funnel.id), body })),
            ];
      for (const { address, body } of tries) {
        const response = body === undefined ? await seller.get(address) : await seller.send(address.replace('/api', ''), body, method.toUpperCase());
        if (response.status >= 500) wrong.push(`${method} ${address.slice(0, 120)} ${JSON.stringify(body)?.slice(0, 80)}: ${response.status}`);
        else if (response.status >= 400) {
          const { title } = (await response.json()) as { title?: string };
          if (!title || /undefined|\[object|ZodError|SQLITE|Cannot read/.test(title)) wrong.push(`${method} ${address.slice(0, 120)}: ${title}`);
        }
      }
    }
    expect(wrong).toEqual([]);
  }, 240_000);

  it('says so of a body that is no JSON, too large, or in another encoding', async () => {
    const raw = (body: string | Uint8Array<ArrayBuffer>, headers: Record<string, string>) => seller.request('/api/products', { method: 'POST', body, headers });
    expect((await raw('{"name":', { 'content-type': 'application/json' })).status).toBe(400);
    expect((await raw(JSON.stringify({ name: 'x'.repeat(3_000_000) }), { 'content-type': 'application/json' })).status).toBe(413);
    const told = async (response: Response) => [response.status, ((await response.json()) as { title: string }).title];
    expect(await told(await raw(JSON.stringify({ name: 'x'.repeat(3_000_000) }), { 'content-type': 'application/json' }))).toEqual([
      413,
      'This is too large: at most 2048 kB can be sent here.',
    ]);
    // A picture that is too large names what there is room for, at its field.
    const picture = await seller.upload('pictures', 'sky.png', new Uint8Array(MAX_PICTURE_BYTES + 1));
    expect(await told(picture)).toEqual([413, `This file is over ${MAX_PICTURE_BYTES / 1024 / 1024} MB, which is the most that can be kept here.`]);
    const upload = (type: string, body: string) =>
      seller.request('/api/uploads/pictures', { method: 'POST', body, headers: { ...seller.token, 'content-type': type } });
    for (const [type, body] of [
      ['multipart/form-data', '--x\r\n\r\n'],
      ['multipart/form-data; boundary=x', '--x\r\ncontent-disposition: form-data; name="file"; filename="a.png"\r\n\r\nabc'],
      ['multipart/form-data; boundary=x', '--x\r\ncontent-disposition: form-data; name="file"\r\n\r\nabc\r\n--x--'],
      ['multipart/form-data; boundary=x', '--x\r\ncontent-disposition: form-data; name="file"; filename=""\r\n\r\nabc\r\n--x--'],
      ['multipart/form-data; boundary=x', '--x\r\ncontent-disposition: form-data; filename="a.png"\r\n\r\nabc\r\n--x--'],
      ['multipart/form-data; boundary=x', '--x\r\n\r\nabc\r\n--x--'],
      ['multipart/form-data; boundary=x', ''],
    ] as const) {
      const { status } = await upload(type, body);
      expect([type, body, status]).toEqual([type, body, expect.toSatisfy((said: number) => said >= 400 && said < 500)]);
    }
    for (const address of ['/API/products', '/Api/session', '/API/uploads/pictures']) {
      for (const method of ['GET', 'POST']) expect((await seller.request(address, { method })).status, `${method} ${address}`).toBeLessThan(500);
    }
    const deep = await raw(`{"condition":${'{"not":'.repeat(60_000)}1${'}'.repeat(60_000)}}`, { ...seller.token, 'content-type': 'application/json' });
    expect([deep.status, await deep.json()]).toMatchObject([400, { title: 'This nests too deep to be read.' }]);
    expect((await raw('{}', { 'content-type': 'application/json; charset=klingon' })).status).toBe(415);
    expect((await raw(new Uint8Array([31, 139, 0, 1]), { 'content-type': 'application/json', 'content-encoding': 'gzip' })).status).toBe(400);
    expect((await raw('{}', { 'content-type': 'application/json', 'content-encoding': 'sausage' })).status).toBe(415);
  });
});

describe('the public site', () => {
  it('answers every strange address and form with a page or a word, never with a fault', async () => {
    const buyer = new Buyer(ruta.site);
    const steps = [funnel.entry, funnel.checkout, funnel.thankYou, '__proto__', 'constructor', '%00', 'x'.repeat(3000)];
    const gets = [
      ...IDS.flatMap((id) =>
        ['', 'go/', 'd/', 'order/', 'cart/', 'pay/return/', 'offer/', 'media/', 'video/', 'leads/', 'assets/scripts/'].map(
          (place) => `/${place}${filled('{id}', id)}`,
        ),
      ),
      ...steps.map((step) => `/go/${step}?by=__proto__&part=-1&option=%00`),
      `/${funnel.slug}?code=%00&code[]=1&utm_source[]=a&utm_campaign[b]=c`,
      `/${funnel.slug}/checkout?cart=__proto__&option=constructor&declined[]=1&order[]=2&again[]=3`,
      `/${funnel.slug}/thank-you?order=__proto__`,
      ...IDS.flatMap((id) => [`/media/${filled('{id}', id)}/1.png`, `/${funnel.slug}/checkout?declined=${encodeURIComponent(id.slice(0, 50))}`]),
      '/e?id=__proto__&path=//&query=%00',
      '/e/pixel.gif?step=constructor',
      '/%E0%A4%A',
    ];
    const wrong: string[] = [];
    for (const address of gets) {
      const { status } = await buyer.get(address);
      if (status >= 500) wrong.push(`GET ${address.slice(0, 100)}: ${status}`);
    }
    const forms: Array<Record<string, string>> = [
      {},
      { __proto__: 'x', constructor: 'y', cart: '\u0000', email: '\u0000', option: '__proto__', country: 'constructor', quantity: '1e99' },
      { _form: '__proto__', email: 'x'.repeat(5000), order: 'constructor', offer: '__proto__', shown: 'NaN', answer: 'yes' },
      Object.fromEntries(Array.from({ length: 2000 }, (_, index) => [`field${index}`, 'x'])),
    ];
    for (const step of steps) {
      for (const place of [
        `/go/${step}/form`,
        `/go/${step}/appointment`,
        `/pay/${step}`,
        `/pay/${step}/quote`,
        `/pay/${step}/contact`,
        `/offer/${step}`,
        `/offer/${step}/quote`,
        '/e/consent',
        '/leads/__proto__',
      ]) {
        for (const form of forms) {
          const { status } = await buyer.form(place, form);
          if (status >= 500) wrong.push(`POST ${place.slice(0, 60)} ${JSON.stringify(form).slice(0, 60)}: ${status}`);
        }
        const { status } = await buyer.json(place, ['not', 'an', 'object']);
        if (status >= 500) wrong.push(`POST ${place.slice(0, 60)} as JSON: ${status}`);
      }
    }
    expect(wrong).toEqual([]);
  }, 120_000);

  it('goes on when a request is no request', async () => {
    const { hostname, port } = new URL(ruta.site);
    const sent = (line: string) =>
      new Promise<number>((resolve) => {
        const request = http.request({ hostname, port, method: 'GET', path: '/' });
        request.once('socket', (socket) =>
          socket.once('connect', () => {
            socket.write(line);
            socket.once('data', (data) => resolve(Number(/ (\d{3}) /.exec(String(data))?.[1] ?? 0)));
            socket.once('close', () => resolve(0));
            socket.once('error', () => resolve(0));
          }),
        );
        request.on('error', () => resolve(0));
      });
    for (const line of [
      'GET / HTTP/9.9\r\n\r\n',
      'GARBAGE\r\n\r\n',
      `GET /${'a'.repeat(20_000)} HTTP/1.1\r\nHost: x\r\n\r\n`,
      'GET /%zz HTTP/1.1\r\nHost: x\r\n\r\n',
    ]) {
      expect(await sent(line)).toBeLessThan(500);
    }
    expect((await new Buyer(ruta.site).get(`/${funnel.slug}`)).status).toBe(200);
  });
});
