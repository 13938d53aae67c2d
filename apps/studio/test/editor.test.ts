import { type Inline, words } from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import { allElements, type PageDocument } from '@ruta/core/page';
import { optInPage } from '@ruta/core/templates';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addElement, duplicate, moveTo, nudge } from '../src/page/editing';
import { changed, editorSlice, opened, redone, saveDone, selected, undone } from '../src/page/editorSlice';
import { setAt } from '../src/page/words';
import { fromEditor, toEditor } from '../src/page/wordsDocument';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = optInPage({ name: 'Gift', pictureIds: [] }, newId);
const headline = allElements(page).find((element) => element.type === 'headline');
const headlineId = headline?.id ?? '';
const reduce = editorSlice.reducer;
const start = () => reduce(undefined, opened({ stepId: 'stp_1', place: { funnelId: 'fnl_1', name: 'Gift' }, page, revision: 3, pictures: {} }));
const type = (text: string, at: number) =>
  changed({ operation: { kind: 'changeElement', elementId: headlineId, changes: { words: words(text) } }, mergeKey: `${headlineId}.words`, at });

describe('words', () => {
  const inline = fc.oneof(
    fc.record({
      type: fc.constant('text' as const),
      text: fc.string({ minLength: 1 }),
      bold: fc.constantFrom(undefined, true),
      italic: fc.constantFrom(undefined, true),
    }),
    fc.record({
      type: fc.constant('bound' as const),
      value: fc.constantFrom('product.name' as const, 'buyer.firstName' as const),
      fallback: fc.constantFrom(undefined, '', 'friend'),
    }),
    fc.record({ type: fc.constant('break' as const) }),
  );
  it('come back from the text editor as they went in', () => {
    fc.assert(
      fc.property(fc.array(inline), (content) => {
        expect(fromEditor(toEditor(content as Inline[]))).toEqual(content.map((node) => JSON.parse(JSON.stringify(node))));
      }),
    );
  });
  it('pasted as several paragraphs become lines', () => {
    const pasted = { type: 'doc', content: ['a', 'b'].map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })) };
    expect(fromEditor(pasted)).toEqual([{ type: 'text', text: 'a' }, { type: 'break' }, { type: 'text', text: 'b' }]);
  });
  it('can stand deep inside an element', () => {
    const list = { id: newId('element'), type: 'list' as const, marker: 'dot' as const, items: [words('one'), words('two')] };
    expect(setAt(list, ['items', 1], words('changed'))).toEqual({ items: [words('one'), words('changed')] });
  });
});

describe('history', () => {
  it('takes typing in one field back as one step, and steps apart after a pause', () => {
    let state = [type('a', 0), type('ab', 500), type('abc', 900), type('abc d', 9000)].reduce(reduce, start());
    expect(state.undo).toHaveLength(2);
    state = reduce(state, undone());
    expect(allElements(state.page as PageDocument).find((element) => element.id === headlineId)).toMatchObject({ words: words('abc') });
    state = reduce(state, undone());
    expect(state.page).toEqual(page);
    state = reduce(reduce(state, redone()), redone());
    expect(allElements(state.page as PageDocument).find((element) => element.id === headlineId)).toMatchObject({ words: words('abc d') });
  });
  it('lets go of what no longer exists', () => {
    const added = addElement(page, { kind: 'element', id: headlineId }, 'text');
    if (!added) throw new Error('nothing was added');
    let state = reduce(start(), changed({ operation: added.operation, at: 0 }));
    state = reduce(state, selected({ kind: 'element', id: added.element.id }));
    state = reduce(state, undone());
    expect(state.selection).toBeNull();
  });
  it('knows that more was typed while a save was under way', () => {
    let state = reduce(start(), type('a', 0));
    const sent = state.changeNumber;
    state = reduce(state, type('b', 5000));
    state = reduce(state, saveDone({ revision: 4, changeNumber: sent, at: 1 }));
    expect(state.changeNumber).toBeGreaterThan(state.savedNumber);
  });
});

describe('moving', () => {
  it('carries an element from column to column and stops at the ends of the page', () => {
    const all = allElements(page);
    const first = all[0]?.id ?? '';
    expect(nudge(page, { kind: 'element', id: first }, -1)).toBeNull();
    expect(nudge(page, { kind: 'element', id: first }, 1)).toMatchObject({ kind: 'moveElement', index: 0, columnId: page.sections[1]?.columns[0]?.id });
    expect(nudge(page, { kind: 'section', id: page.sections[0]?.id ?? '' }, -1)).toBeNull();
  });
  it('drops an element where another stands', () => {
    const picture = allElements(page).find((element) => element.type === 'picture');
    expect(moveTo(page, { kind: 'element', id: picture?.id ?? '', overId: headlineId })).toEqual({
      kind: 'moveElement',
      elementId: picture?.id,
      columnId: page.sections[1]?.columns[0]?.id,
      index: 1,
    });
  });
  it('copies a section with ids of its own', () => {
    const section = page.sections[1];
    const copy = duplicate(page, { kind: 'section', id: section?.id ?? '' });
    expect(copy?.id).not.toBe(section?.id);
    expect(JSON.stringify(copy?.operation)).not.toContain(headlineId);
  });
});
