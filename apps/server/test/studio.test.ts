import Database from 'better-sqlite3';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { OWNER, Seller } from './support/clients';
import { Installation, SETUP_CODE } from './support/installation';
import { selling, sentProduct } from './support/products';

let ruta: Installation;
let seller: Seller;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
});
afterAll(() => ruta.stop());

const problem = async (response: Response) => (await response.json()) as { status: number; title: string; errors?: Array<{ path: string; message: string }> };

describe('signing in', () => {
  it('lets nobody else reach any operation of the API', async () => {
    const document = (await (await fetch(`${ruta.studio}/api/openapi.json`)).json()) as { paths: Record<string, Record<string, unknown>> };
    const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => ({ path: path.replace(/\{\w+\}/g, 'x'), method })),
    );
    expect(operations.length).toBeGreaterThan(25);
    const open = new Set(['get /api/session', 'post /api/session', 'post /api/setup', 'post /api/session/forgotten', 'post /api/session/reset']);
    for (const { path, method } of operations) {
      const response = await fetch(ruta.studio + path, {
        method,
        ...(method === 'get' ? {} : { body: '{}', headers: { 'content-type': 'application/json' } }),
      });
      if (open.has(`${method} ${path}`)) expect(response.status, path).not.toBe(401);
      else if (`${method} ${path}` !== 'delete /api/session') expect(response.status, `${method} ${path}`).toBe(401);
    }
    expect((await fetch(`${ruta.studio}/api/uploads/pictures`, { method: 'POST' })).status).toBe(401);
  });
  it('creates the owner once', async () => {
    const again = await seller.json('/api/setup', {
      code: SETUP_CODE,
      ...OWNER,
      shop: { name: 'Mine', country: 'PT', currency: 'EUR', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
    });
    expect(again.status).toBe(409);
  });
  it('wants the token of the sign-in, so that another site cannot act for the seller', async () => {
    expect((await seller.json('/api/products', sentProduct('X', { kind: 'free' }))).status).toBe(403);
    const elsewhere = await seller.request('/api/products', { method: 'POST', body: '{}', headers: { 'content-type': 'application/json', origin: ruta.site } });
    expect(elsewhere.status).toBe(403);
  });
  it('lets editors change and viewers look, keeps what moves money to the owner, and lets everybody out', async () => {
    const db = new Database(`${ruta.data}/shop.sqlite`);
    for (const role of ['editor', 'viewer'])
      db.prepare(
        'INSERT INTO users (id, email, name, password_hash, role, created_at) SELECT ?, ?, name, password_hash, ?, created_at FROM users WHERE role = ?',
      ).run(`usr_${role}0000`, `${role}@perigeelane.test`, role, 'owner');
    db.close();
    const { settings, taxTable } = await seller.read('/shop');
    const { currency: _currency, ...shop } = settings;
    const tried = async (role: string) => {
      const one = new Seller(ruta.studio);
      const session = await one.json('/api/session', { email: `${role}@perigeelane.test`, password: OWNER.password });
      one.trust(((await session.json()) as { csrfToken: string }).csrfToken);
      const status = async (path: string, body: unknown, method: string) => (await one.send(path, body, method)).status;
      return {
        looks: (await one.get('/api/products')).status,
        adds: await status('/products', selling(`By ${role}`, { kind: 'free' }), 'POST'),
        settings: await status('/shop', shop, 'PUT'),
        taxes: await status('/shop/tax-table', { taxTable }, 'PUT'),
        connects: await status('/connections/quayside', {}, 'POST'),
        signsOut: await status('/session', undefined, 'DELETE'),
        isOut: (await one.get('/api/products')).status,
      };
    };
    expect(await tried('editor')).toEqual({ looks: 200, adds: 201, settings: 403, taxes: 403, connects: 403, signsOut: 204, isOut: 401 });
    expect(await tried('viewer')).toEqual({ looks: 200, adds: 403, settings: 403, taxes: 403, connects: 403, signsOut: 204, isOut: 401 });
  });
  it('works behind a proxy that ends TLS', async () => {
    const behind = await Installation.start({ settings: { RUTA_STUDIO_URL: 'https://studio.perigeelane.test' } });
    try {
      await Seller.ofNewShop(behind.studio).catch(() => undefined);
      const headers = { 'x-forwarded-proto': 'https', 'x-forwarded-host': 'studio.perigeelane.test' };
      const response = await new Seller(behind.studio).json('/api/session', { email: OWNER.email, password: OWNER.password }, 'POST', headers);
      expect(response.status).toBe(201);
      expect(response.headers.getSetCookie().find((cookie) => cookie.startsWith('ruta.sid='))).toMatch(/; Secure;/);
      expect(response.headers.getSetCookie().every((cookie) => cookie.includes('; Secure;'))).toBe(true);
    } finally {
      await behind.stop();
    }
  });
  it('reads no file of a stranger before it knows that they are one', async () => {
    for (const path of ['/api/products/import', '/api/codes/import']) {
      const response = await fetch(ruta.studio + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"not even JSON' });
      expect(response.status).toBe(401);
    }
  });
  it('refuses a request from a frame without an origin of its own', async () => {
    expect((await seller.json('/api/products', sentProduct('X', { kind: 'free' }), 'POST', { origin: 'null' })).status).toBe(403);
  });
  it('says neither which part was wrong nor lets guessing go on', async () => {
    const stranger = new Seller(ruta.studio);
    const tries: Response[] = [];
    for (let i = 0; i < 12; i++)
      tries.push(await stranger.json('/api/session', { email: i % 2 ? OWNER.email : 'nobody@perigeelane.test', password: 'wrong one here' }));
    const titles = await Promise.all(tries.slice(0, 2).map(async (each) => (await problem(each)).title));
    expect(titles[0]).toBe(titles[1]);
    expect(tries.at(-1)?.status).toBe(429);
  });
});

describe('the catalog', () => {
  const price = 'editions.0.prices.0.price';
  it.each([
    [sentProduct('', { kind: 'free' }), 'name', 'Give the product a name'],
    [sentProduct('x'.repeat(121), { kind: 'free' }), 'name', 'under 120'],
    [sentProduct('A', { kind: 'one-time', regular: -5 }), `${price}.regular`, 'above zero'],
    [sentProduct('A', { kind: 'one-time', regular: 10.5 }), `${price}.regular`, 'whole number'],
    [sentProduct('A', { kind: 'one-time', regular: 100, sale: { amount: 200 } }), `${price}.sale.amount`, 'below the regular'],
    [sentProduct('A', { kind: 'one-time', regular: 100, sale: { amount: 50, from: 2, until: 1 } }), `${price}.sale.until`, 'after it starts'],
    [sentProduct('A', { kind: 'one-time', regular: 100, sale: { amount: 0 } }), `${price}.sale.amount`, 'above zero'],
    [sentProduct('A', { kind: 'free' }, { pictureIds: ['fil_000000'] }), 'pictureIds', 'not uploaded'],
    [sentProduct('A', { kind: 'free' }, { editions: [] }), 'editions', 'at least one edition'],
    [sentProduct('A', { kind: 'free' }, { editions: [{ id: 'edn_000001', prices: [] }] }), 'editions.0.prices', 'at least one price'],
    [sentProduct('A', { kind: 'free' }, { contactEmail: 'nobody' }), 'contactEmail', 'e-mail address'],
    [sentProduct('A', { kind: 'free' }, { confirmation: { kind: 'address', url: 'javascript:alert(1)' } }), 'confirmation.url', 'https://'],
  ])('refuses %j at %s', async (product, path, message) => {
    const response = await seller.send('/products', product);
    expect(response.status).toBe(400);
    expect((await problem(response)).errors).toEqual(expect.arrayContaining([{ path, message: expect.stringContaining(message) }]));
  });

  it('keeps pictures by what they are, not by what they are called', async () => {
    const png = await sharp({ create: { width: 700, height: 300, channels: 3, background: '#223' } })
      .png()
      .toBuffer();
    const stored = (await (await seller.upload('pictures', 'sky.txt', new Uint8Array(png))).json()) as { id: string; width: number; widths: number[] };
    expect(stored).toMatchObject({ width: 700, widths: [480, 700] });
    const served = await fetch(`${ruta.site}/media/${stored.id}/480.avif`);
    expect(served.headers.get('content-type')).toBe('image/avif');
    expect((await sharp(Buffer.from(await served.arrayBuffer())).metadata()).width).toBe(480);
  });

  it.each([
    ['script.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>', 400],
    ['page.png', '<html>not a picture</html>', 400],
    ['large.png', 'x'.repeat(15 * 1024 * 1024 + 1), 413],
  ])('refuses %s as a picture, beside the field', async (name, content, status) => {
    const response = await seller.upload('pictures', name, content);
    expect(response.status).toBe(status);
    expect((await problem(response)).errors?.[0]?.path).toBe('file');
  });

  it('hands files out as bytes to keep, never as a page to run', async () => {
    const stored = (await (await seller.upload('downloads', 'page.html', '<script>alert(1)</script>')).json()) as { contentType: string; name: string };
    expect(stored).toMatchObject({ name: 'page.html', contentType: 'application/octet-stream' });
    expect((await seller.upload('downloads', 'empty.pdf', '')).status).toBe(400);
  });

  it('never changes what was sold when a price changes', async () => {
    const product = await seller.make('/products', selling('Thing', { kind: 'one-time', regular: 100 }));
    const changed = await seller.make(`/products/${product.id}`, selling('Thing', { kind: 'one-time', regular: 300 }), 'PUT');
    expect(changed.editions[0].prices[0].price.regular).toBe(300);
    expect((await seller.make(`/products/${product.id}/archived`, { archived: true }, 'PUT')).archivedAt).not.toBeNull();
    expect((await seller.rows('/products')).some((each: { id: string }) => each.id === product.id)).toBe(false);
  });
});

describe('funnels and pages', () => {
  it('take no address twice, nor one the site needs itself', async () => {
    const funnel = await seller.sellingFunnel();
    const product = funnel.productId;
    for (const slug of [funnel.slug, 'pay']) {
      const response = await seller.send('/funnels', { name: 'Other', slug, template: 'straight-sale', productId: product });
      expect(response.status).toBe(409);
      expect((await problem(response)).errors?.[0]?.path).toBe('slug');
    }
    // Without a wish a free one is found.
    const other = await seller.make('/funnels', { name: 'Straight', template: 'straight-sale', productId: product });
    expect(other.slug).not.toBe(funnel.slug);
    const step = other.graph.steps.find((each: { kind: string }) => each.kind === 'thank-you');
    const taken = await seller.send(`/steps/${step.id}`, { name: 'Thanks', slug: 'checkout', productId: null }, 'PUT');
    expect((await problem(taken)).errors?.[0]).toMatchObject({ path: 'slug', message: expect.stringContaining('Checkout') });
  });

  it('refuse a malformed page and name the path, and keep what was there', async () => {
    const funnel = await seller.sellingFunnel();
    const { page, revision } = await seller.read(`/steps/${funnel.entry}/page`);
    const broken = structuredClone(page);
    broken.sections[1].columns[0].elements[0].level = 9;
    const response = await seller.send(`/steps/${funnel.entry}/page`, { revision, page: broken }, 'PUT');
    expect(response.status).toBe(400);
    expect((await problem(response)).errors?.[0]?.path).toBe('page.sections.1.columns.0.elements.0.level');
    expect((await seller.read(`/steps/${funnel.entry}/page`)).page).toEqual(page);
    expect((await seller.send(`/steps/${funnel.entry}/page`, 'nonsense', 'PUT')).status).toBe(400);
  });

  it('let no window overwrite another unseen', async () => {
    const funnel = await seller.sellingFunnel();
    const { page, revision } = await seller.read(`/steps/${funnel.entry}/page`);
    await seller.make(`/steps/${funnel.entry}/page`, { revision, page: { ...page, title: 'Mine' } }, 'PUT');
    const stale = await seller.send(`/steps/${funnel.entry}/page`, { revision, page: { ...page, title: 'Yours' } }, 'PUT');
    expect(stale.status).toBe(409);
    expect((await seller.read(`/steps/${funnel.entry}/page`)).page.title).toBe('Mine');
  });

  it('show visitors what is published, and drafts to nobody', async () => {
    const funnel = await seller.sellingFunnel();
    const { page, revision } = await seller.read(`/steps/${funnel.entry}/page`);
    await seller.make(`/steps/${funnel.entry}/page`, { revision, page: { ...page, title: 'A new title' } }, 'PUT');
    const title = async () => /<title>([^<]*)/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1];
    expect(await title()).not.toBe('A new title');
    expect((await seller.read(`/funnels/${funnel.id}`)).changes.stepIds).toEqual([funnel.entry]);
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    expect(await title()).toBe('A new title');
    // Bound to the product, the page follows its price at once.
    await seller.make(`/products/${funnel.productId}`, selling('First Light', { kind: 'one-time', regular: 22_200 }), 'PUT');
    expect(await (await fetch(`${ruta.site}/${funnel.slug}`)).text()).toContain('€222');
  });

  it('cannot go live selling something that cannot be sold', async () => {
    const funnel = await seller.sellingFunnel();
    await seller.make(`/products/${funnel.productId}/archived`, { archived: true }, 'PUT');
    const response = await seller.send(`/funnels/${funnel.id}/publish`, {});
    expect(response.status).toBe(409);
    expect((await problem(response)).errors).toEqual([{ path: funnel.checkout, message: expect.stringContaining('archived') }]);
  });
});
