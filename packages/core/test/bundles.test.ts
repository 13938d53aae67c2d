import { describe, expect, it } from 'vitest';
import { BUNDLE_VERSION, readBundle, withFiles } from '../src/bundles';
import { newElement, words } from '../src/elements';
import { type IdKind, makeId } from '../src/ids';
import { applyOperation, copyPage, copySection, followSections, keptSection, linkedOn, PAGE_VERSION, type PageDocument, PageDocumentSchema } from '../src/page';
import { salesPage } from '../src/templates';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = salesPage({ name: 'Course', pictureIds: [] }, newId);
const head = { format: 'ruta-bundle', version: BUNDLE_VERSION, pageVersion: PAGE_VERSION, name: 'Course', kind: 'page', pictures: [] };

describe('a bundle', () => {
  it('is read as it was written', () => {
    const read = readBundle(JSON.parse(JSON.stringify({ ...head, page })));
    expect(read).toEqual({ ok: true, bundle: { ...head, page } });
  });
  it.each<[string, unknown, string]>([
    ['nothing', null, 'This file is no page or funnel of Ruta.'],
    ['a list', [], 'This file is no page or funnel of Ruta.'],
    ['another format', { ...head, format: 'other', page }, 'This file is no page or funnel of Ruta.'],
    ['a newer version', { ...head, version: BUNDLE_VERSION + 1, page }, 'newer version of Ruta'],
    ['a newer page', { ...head, pageVersion: PAGE_VERSION + 1, page }, 'newer version of Ruta'],
    ['no page', head, 'This file is damaged'],
    ['a picture that is none', { ...head, page, pictures: [{ id: 'fil_000001', name: 'a', data: '%%%' }] }, 'pictures.0.data'],
    ['a picture with a made-up id', { ...head, page, pictures: [{ id: '../../etc', name: 'a', data: 'AAAA' }] }, 'pictures.0.id'],
  ])('that is %s is refused in words', (_name, sent, message) => {
    const read = readBundle(sent);
    expect(read.ok).toBe(false);
    expect(read.ok ? '' : read.message).toContain(message);
  });
});

describe('files of a page that came from elsewhere', () => {
  const value = {
    source: { kind: 'file', fileId: 'fil_a' },
    gone: { kind: 'file', fileId: 'fil_b', name: 'film.mp4' },
    posterId: 'fil_a',
    backdropId: 'fil_b',
    list: [{ pictureId: 'fil_a' }, { pictureId: null }],
    words: 'fil_ is not a file',
    text: 'the file fil_a',
  };
  it('are those that were kept, and nothing where one is missing', () => {
    expect(withFiles(value, (id) => ({ fil_a: 'fil_new' })[id])).toEqual({
      source: { kind: 'file', fileId: 'fil_new' },
      gone: null,
      posterId: 'fil_new',
      backdropId: null,
      list: [{ pictureId: 'fil_new' }, { pictureId: null }],
      words: null,
      text: 'the file fil_a',
    });
  });
});

describe('linked sections', () => {
  const link = newId('ownSection');
  const section = { ...(page.sections[1] as PageDocument['sections'][number]), linkedTo: link };
  const withLink: PageDocument = { ...page, sections: page.sections.with(1, section) };
  const text = { ...newElement('text', newId), words: words('New') } as never;
  const changed = applyOperation(withLink, { kind: 'insertElement', columnId: section.columns[0]?.id as string, index: 0, element: text }).page;
  it('follow what was changed on another page, and stand where they stand', () => {
    const popUpId = newId('popUp');
    const other: PageDocument = { ...page, title: 'Other', sections: [page.sections[0] as never, { ...section, popUpId }] };
    const followed = followSections(other, linkedOn(changed));
    expect(followed.title).toBe('Other');
    expect(followed.sections[1]).toEqual({ ...keptSection(linkedOn(changed)[0] as never), popUpId });
    expect(followed.sections[0]).toBe(other.sections[0]);
  });
  it('stay linked on a copy of their page, with the same parts, and a copy of one alone is linked to nothing', () => {
    expect(copyPage(withLink, newId).sections[1]).toEqual(section);
    const copy = copySection(section, newId);
    expect(copy.linkedTo).toBeUndefined();
    expect(copy.id).not.toBe(section.id);
    // Beside the linked one it can stand on the same page.
    expect(PageDocumentSchema.safeParse({ ...withLink, sections: [...withLink.sections, copy] }).error).toBeUndefined();
  });
  it('leave a page as it is that shows none of them, or shows them so already', () => {
    expect(followSections(page, linkedOn(changed))).toBe(page);
    expect(followSections(changed, linkedOn(changed))).toBe(changed);
  });
});
