import Database from 'better-sqlite3';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, Seller } from './support/clients';
import { Installation } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
});
afterAll(() => ruta.stop());

const text = async (path: string) => (await fetch(ruta.site + path)).text();

/** Publishes the entry page with its first button doing something. @returns the button's id */
async function publishedButton(action: object): Promise<string> {
  const { page, revision } = await seller.read(`/steps/${funnel.entry}/page`);
  type Element = { id: string; type: string; action?: object };
  const elements = page.sections.flatMap((section: { columns: Array<{ elements: Element[] }> }) => section.columns.flatMap((column) => column.elements));
  const button = elements.find((element: Element) => element.type === 'button');
  button.action = action;
  await seller.make(`/steps/${funnel.entry}/page`, { revision, page }, 'PUT');
  await seller.make(`/funnels/${funnel.id}/publish`, {});
  return button.id;
}

describe('the public site', () => {
  it('describes what is sold to machines, and says which address is the page’s own', async () => {
    const page = await text(`/${funnel.slug}`);
    const data = JSON.parse(/<script type="application\/ld\+json">(.*?)<\/script>/.exec(page)?.[1] ?? '{}');
    expect(data).toMatchObject({ '@type': 'Product', name: 'First Light', offers: { '@type': 'Offer', price: '138.00', priceCurrency: 'EUR' } });
    expect(page).toContain(`<link rel="canonical" href="${ruta.site}/${funnel.slug}"/>`);
    expect(page).toContain('property="og:title"');
  });

  it('lists to search engines what may be listed, and keeps them out of the rest', async () => {
    const map = await text('/sitemap.xml');
    expect(map).toContain(`<loc>${ruta.site}/${funnel.slug}</loc>`);
    expect(map).not.toContain('checkout');
    expect(await text('/robots.txt')).toContain('Disallow: /pay/');
    expect(await text(`/${funnel.slug}/checkout`)).toContain('<meta name="robots" content="noindex"/>');
  });

  it('shows a link with a picture of the size and kind that every network takes', async () => {
    const { page, revision } = await seller.read(`/steps/${funnel.entry}/page`);
    for (const [width, height] of [
      [1600, 900],
      [500, 1500],
    ] as const) {
      const drawn = await sharp({ create: { width, height, channels: 3, background: '#b04030' } })
        .png()
        .toBuffer();
      const { id } = (await (await seller.upload('pictures', 'red.png', new Uint8Array(drawn))).json()) as { id: string };
      const { revision: now } = await seller.read(`/steps/${funnel.entry}/page`);
      await seller.make(`/steps/${funnel.entry}/page`, { revision: now, page: { ...page, shareImageId: id, iconId: id } }, 'PUT');
      await seller.make(`/funnels/${funnel.id}/publish`, {});
      const html = await text(`/${funnel.slug}`);
      const address = /property="og:image" content="([^"]+)"/.exec(html)?.[1] ?? '';
      expect(html).toContain('<meta property="og:image:width" content="1200"/>');
      const shown = await fetch(address);
      expect(shown.headers.get('content-type')).toBe('image/jpeg');
      const picture = sharp(Buffer.from(await shown.arrayBuffer()));
      expect(await picture.metadata()).toMatchObject({ format: 'jpeg', width: 1200, height: 630 });
      const [red, green] = await picture.extract({ left: 595, top: 310, width: 4, height: 4 }).raw().toBuffer();
      expect((red ?? 0) - (green ?? 0)).toBeGreaterThan(90);
      const icon = await fetch(`${ruta.site}/media/${id}/icon-180.png`);
      expect(html).toContain(`href="/media/${id}/icon-180.png"`);
      expect(await sharp(Buffer.from(await icon.arrayBuffer())).metadata()).toMatchObject({ format: 'png', width: 180, height: 180 });
      expect((await fetch(`${ruta.site}/media/${id}/icon-181.png`)).status).toBe(404);
    }
    const { revision: last } = await seller.read(`/steps/${funnel.entry}/page`);
    await seller.make(`/steps/${funnel.entry}/page`, { revision: last, page }, 'PUT');
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    expect(revision).toBeLessThan(last);
  });

  it('has its first letter for an icon, for every program that asks for one', async () => {
    const ico = Buffer.from(await (await fetch(`${ruta.site}/favicon.ico`)).arrayBuffer());
    expect([ico.readUInt16LE(0), ico.readUInt16LE(2), ico.readUInt16LE(4)]).toEqual([0, 1, 2]);
    for (const [index, side] of [16, 32].entries()) {
      const [length, offset] = [ico.readUInt32LE(6 + 16 * index + 8), ico.readUInt32LE(6 + 16 * index + 12)];
      expect(ico[6 + 16 * index]).toBe(side);
      expect(await sharp(ico.subarray(offset, offset + length)).metadata()).toMatchObject({ format: 'png', width: side, height: side });
    }
    const large = await fetch(`${ruta.site}/favicon-180.png`);
    const { data, info } = await sharp(Buffer.from(await large.arrayBuffer()))
      .raw()
      .toBuffer({ resolveWithObject: true });
    // The letter's own colour stands on the ground of the icon: it was drawn, whatever typefaces this machine has.
    const light = Array.from({ length: info.width * info.height }, (_, at) => data[at * info.channels] ?? 0).filter((red) => red > 200).length;
    expect(light).toBeGreaterThan(400);
    expect((await fetch(`${ruta.site}/favicon-33.png`)).status).toBe(404);
  });

  it('answers unchanged pages without sending them again, and squeezed where that is understood', async () => {
    const first = await fetch(`${ruta.site}/${funnel.slug}`);
    const etag = first.headers.get('etag') ?? '';
    expect(first.headers.get('content-encoding')).toBe('gzip');
    const again = await fetch(`${ruta.site}/${funnel.slug}`, { headers: { 'if-none-match': etag } });
    expect(again.status).toBe(304);
    const plain = await fetch(`${ruta.site}/${funnel.slug}`, { headers: { 'accept-encoding': 'identity' } });
    expect(plain.headers.get('content-encoding')).toBeNull();
    expect(await plain.text()).toBe(await first.text());
    expect((await fetch(`${ruta.site}/${funnel.slug}/checkout`)).headers.get('cache-control')).toContain('no-store');
  });

  it('lets no script run that is not its own, and no other site frame it', async () => {
    const { headers } = await fetch(`${ruta.site}/${funnel.slug}`);
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'self'");
    expect(policy).not.toContain("script-src 'unsafe-inline'");
    expect(policy).toContain("frame-ancestors 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    const studio = (await fetch(ruta.studio)).headers.get('content-security-policy') ?? '';
    expect(studio).toContain("script-src 'self'");
    expect(studio).toContain("frame-ancestors 'none'");
  });

  it('says in the shop’s own look that an address leads nowhere', async () => {
    for (const path of ['/nothing', `/${funnel.slug}/nothing`, '/go/stp_0000000000', '/d/grt_000000']) {
      const response = await fetch(ruta.site + path);
      expect(response.status, path).toBe(404);
      expect(await response.text(), path).toContain('Perigee Lane');
    }
  });

  it('leads a button to the next stop, and to no stop of another funnel', async () => {
    const visitor = new Buyer(ruta.site);
    await visitor.visit(`/${funnel.slug}`);
    expect((await visitor.get(`/go/${funnel.entry}`)).headers.get('location')).toBe(`/${funnel.slug}/checkout`);
    // What a button does is read from the published page, never from the address.
    expect((await visitor.get(`/go/${funnel.entry}?to=${funnel.thankYou}`)).headers.get('location')).toBe(`/${funnel.slug}/checkout`);
    const button = await publishedButton({ kind: 'step', stepId: funnel.thankYou });
    expect((await visitor.get(`/go/${funnel.entry}?by=${button}`)).headers.get('location')).toBe(`/${funnel.slug}/thank-you`);
    expect((await visitor.get(`/go/${funnel.checkout}?by=${button}`)).status).toBe(404);
    await publishedButton({ kind: 'address', url: 'https://perigeelane.test/book' });
    expect((await visitor.get(`/go/${funnel.entry}?by=${button}`)).headers.get('location')).toBe('https://perigeelane.test/book');
    const other = await seller.sellingFunnel();
    await expect(publishedButton({ kind: 'step', stepId: other.checkout })).rejects.toThrow('A button leads to a stop that no longer exists.');
  });

  it('moves a funnel to another address when it is published there, not before', async () => {
    const moving = await seller.sellingFunnel();
    await seller.make(`/funnels/${moving.id}`, { name: 'Moved', slug: 'moved-here' }, 'PUT');
    expect((await fetch(`${ruta.site}/${moving.slug}`)).status).toBe(200);
    expect((await fetch(`${ruta.site}/moved-here`)).status).toBe(404);
    await seller.make(`/funnels/${moving.id}/publish`, {});
    expect((await fetch(`${ruta.site}/moved-here`)).status).toBe(200);
    // Links that are out in the world lead on, with whatever they carry.
    const led = async (path: string) => (await fetch(ruta.site + path, { redirect: 'manual' })).headers.get('location');
    expect(await led(`/${moving.slug}?code=NIGHT`)).toBe('/moved-here?code=NIGHT');
    expect(await led(`/${moving.slug}/checkout`)).toBe('/moved-here/checkout');
    // So do those to a stop whose own address has changed.
    await seller.make(`/steps/${moving.checkout}`, { name: 'Checkout', slug: 'pay-here', productId: moving.productId }, 'PUT');
    await seller.make(`/funnels/${moving.id}/publish`, {});
    expect(await led('/moved-here/checkout')).toBe('/moved-here/pay-here');
    expect(await led(`/${moving.slug}/checkout`)).toBe('/moved-here/pay-here');
    expect((await fetch(`${ruta.site}/never-was-here`)).status).toBe(404);
  });

  it('shows a thank-you page to nobody else', async () => {
    const page = await text(`/${funnel.slug}/thank-you?order=${'x'.repeat(24)}`);
    expect(page).toContain('There is no order here');
    expect(page).not.toContain('lesson.pdf');
  });

  it('recounts the total for another country by the server’s own table', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const answer = (await (await buyer.json(`/pay/${funnel.checkout}/quote`, { country: 'HU', shown: '1' })).json()) as {
      quote: { html: string; dueToday: number };
    };
    // 138.00 × 27 ÷ 127 = 29.34
    expect(answer.quote).toMatchObject({ dueToday: 13_800, html: expect.stringContaining('includes €29.34 tax (Hungary 27 %)') });
  });
});

describe('what the studio is told', () => {
  it('is described for other programs', async () => {
    const document = await seller.read('/openapi.json');
    expect(document.openapi).toBe('3.1.0');
    for (const kind of ['pictures', 'downloads', 'videos']) {
      expect(Object.keys(document.paths[`/api/uploads/${kind}`].post.requestBody.content)).toEqual(['multipart/form-data']);
    }
    expect(document.paths['/api/products/{id}'].put.requestBody.content['application/json'].schema.properties).toHaveProperty('editions');
  });

  it('today, begins with the next thing to do for a new shop and ends with nothing', async () => {
    const before = await seller.read('/today');
    expect(before.nextSteps.filter((step: { done: boolean }) => !step.done).map((step: { title: string }) => step.title)).toEqual(['Make a first sale']);
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    await buyer.pay(funnel.checkout, ruta.standinsUrl, '9000000000000019');
    const after = await seller.read('/today');
    expect(after.nextSteps).toEqual([]);
    // 138.00 to the Netherlands without its 23.95 tax
    expect(after.today).toEqual({ orders: 1, revenue: 11_405, leads: 1 });
  });

  it('names who left at the checkout as soon as there is an address', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    await buyer.json(`/pay/${funnel.checkout}/contact`, buyer.order({ email: 'left@moonmail.test' }));
    const raw = new Database(`${ruta.data}/shop.sqlite`);
    raw.prepare('UPDATE carts SET updated_at = updated_at - 3700000').run();
    raw.close();
    // What is told leads to just these carts, each with what is in it and the way back.
    const { link } = (await seller.read('/today')).needs.find(({ title }: { title: string }) => title.includes('abandoned'));
    const { rows } = await seller.read(`/carts?${new URL(link, ruta.studio).searchParams}`);
    const [left] = rows.filter(({ email }: { email: string }) => email === 'left@moonmail.test');
    expect(left).toMatchObject({ name: 'Ilse', goods: 'First Light', funnelName: 'Straight' });
    expect(await seller.read(`/carts/count?search=left@moonmail`)).toEqual({ count: 1, total: 13_800 });
    const led = await new Buyer(ruta.site).get(new URL(left.link).pathname);
    expect(led.headers.get('location')).toMatch(new RegExp(`^/${funnel.slug}/checkout\\?cart=`));
    // Coming back finds the cart as it was.
    expect(await buyer.openCheckout(`/${funnel.slug}/checkout`)).toContain('value="left@moonmail.test"');
  });
});
