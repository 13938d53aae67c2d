import { newElement, words } from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import { allElements, applyOperation, type PageDocument, PageDocumentSchema } from '@ruta/core/page';
import { salesPage } from '@ruta/core/templates';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { chosenParts, copyParts, pasteParts, removeParts } from '../src/page/clipboard';
import {
  alsoSelected,
  changed,
  chosenIds,
  editorSlice,
  editsJoined,
  isAllSaved,
  joinedRead,
  opened,
  saveBegan,
  saveDone,
  selected,
  undone,
} from '../src/page/editorSlice';
import { joined } from '../src/page/standing';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = salesPage({ name: 'Course', pictureIds: [] }, newId);
const picture = { id: 'fil_000000000001', width: 10, height: 10, widths: [10] };
const [first, second, third] = allElements(page).map(({ id }) => id) as [string, string, string];
const sectionIds = page.sections.map(({ id }) => id) as [string, string, string];
const apply = (before: PageDocument, operation: Parameters<typeof applyOperation>[1] | null | undefined) =>
  operation ? applyOperation(before, operation).page : before;

beforeEach(() => {
  const items = new Map<string, string>();
  vi.stubGlobal('localStorage', { getItem: (key: string) => items.get(key) ?? null, setItem: (key: string, value: string) => void items.set(key, value) });
});

describe('parts that are chosen', () => {
  it('stand in the order of the page, and sections go before elements', () => {
    expect(chosenParts(page, [third, first]).elements.map(({ id }) => id)).toEqual([first, third]);
    expect(chosenParts(page, [first, sectionIds[1]])).toMatchObject({ sections: [{ id: sectionIds[1] }], elements: [] });
  });
  it('are removed at once and come back at once', () => {
    const operation = removeParts(page, [first, sectionIds[1], third]);
    const { page: without, inverse } = applyOperation(page, operation as never);
    expect(without.sections.map(({ id }) => id)).not.toContain(sectionIds[1]);
    expect(allElements(without).map(({ id }) => id)).not.toContain(first);
    expect(applyOperation(without, inverse).page).toEqual(page);
    expect(removeParts(page, ['elm_gone'])).toBeNull();
  });
  it('come again with ids of their own, after what is selected', () => {
    expect(copyParts(page, [first, second], {})).toBe('2 elements are copied');
    const pasted = pasteParts(page, { kind: 'element', id: third });
    const after = apply(page, pasted?.operation);
    const ids = allElements(after).map(({ id }) => id);
    const at = ids.indexOf(third);
    expect(ids[at + 1]).toBe(pasted?.selected.id);
    expect(ids.length).toBe(allElements(page).length + 2);
    expect(new Set(ids).size).toBe(ids.length);
    expect(PageDocumentSchema.safeParse(after).error).toBeUndefined();
  });
  it('of whole sections keep their pictures on another page, and are shown in the pop-up they are put into', () => {
    const element = { ...newElement('picture', newId), source: { kind: 'file', fileId: picture.id } } as never;
    const pictured = apply(page, { kind: 'insertElement', columnId: page.sections[1]?.columns[0]?.id as string, index: 0, element });
    expect(copyParts(pictured, [sectionIds[1]], { [picture.id]: picture, fil_other: picture })).toBe('One section is copied');
    const popUpId = newId('popUp');
    const other: PageDocument = { ...page, sections: [{ ...(page.sections[0] as never as PageDocument['sections'][number]), popUpId }] };
    const pasted = pasteParts(other, null);
    expect(pasted?.pictures).toEqual([picture]);
    expect(apply(other, pasted?.operation).sections.at(-1)?.popUpId).toBe(popUpId);
  });
  it('no longer ask which other version is shown: that one stayed where it was', () => {
    const shown = apply(page, { kind: 'changeElement', elementId: second, changes: { show: { kind: 'otherwise', of: first } } });
    copyParts(shown, [second], {});
    const after = apply(page, pasteParts(page, null)?.operation);
    expect(allElements(after).some((element) => element.show?.kind === 'otherwise')).toBe(false);
  });
  it('are none where nothing was copied, or something else was', () => {
    expect(copyParts(page, [], {})).toBeNull();
    expect(pasteParts(page, null)).toBeNull();
    localStorage.setItem('ruta.copied', '{"sections":"no"}');
    expect(pasteParts(page, null)).toBeNull();
  });
});

describe('the editor', () => {
  const reduce = editorSlice.reducer;
  const start = () => reduce(undefined, opened({ stepId: 'stp_1', place: { funnelId: 'fnl_1', name: 'Course' }, page, revision: 3, pictures: {} }));
  it('chooses one more and one fewer, and one alone by a plain press', () => {
    let state = reduce(start(), alsoSelected({ kind: 'element', id: first }));
    expect(chosenIds(state)).toEqual([first]);
    state = reduce(reduce(state, alsoSelected({ kind: 'element', id: second })), alsoSelected({ kind: 'element', id: third }));
    expect(chosenIds(state)).toEqual([first, second, third]);
    expect(chosenIds(reduce(state, alsoSelected({ kind: 'element', id: second })))).toEqual([first, third]);
    expect(chosenIds(reduce(state, selected({ kind: 'element', id: third })))).toEqual([third]);
  });
  it('knows what another window changed from what was changed here, and keeps both', () => {
    const write = (elementId: string, text: string) => ({ kind: 'changeElement' as const, elementId, changes: { words: words(text) } });
    const headline = allElements(page).find(({ type }) => type === 'headline')?.id as string;
    const mine = reduce(start(), changed({ operation: write(headline, 'Mine'), at: 1 }));
    const theirs = { page: apply(page, { kind: 'changeSettings', changes: { title: 'Theirs' } }), revision: 4, pictures: {}, stepId: 'stp_1' };
    const both = joined({ base: mine.base, page: mine.page as PageDocument }, theirs);
    expect(both?.title).toBe('Theirs');
    expect(JSON.stringify(both)).toContain('Mine');
    const state = reduce(mine, editsJoined({ page: both as PageDocument, server: theirs }));
    expect([state.revision, state.hasJoined, isAllSaved(state)]).toEqual([4, true, false]);
    expect(reduce(state, joinedRead()).hasJoined).toBe(false);
    expect(reduce(state, undone()).page?.title).toBe(page.title);
    // Once it is saved, the next merge begins from there.
    const saved = reduce(reduce(state, saveBegan()), saveDone({ revision: 5, changeNumber: state.changeNumber, at: 2 }));
    expect(saved.base).toEqual(both);
    // Both the same words: a person has to choose.
    expect(joined({ base: page, page: apply(page, write(headline, 'A')) }, { page: apply(page, write(headline, 'B')) })).toBeNull();
    expect(joined({ base: null, page }, theirs)).toBeNull();
  });
});
