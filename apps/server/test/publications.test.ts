import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { Installation } from './support/installation';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
let other: typeof funnel;
beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ price: 10_000 });
  other = await seller.sellingFunnel({ gift: true });
});
afterAll(() => ruta.stop());

const detail = () => seller.read(`/funnels/${funnel.id}`);
const publish = () => seller.make(`/funnels/${funnel.id}/publish`, {});
const offline = (page: object | null) => seller.send(`/funnels/${funnel.id}/offline`, { page }, 'PUT');
const asks = (path: string) => fetch(ruta.site + path, { redirect: 'manual' });
/** Writes something else over the first headline of the first page. */
async function write(text: string): Promise<void> {
  const { graph } = await detail();
  const { revision, page } = await seller.read(`/steps/${graph.entryId}/page`);
  const [headline] = page.sections.flatMap((section: { columns: Array<{ elements: Array<{ type: string }> }> }) =>
    section.columns.flatMap(({ elements }) => elements.filter(({ type }) => type === 'headline')),
  );
  headline.words = [{ type: 'text', text }];
  await seller.make(`/steps/${graph.entryId}/page`, { revision, page }, 'PUT');
}

describe('the publications of a funnel', () => {
  it('are listed with who, when and what, and any is the draft again without a page being lost', async () => {
    await write('The second version');
    await seller.make(`/funnels/${funnel.id}`, { name: 'Straight on', slug: funnel.slug }, 'PUT');
    await publish();
    const { rows, before } = await seller.read(`/funnels/${funnel.id}/publications`);
    expect(before).toBeNull();
    expect(rows).toMatchObject([
      { version: 2, isLive: true, by: expect.any(String), at: expect.any(Number) },
      { version: 1, isLive: false, changes: [] },
    ]);
    expect(rows[0].changes).toMatchObject([
      { step: null, what: ['Renamed from “Straight” to “Straight on”'] },
      { what: [expect.stringContaining('became “The second version”')] },
    ]);

    await write('Not published yet');
    const { changes, name, graph } = await seller.make(`/funnels/${funnel.id}/publications/1/draft`, {});
    expect({ changes, name }).toEqual({ changes: { stepIds: [graph.entryId], settings: true }, name: 'Straight' });
    expect(JSON.stringify((await seller.read(`/steps/${graph.entryId}/page`)).page)).not.toContain('The second');
    // Visitors see nothing of it, and what was being written is kept.
    expect(await (await asks(`/${funnel.slug}`)).text()).toContain('The second version');
    const [kept] = await seller.read(`/steps/${graph.entryId}/versions`);
    expect(kept).toMatchObject({ name: 'Before going back to version 1', isLive: false });
    expect(JSON.stringify((await seller.read(`/steps/${graph.entryId}/versions/${kept.id}`)).page)).toContain('Not published yet');
    expect((await seller.send(`/funnels/${funnel.id}/publications/99/draft`, {})).status).toBe(404);
    await publish();
    expect(await (await asks(`/${funnel.slug}`)).text()).not.toContain('The second version');
  });

  it('brings steps back that were taken off since, with their pages and routes', async () => {
    const before = await detail();
    const thanks = before.graph.steps.find(({ kind }: { kind: string }) => kind === 'thank-you');
    const routes = before.graph.routes.filter(({ to }: { to: string }) => to === thanks.id);
    await seller.make(`/funnels/${funnel.id}/map`, {
      revision: before.revision,
      operations: [...routes.map(({ id }: { id: string }) => ({ kind: 'removeRoute', routeId: id })), { kind: 'removeStep', stepId: thanks.id }],
    });
    expect((await detail()).graph.steps).not.toContainEqual(expect.objectContaining({ id: thanks.id }));
    const back = await seller.make(`/funnels/${funnel.id}/publications/3/draft`, {});
    expect(back.graph).toEqual(before.graph);
    expect(back.changes).toEqual({ stepIds: [], settings: false });
  });
});

describe('a funnel that is taken offline', () => {
  it('shows a message, a page of another funnel or another address instead, and leads who has paid to their order', async () => {
    const buyer = new Buyer(ruta.site);
    await buyer.openCheckout(`/${funnel.slug}/checkout`);
    const { body } = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'before@moonmail.test' });
    const thanks = new URL(body.redirect ?? '', ruta.site);

    const slow = new Buyer(ruta.site);
    await slow.openCheckout(`/${funnel.slug}/checkout`);
    expect((await offline({ kind: 'message', words: 'We open again in spring.' })).status).toBe(200);
    for (const path of ['', '/checkout', '/nothing-here']) {
      const answer = await asks(`/${funnel.slug}${path}`);
      expect([answer.status, answer.headers.get('cache-control')]).toEqual([503, 'no-store']);
      expect(await answer.text()).toContain('We open again in spring.');
    }
    expect((await asks(thanks.pathname + thanks.search)).headers.get('location')).toMatch(/\/order\/[\w-]+$/);
    // A checkout that is still open in some window charges nothing.
    const late = await slow.pay(funnel.checkout, ruta.standinsUrl, CARD.good, { email: 'late@moonmail.test' });
    expect([late.status, late.body.message ?? '']).toEqual([404, expect.stringContaining('Nothing was charged')]);
    expect((await seller.read('/funnels')).rows.find(({ id }: { id: string }) => id === funnel.id).live).toBe(false);

    await offline({ kind: 'step', stepId: other.entry });
    expect((await asks(`/${funnel.slug}?utm_source=letter`)).headers.get('location')).toBe(`/${other.slug}?utm_source=letter`);
    await offline({ kind: 'address', url: 'https://elsewhere.example.test/spring' });
    expect((await asks(`/${funnel.slug}`)).headers.get('location')).toBe('https://elsewhere.example.test/spring');

    expect((await offline(null)).status).toBe(200);
    expect((await asks(`/${funnel.slug}`)).status).toBe(200);
    // Publishing puts it online, too.
    await offline({ kind: 'message', words: '' });
    expect(await (await asks(`/${funnel.slug}`)).text()).toContain('This page is not available at the moment.');
    await publish();
    expect((await asks(`/${funnel.slug}`)).status).toBe(200);
  });

  it('refuses a page of its own, an address that is none, and a funnel that was never published', async () => {
    const own = await offline({ kind: 'step', stepId: funnel.checkout });
    expect([own.status, (await own.json()).errors]).toEqual([
      422,
      [{ path: 'page.stepId', message: 'Choose a page of another funnel: this one goes offline too.' }],
    ]);
    for (const url of ['javascript:alert(1)', 'elsewhere']) expect((await offline({ kind: 'address', url })).status).toBe(400);
    const draft = await seller.make('/funnels', { name: 'Draft', template: 'straight-sale', productId: funnel.productId });
    expect((await seller.send(`/funnels/${draft.id}/offline`, { page: { kind: 'message' } }, 'PUT')).status).toBe(409);
  });
});

describe('an address as a QR code', () => {
  it('is drawn for whoever is signed in, and for addresses alone', async () => {
    const code = (address: string, as = 'svg') => seller.get(`/api/qr?${new URLSearchParams({ address, as })}`);
    const svg = await code(`${ruta.site}/${funnel.slug}?utm_source=poster`);
    expect([svg.headers.get('content-type'), (await svg.text()).slice(0, 4)]).toEqual(['image/svg+xml; charset=utf-8', '<svg']);
    expect((await (await code(ruta.site, 'png')).arrayBuffer()).byteLength).toBeGreaterThan(1_000);
    expect((await code('javascript:alert(1)')).status).toBe(400);
    expect((await fetch(`${ruta.studio}/api/qr?address=${encodeURIComponent(ruta.site)}`)).status).toBe(401);
  });
});
