import { newElement, words } from '@ruta/core/elements';
import type { Graph } from '@ruta/core/funnel';
import type { PageDocument } from '@ruta/core/page';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, mails, Seller } from './support/clients';
import { Installation, until } from './support/installation';
import { freshId } from './support/offers';

let ruta: Installation;
let seller: Seller;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel({ gift: true });
});
afterAll(() => ruta.stop());

const made = (type: Parameters<typeof newElement>[0], changes: object = {}) =>
  JSON.parse(JSON.stringify({ ...newElement(type, (kind) => freshId(kind === 'element' ? 'elm' : kind)), ...changes }).replaceAll(',"placeholder":true', ''));

/** Changes the page that visitors see first, and puts it live. */
async function publishPage(change: (page: PageDocument) => void): Promise<string> {
  const { page, revision } = (await seller.read(`/steps/${funnel.entry}/page`)) as { page: PageDocument; revision: number };
  change(page);
  await seller.make(`/steps/${funnel.entry}/page`, { revision, page }, 'PUT');
  await seller.make(`/funnels/${funnel.id}/publish`, {});
  return (await fetch(`${ruta.site}/${funnel.slug}`)).text();
}
const add = (page: PageDocument, ...elements: object[]) => page.sections[1]?.columns[0]?.elements.push(...(elements as never[]));

describe('a page from its new parts', () => {
  it('shows own HTML without anything that runs or breaks out, and closes what was left open', async () => {
    const code =
      '<p onclick="x()">Hello <b>there<script>alert(1)</script><iframe src="https://evil.test"></iframe><a href="javascript:x()">a</a></p><div style="position:fixed;color:red">';
    const html = await publishPage((page) => add(page, made('html', { code })));
    const own = /<div class="own-html">(.*?)<\/div><\/div>|<div class="own-html">(.*?)<\/div>/s.exec(html)?.[0] ?? '';
    expect(own).toContain('<p>Hello <b>there<a>a</a></b></p><div style="color:red">');
    expect(html).not.toMatch(/onclick|alert\(1\)|evil\.test|javascript:|position:fixed/);
  });
  it('runs the seller’s own code on the public site only, and lets it load what it asks for only there', async () => {
    const before = await fetch(`${ruta.site}/${funnel.slug}`);
    expect(before.headers.get('content-security-policy')).not.toContain('script-src');
    const html = await publishPage((page) => {
      page.code = { head: '<meta name="own" content="head">', body: '<script>window.own = "$& body"</script>' };
    });
    expect(html).toContain('<meta name="own" content="head"></head>');
    expect(html).toContain('<script>window.own = "$& body"</script></body>');
    const policy = (await fetch(`${ruta.site}/${funnel.slug}`)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("script-src 'self' 'unsafe-inline' https:");
    // The checkout of the same funnel has no code of its own.
    const checkout = await fetch(`${ruta.site}/${funnel.slug}/checkout`);
    expect(checkout.headers.get('content-security-policy')).not.toContain('script-src');
    expect((await fetch(ruta.studio)).headers.get('content-security-policy')).toContain("script-src 'self'");
    await publishPage((page) => {
      page.code = undefined;
    });
  });
  it('carries what each size of screen needs, and nothing of what the page does not use', async () => {
    const plain = await publishPage(() => undefined);
    expect(plain).not.toContain('.price-table');
    expect(plain).not.toContain('phone-hide');
    const html = await publishPage((page) =>
      add(page, made('price-table'), made('divider', { layout: { width: 'half', sizes: { phone: { hide: true, order: 2 } } } })),
    );
    expect(html).toContain('.price-table');
    expect(html).toContain('class="layout share-half phone-hide phone-order-2"');
    expect(html).toContain('.phone-hide{display:none!important}.phone-order-2{order:2}');
  });
  it('has pop-ups that need no script to be closed, and a script that opens them', async () => {
    const html = await publishPage((page) => {
      const id = freshId('pop');
      page.popUps = [{ id, name: 'Before you go', trigger: { kind: 'leaving' }, often: 'week', width: 'normal' }];
      const [, inside] = structuredClone(page.sections) as [unknown, PageDocument['sections'][number]];
      page.sections.push({
        ...inside,
        id: freshId('sec'),
        popUpId: id,
        columns: [{ id: freshId('col'), span: 12, elements: [made('text', { words: words('Stay a little') })] }],
      });
    });
    expect(html).toMatch(
      /<dialog class="opening opening-normal" id="pop_\w+" data-opens="leaving" data-often="week" aria-label="Before you go"><form method="dialog">/,
    );
    expect(html).toMatch(/<main[^>]*>((?!Stay a little).)*<\/main>/s);
    expect(html).toContain('/assets/scripts/page.js');
  });
  it('leads into the checkout with the choice made', async () => {
    const html = await publishPage((page) =>
      add(page, made('price-table', { cards: [{ optionId: null, title: [], points: [], button: words('Take it'), mark: [] }] })),
    );
    const href = /href="(\/go\/\w+\?by=elm_\w+&amp;option=\w+)"/.exec(html)?.[1]?.replaceAll('&amp;', '&') ?? '';
    const response = await fetch(ruta.site + href, { redirect: 'manual' });
    expect(response.headers.get('location')).toMatch(/\?option=prc_/);
  });
  it('can have a look of its own, which the rest of the shop does not take', async () => {
    const { brand } = await seller.read('/shop');
    await seller.make(`/funnels/${funnel.id}/look`, { brand: { ...brand, main: '#123456', look: 'poster' }, code: null }, 'PUT');
    expect((await seller.read(`/funnels/${funnel.id}`)).changes.settings).toBe(true);
    expect(await (await fetch(`${ruta.site}/${funnel.slug}`)).text()).not.toContain('#123456');
    expect(await publishPage(() => undefined)).toContain('content="#123456"');
    expect((await seller.read('/shop')).brand.main).not.toBe('#123456');
    expect((await seller.send(`/funnels/${funnel.id}/look`, { brand: { ...brand, main: 'blue' }, code: null }, 'PUT')).status).toBe(400);
  });
});

describe('two windows', () => {
  it('on the look or the name of a funnel: the one that began from an older state is refused, and says why', async () => {
    const { revisions, brand, code, name, slug } = await seller.read(`/funnels/${funnel.id}`);
    const put = (path: string, body: object, begun: string) => seller.send(path, body, 'PUT', { 'if-match': begun });
    expect((await put(`/funnels/${funnel.id}/look`, { brand, code: { head: '<!-- one -->', body: '' } }, revisions.look)).status).toBe(200);
    const late = await put(`/funnels/${funnel.id}/look`, { brand, code }, revisions.look);
    expect([late.status, (await late.json()).title]).toEqual([409, expect.stringContaining('The look of this funnel was changed in another window')]);
    expect((await seller.read(`/funnels/${funnel.id}`)).code.head).toBe('<!-- one -->');
    // The name is another matter: it is as this window knows it.
    expect((await put(`/funnels/${funnel.id}`, { name: `${name} two`, slug }, revisions.settings)).status).toBe(200);
    expect((await put(`/funnels/${funnel.id}`, { name, slug }, revisions.settings)).status).toBe(409);
    await seller.make(`/funnels/${funnel.id}/look`, { brand, code }, 'PUT');
  });
});

describe('videos', () => {
  const upload = (content: Uint8Array<ArrayBuffer>) => seller.upload('videos' as never, 'film.mp4', content);
  it('are told by their content, and sent in pieces', async () => {
    const film = new Uint8Array(2000).fill(7);
    film.set([0, 0, 0, 24, 0x66, 0x74, 0x79, 0x70], 0);
    const stored = (await (await upload(film)).json()) as { id: string };
    const part = await fetch(`${ruta.site}/video/${stored.id}`, { headers: { range: 'bytes=0-99' } });
    expect([part.status, part.headers.get('content-type'), (await part.arrayBuffer()).byteLength]).toEqual([206, 'video/mp4', 100]);
  });
  it('that are none are refused in words', async () => {
    const response = await upload(new TextEncoder().encode('<html>not a film</html>'));
    expect(response.status).toBe(400);
    expect(await response.text()).toContain('This is not a video that browsers play');
  });
});

describe('leads', () => {
  const fields = [
    { key: 'email', label: 'E-mail', kind: 'email', required: true },
    { key: 'question1', label: 'Which size?', kind: 'choice', required: false, choices: ['Small', '=SUM(A1)'] },
  ];
  const form = made('form', {
    fields,
    tags: ['reader'],
    consent: { words: words('Write to me.'), required: true },
    after: { kind: 'message', words: 'It has arrived.' },
  });
  const send = (more: Record<string, string>) =>
    new Buyer(ruta.site).form(`/go/${funnel.entry}/form`, { _form: form.id, email: 'reader@moonmail.test', ...more });
  const contactOf = async (email: string) => seller.read(`/contacts/${(await seller.rows(`/contacts?search=${email}`))[0].id}`);
  it('are kept by field with tags and the wording of consent, and told what was promised', async () => {
    await publishPage((page) => add(page, form));
    expect((await send({ question1: 'Small' })).status).toBe(422);
    const sent = await send({ question1: '=SUM(A1)', consent: 'yes' });
    expect(await sent.text()).toContain('It has arrived.');
    const contact = await contactOf('reader@moonmail.test');
    expect(contact.tags).toEqual(['reader']);
    expect(contact.answers.map(({ field, label, value }: Record<string, string>) => [field, label, value])).toEqual([
      ['consent', 'Write to me.', 'yes'],
      ['question1', 'Which size?', '=SUM(A1)'],
    ]);
    const tagged = await seller.make(`/contacts/${contact.id}/tags`, { tags: ['friend'] }, 'PUT');
    expect(tagged.tags).toEqual(['friend']);
  });
  it('can lead to an address of the seller’s own, which the page’s policy then allows, and no other page does', async () => {
    const outside = made('form', { fields: [fields[0]], after: { kind: 'address', url: 'https://example.test/thanks?from=ruta' } });
    await publishPage((page) => add(page, outside));
    const sent = await new Buyer(ruta.site).form(`/go/${funnel.entry}/form`, { _form: outside.id, email: 'led@moonmail.test' });
    expect([sent.status, sent.headers.get('location')]).toEqual([303, 'https://example.test/thanks?from=ruta']);
    expect((await contactOf('led@moonmail.test')).email).toBe('led@moonmail.test');
    const policyOf = async (path: string) => (await fetch(`${ruta.site}${path}`)).headers.get('content-security-policy');
    expect(await policyOf(`/${funnel.slug}`)).toMatch(/form-action [^;]*https:/);
    expect(await policyOf(`/${funnel.slug}/checkout`)).not.toMatch(/form-action [^;]*https:( |;)/);
    const { page, revision } = await seller.read(`/steps/${funnel.entry}/page`);
    const bad = JSON.parse(JSON.stringify(page).replace('https://example.test/thanks?from=ruta', 'javascript:alert(1)'));
    expect((await seller.send(`/steps/${funnel.entry}/page`, { revision, page: bad }, 'PUT')).status).toBe(400);
  });
  it('go out as CSV with a column for each field, and nothing a spreadsheet would reckon', async () => {
    const csv = await (await seller.get('/api/contacts/export')).text();
    const [head = ''] = csv.split('\r\n');
    expect(head).toContain('Which size?');
    const line = csv.split('\r\n').find((each) => each.includes('reader@moonmail.test')) ?? '';
    expect(line).toContain("'=SUM(A1)");
    expect(line).toContain('friend');
  });
  it('come from elsewhere with a key, by a form or a program, and never without an address', async () => {
    const source = await seller.make('/lead-sources', { name: 'Fair', tags: ['fair'], thanksUrl: 'https://example.test/thanks' });
    const program = (body: object) => fetch(source.address, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    expect((await program({ mail: 'fair@moonmail.test', stand: '12' })).status).toBe(202);
    const refused = await program({ mail: 'nobody' });
    expect([refused.status, await refused.json()]).toEqual([400, { title: 'Enter an e-mail address, for example name@example.test.' }]);
    const pasted = await fetch(source.address, { method: 'POST', body: new URLSearchParams({ email: 'form@moonmail.test' }), redirect: 'manual' });
    expect([pasted.status, pasted.headers.get('location')]).toEqual([303, 'https://example.test/thanks']);
    expect((await fetch(`${ruta.site}/leads/guessed`, { method: 'POST', body: new URLSearchParams({ email: 'x@moonmail.test' }) })).status).toBe(404);
    const contact = await contactOf('fair@moonmail.test');
    expect([contact.tags, contact.answers[0].value]).toEqual([['fair'], '12']);
    expect((await seller.read('/lead-sources'))[0]).toMatchObject({ received: 2, name: 'Fair' });
    expect(JSON.stringify(await seller.read('/lead-sources'))).not.toContain(source.address.split('/').at(-1));
  });
});

describe('own sections', () => {
  it('that are linked change on every draft, and live wherever they are live once one funnel is published', async () => {
    const other = await seller.sellingFunnel();
    const id = freshId('own');
    const draft = (stepId: string) => seller.read(`/steps/${stepId}/page`) as Promise<{ page: PageDocument; revision: number }>;
    const linked = {
      ...structuredClone((await draft(other.entry)).page.sections[1]),
      id: freshId('sec'),
      name: 'Ours',
      linkedTo: id,
      columns: [{ id: freshId('col'), span: 12, elements: [made('text', { words: words('As it was') })] }],
    };
    const [kept] = await seller.make('/own-sections', { id, name: 'Ours', section: linked });
    expect([kept.name, kept.pages]).toEqual(['Ours', 0]);
    for (const stepId of [funnel.entry, other.entry]) {
      const { page, revision } = await draft(stepId);
      page.sections.splice(2, 0, linked as never);
      await seller.make(`/steps/${stepId}/page`, { revision, page }, 'PUT');
    }
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    await seller.make(`/funnels/${other.id}/publish`, {});
    const before = await draft(other.entry);
    const { page, revision } = await draft(funnel.entry);
    const text = page.sections[2]?.columns[0]?.elements[0] as { words: unknown };
    text.words = words('As it is now');
    await seller.make(`/steps/${funnel.entry}/page`, { revision, page }, 'PUT');
    const followed = await draft(other.entry);
    expect(JSON.stringify(followed.page)).toContain('As it is now');
    expect(followed.revision).toBe(before.revision + 1);
    const live = async (slug: string) => (await fetch(`${ruta.site}/${slug}`)).text();
    expect(await live(other.slug)).toContain('As it was');
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    expect(await live(other.slug)).toContain('As it is now');
    expect((await seller.read('/own-sections'))[0].pages).toBe(2);
    await seller.make(`/own-sections/${id}`, undefined, 'DELETE');
    expect(JSON.stringify((await draft(other.entry)).page)).not.toContain(id);
  });
});

describe('versions of a page', () => {
  it('are kept under a name, and what was live can be gone back to', async () => {
    const { page } = (await seller.read(`/steps/${funnel.entry}/page`)) as { page: PageDocument };
    const [kept] = await seller.make(`/steps/${funnel.entry}/versions`, { name: 'Before the sale', page });
    expect(kept).toMatchObject({ name: 'Before the sale', isLive: false });
    expect((await seller.read(`/steps/${funnel.entry}/versions/${kept.id}`)).page).toEqual(page);
    const versions = await seller.read(`/steps/${funnel.entry}/versions`);
    const first = versions.find(({ id }: { id: string }) => id === 'live-1');
    expect(first.isLive).toBe(true);
    expect((await seller.read(`/steps/${funnel.entry}/versions/live-1`)).page.sections.length).toBeGreaterThan(1);
    expect((await seller.get(`/api/steps/${funnel.entry}/versions/live-99`)).status).toBe(404);
  });
  it('tell in words what publishing would change', async () => {
    const { page, revision } = (await seller.read(`/steps/${funnel.entry}/page`)) as { page: PageDocument; revision: number };
    page.title = 'Another title';
    await seller.make(`/steps/${funnel.entry}/page`, { revision, page }, 'PUT');
    expect(await seller.read(`/funnels/${funnel.id}/differences`)).toEqual([
      { stepId: funnel.entry, isNew: false, differences: [{ section: null, what: 'Public title changed' }] },
    ]);
  });
});

describe('open files', () => {
  const pictured = async () => {
    const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#b04030' } })
      .png()
      .toBuffer();
    const stored = (await (await seller.upload('pictures', 'red.png', new Uint8Array(picture))).json()) as { id: string };
    await publishPage((page) => add(page, made('picture', { source: { kind: 'file', fileId: stored.id }, alt: 'Red' })));
    return stored.id;
  };
  it('a page opens from a disk: HTML, style, typefaces and pictures in a ZIP, with nothing that counts', async () => {
    const id = await pictured();
    const zip = unzipSync(new Uint8Array(await (await seller.get(`/api/steps/${funnel.entry}/export/zip`)).arrayBuffer()));
    const html = new TextDecoder().decode(zip['index.html']);
    const style = new TextDecoder().decode(zip['style.css']);
    expect(html).toContain('<link rel="stylesheet" href="style.css">');
    expect(html).toContain(`pictures/${id}-60.webp`);
    expect(Object.keys(zip)).toContain(`pictures/${id}-60.webp`);
    for (const [, font] of style.matchAll(/url\((fonts\/[\w.-]+)\)/g)) expect(Object.keys(zip)).toContain(font);
    expect(html).not.toMatch(/(href|src|action)="\//);
    expect(html).not.toMatch(/view\.js|pixel\.gif/);
  });
  it('a funnel comes back as a draft with pages and pictures of its own', async () => {
    const id = await pictured();
    const bundle = await seller.read(`/funnels/${funnel.id}/export/json`);
    expect(bundle.pictures.map((picture: { id: string }) => picture.id)).toContain(id);
    // Stopped while it was on its way: nothing is taken in.
    const had = (await seller.rows('/funnels')).length;
    expect(await seller.make('/tasks/tsk_bundle0000', undefined, 'DELETE')).toEqual({ stopped: true });
    expect((await seller.send('/funnels/import?task=tsk_bundle0000', bundle)).status).toBe(409);
    expect((await seller.rows('/funnels')).length).toBe(had);
    const { funnelId, missing } = await seller.make('/funnels/import?task=tsk_bundle0001', bundle);
    expect((await seller.rows('/funnels')).length).toBe(had + 1);
    expect(missing).toEqual([]);
    const [before, after] = await Promise.all([seller.read(`/funnels/${funnel.id}`), seller.read(`/funnels/${funnelId}`)]);
    expect(after.graph.steps.map(({ kind, name }: { kind: string; name: string }) => [kind, name])).toEqual(
      before.graph.steps.map(({ kind, name }: { kind: string; name: string }) => [kind, name]),
    );
    expect(after.graph.steps[0].sells[0].productId).toBe(before.graph.steps[0].sells[0].productId);
    const { page, pictures } = await seller.read(`/steps/${after.graph.entryId}/page`);
    const shown = JSON.stringify(page);
    expect(shown).not.toContain(id);
    expect(shown).toContain(Object.keys(pictures).at(-1));
  });
  it.each([
    ['two steps of one id', (graph: Graph) => ({ ...graph, steps: [...graph.steps, { ...graph.steps[0], slug: 'another' }] }), 'Two stops have the same id'],
    [
      'two steps of one address',
      (graph: Graph) => ({ ...graph, steps: graph.steps.map((step) => ({ ...step, slug: 'one' })) }),
      'Two stops have the same address',
    ],
    [
      'a route to nowhere',
      (graph: Graph) => ({ ...graph, routes: graph.routes.map((route) => ({ ...route, to: 'stp_nowhere000' })) }),
      'A route leads from or to a stop that is not in it',
    ],
    ['a beginning that is not there', (graph: Graph) => ({ ...graph, entryId: 'stp_nowhere000' }), 'The funnel begins at a stop that is not in it'],
  ])('a funnel of %s is damaged, and said to be', async (_what, broken, words) => {
    const bundle = await seller.read(`/funnels/${funnel.id}/export/json`);
    const response = await seller.send('/funnels/import', { ...bundle, graph: broken(bundle.graph) });
    expect([response.status, ((await response.json()) as { title: string }).title]).toEqual([400, expect.stringContaining(words)]);
  });
  it('carry the sign of a funnel’s own look, which stands on its mails too, as mail programs can read it', async () => {
    const id = await pictured();
    const brand = { main: '#2A1B3D', accent: '#E08A00', ground: '#FFFFFF', fonts: 'oswald', corner: 4, look: 'poster', logoId: id };
    await seller.make(`/funnels/${funnel.id}/look`, { brand, code: null }, 'PUT');
    const bundle = await seller.read(`/funnels/${funnel.id}/export/json`);
    const { funnelId } = await seller.make('/funnels/import', bundle);
    const { brand: taken } = await seller.read(`/funnels/${funnelId}`);
    expect(taken).toMatchObject({ look: 'poster', logoId: expect.stringMatching(/^fil_/) });
    expect(taken.logoId).not.toBe(id);
    // Mails follow what is live, not the draft.
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    const formId = /name="_form" value="(\w+)"/.exec(await (await fetch(`${ruta.site}/${funnel.slug}`)).text())?.[1] ?? '';
    await new Buyer(ruta.site).form(`/go/${funnel.entry}/form`, { _form: formId, email: 'sign@moonmail.test', firstName: 'Marta' });
    await until(async () => (await mails(ruta.standinsUrl, 'sign@moonmail.test')).length > 0, 'the gift is mailed');
    const [{ html }] = await mails(ruta.standinsUrl, 'sign@moonmail.test');
    const sign = /<img src="([^"]+)" alt="Perigee Lane"/.exec(html)?.[1] ?? '';
    expect(sign).toMatch(new RegExp(`/media/${id}/480\\.png$`));
    expect(html).toContain('Oswald');
    expect(html).toContain('background:#E08A00');
    const png = new Uint8Array(await (await fetch(sign)).arrayBuffer());
    expect((await sharp(png).metadata()).format).toBe('png');
  });
  it('say what is missing, and what cannot be read, in words', async () => {
    const id = await pictured();
    const bundle = await seller.read(`/steps/${funnel.entry}/export/json`);
    const without = await seller.make('/pages/import', { ...bundle, pictures: [] });
    expect(without.missing).toContain(`A picture or video is not in the file (${id}).`);
    expect(JSON.stringify(without.page)).toContain('"source":null');
    const refusal = async (body: object) => (await (await seller.send('/pages/import', body)).json()).errors[0].message;
    expect(await refusal({ ...bundle, version: 99 })).toContain('newer version of Ruta');
    expect(await refusal({ hello: 'world' })).toBe('This file is no page or funnel of Ruta.');
    expect(await refusal({ ...bundle, page: { ...bundle.page, title: '' } })).toContain('This file is damaged: Give the page a public title.');
    expect(await refusal(await seller.read(`/funnels/${funnel.id}/export/json`))).toContain('holds a whole funnel');
  });
});
