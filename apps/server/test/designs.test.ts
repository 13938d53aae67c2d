import { newElement, words } from '@ruta/core/elements';
import type { PageDocument } from '@ruta/core/page';
import { DESIGNS } from '@ruta/core/templates';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, Seller } from './support/clients';
import { Installation } from './support/installation';
import { freshId } from './support/offers';
import { writeOwnWords } from './support/ownWords';
import { selling } from './support/products';

let ruta: Installation;
let seller: Seller;
let productId: string;
let giftId: string;

beforeAll(async () => {
  ruta = await Installation.start();
  seller = await Seller.ofNewShop(ruta.studio);
  productId = (await seller.make('/products', selling('A Thing', { kind: 'one-time', regular: 4_800 }))).id;
  giftId = (await seller.make('/products', selling('A Gift', { kind: 'free' }))).id;
});
afterAll(() => ruta.stop());

const draw = (design: string, more: object = {}) => {
  const { template } = DESIGNS.find((each) => each.design === design) as (typeof DESIGNS)[number];
  return seller.make('/funnels', { name: `With ${design}`, template, design, productId, giftId, ...more });
};

describe('a funnel drawn by a design', () => {
  it('takes its look where the seller wants that, and the shop’s where not', async () => {
    const own = await draw('late-set', { ownLook: true });
    expect(own.brand.look).toBe('night');
    expect((await draw('late-set')).brand).toBeNull();
    expect((await seller.send('/funnels', { name: 'X', template: 'straight-sale', design: 'no-such', productId })).status).toBe(400);
  });
  it('cannot go live before its suggestions are the seller’s own words', async () => {
    const funnel = await draw('work-bench');
    const refused = await seller.send(`/funnels/${funnel.id}/publish`, {});
    expect(refused.status).toBe(409);
    await writeOwnWords(seller, funnel.id);
    expect((await seller.send(`/funnels/${funnel.id}/publish`, {})).ok).toBe(true);
  });
  it('is copied with its look and its code', async () => {
    const funnel = await draw('full-house', { ownLook: true });
    const code = { head: '<meta name="own">', body: '' };
    await seller.make(`/funnels/${funnel.id}/look`, { brand: funnel.brand, code }, 'PUT');
    const copy = await seller.make(`/funnels/${funnel.id}/copy`, { name: 'A copy' });
    expect([copy.brand.look, copy.code]).toEqual(['stage', code]);
    const file = await seller.read(`/funnels/${funnel.id}/export/json`);
    // Code of others is not taken in with a file: it would run on the seller's own pages.
    file.pages[file.graph.entryId].code = { head: '', body: '<script>steal()</script>' };
    const { funnelId, missing } = await seller.make('/funnels/import', file);
    expect(missing).toEqual(['Code of its own was left out, since it would run on your pages. Put it in yourself if you trust it.']);
    expect(JSON.stringify(await seller.read(`/funnels/${funnelId}/export/json`))).not.toContain('steal()');
    const taken = await seller.read(`/funnels/${funnelId}`);
    expect([taken.brand.look, taken.code]).toEqual(['stage', null]);
  });
});

describe('what a form told', () => {
  it('decides which version of a page somebody sees: by tag, and by field whatever its label is', async () => {
    const funnel = await draw('sunday-letter');
    const entry = funnel.graph.entryId;
    const { page, revision } = (await seller.read(`/steps/${entry}/page`)) as { page: PageDocument; revision: number };
    const id = (kind: string) => freshId(kind === 'element' ? 'elm' : kind);
    const column = page.sections[1]?.columns[0];
    const form = {
      ...newElement('form', id as never),
      tags: ['reader'],
      fields: [
        { key: 'email', label: 'E-mail', kind: 'email', required: true },
        { key: 'size', label: 'Which size?', kind: 'choice', required: true, choices: ['Small', 'Large'] },
      ],
      after: { kind: 'message', words: 'Kept.' },
    };
    const text = (line: string, condition: object) => ({ ...newElement('text', id as never), words: words(line), show: { kind: 'when', condition } });
    column?.elements.push(
      form as never,
      text('For readers', { fact: 'tag', tag: 'reader' }) as never,
      text('Something large', { fact: 'answer', question: 'size', answer: 'Large' }) as never,
      text('Something small', { fact: 'answer', question: 'Which size?', answer: 'Small' }) as never,
    );
    await seller.make(`/steps/${entry}/page`, { revision, page }, 'PUT');
    await writeOwnWords(seller, funnel.id);
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    const reader = new Buyer(ruta.site);
    const before = await reader.visit(`/${funnel.slug}`);
    for (const line of ['For readers', 'Something large', 'Something small']) expect(before).not.toContain(line);
    await reader.form(`/go/${entry}/form`, { _form: form.id, email: 'sized@moonmail.test', size: 'Large' });
    const after = await reader.visit(`/${funnel.slug}`);
    expect(after).toContain('For readers');
    expect(after).toContain('Something large');
    expect(after).not.toContain('Something small');
    expect(await new Buyer(ruta.site).visit(`/${funnel.slug}`)).not.toContain('For readers');
  });
});

describe('what a page may load', () => {
  const policyOf = async (slug: string) => (await fetch(`${ruta.site}/${slug}`)).headers.get('content-security-policy') ?? '';
  it('is wider only where it shows a video of another host', async () => {
    const funnel = await draw('exact-sheet');
    await writeOwnWords(seller, funnel.id);
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    expect(await policyOf(funnel.slug)).toMatch(/frame-src 'self' http:\/\/127\.0\.0\.1:\d+;/);
    const entry = funnel.graph.entryId;
    const { page, revision } = await seller.read(`/steps/${entry}/page`);
    page.sections[1].columns[0].elements.push({
      ...newElement('video', ((kind: string) => freshId(kind === 'element' ? 'elm' : kind)) as never),
      source: { kind: 'address', url: 'https://player.test/1' },
    });
    await seller.make(`/steps/${entry}/page`, { revision, page }, 'PUT');
    await seller.make(`/funnels/${funnel.id}/publish`, {});
    const policy = await policyOf(funnel.slug);
    expect(policy).toContain(' https:;');
    expect(policy).not.toContain('script-src');
    expect(
      (
        await seller.send(
          `/steps/${entry}/page`,
          {
            revision: revision + 1,
            page: {
              ...page,
              sections: page.sections.map((section: PageDocument['sections'][number]) => ({
                ...section,
                columns: section.columns.map((each) => ({
                  ...each,
                  elements: each.elements.map((element) =>
                    element.type === 'video' ? { ...element, source: { kind: 'address', url: 'javascript:alert(1)' } } : element,
                  ),
                })),
              })),
            },
          },
          'PUT',
        )
      ).status,
    ).toBe(400);
  });
});
