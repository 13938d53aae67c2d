import { type Inline, words } from '@ruta/core/elements';
import { type IdKind, makeId } from '@ruta/core/ids';
import { equal } from '@ruta/core/json';
import { allElements, type PageDocument } from '@ruta/core/page';
import { optInPage } from '@ruta/core/templates';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addElement, duplicate, moveTo, nudge } from '../src/page/editing';
import {
  besideToggled,
  changed,
  closed,
  conflictMet,
  editorSlice,
  isAllSaved,
  opened,
  redone,
  saveDone,
  screenChosen,
  selected,
  takenUp,
  undone,
  versionChosen,
  versionShown,
  widthChosen,
} from '../src/page/editorSlice';
import { standingOf } from '../src/page/standing';
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

describe('two versions of a page', () => {
  const other = { ...page, title: 'From the other window' };
  const theirs = { page: other, revision: 9, pictures: {} };
  const mine = () => reduce(reduce(start(), type('Mine', 1)), conflictMet(theirs));
  it('are both there until one is chosen, and nothing counts as saved meanwhile', () => {
    const state = reduce(mine(), versionShown('theirs'));
    expect(state.conflict).toMatchObject({ page: other, showing: 'theirs' });
    expect(JSON.stringify(state.page)).toContain('Mine');
    expect(isAllSaved(state)).toBe(false);
  });
  it('go on as mine on top of theirs, which is one step back', () => {
    const state = reduce(mine(), versionChosen('mine'));
    expect(state).toMatchObject({ conflict: null, revision: 9 });
    expect(isAllSaved(state)).toBe(false);
    expect(reduce(state, undone()).page?.title).toBe('From the other window');
  });
  it('go on as theirs, which the server has, with mine one step back', () => {
    const state = reduce(mine(), versionChosen('theirs'));
    expect(state.page?.title).toBe('From the other window');
    expect(isAllSaved(state)).toBe(true);
    expect(JSON.stringify(reduce(state, undone()).page)).toContain('Mine');
  });
  it('that was set aside is taken up as if it had just been typed', () => {
    const state = reduce(start(), takenUp({ page: other, pictures: {} }));
    expect(isAllSaved(state)).toBe(false);
    expect(reduce(state, undone()).page).toEqual(page);
  });
});

describe('what was set aside', () => {
  const [kept, sent] = [
    { ...page, title: 'Kept' },
    { ...page, title: 'Sent' },
  ];
  const server = (title: string, revision: number) => ({ stepId: 'stp_1', page: { ...page, title }, revision, pictures: {} });
  it.each([
    ['has arrived although no answer came', server('Kept', 4), 'arrived'],
    ['follows what the server has', server(page.title, 3), 'follows'],
    ['follows what was on its way and arrived', server('Sent', 4), 'follows'],
    ['conflicts with another window', server('Else', 4), 'conflicts'],
  ] as const)('%s', (_words, found, standing) => {
    expect(standingOf({ revision: 3, page: kept, sending: sent }, found)).toBe(standing);
  });
  it('is the same page in whatever order its parts were written', () => {
    const { title, ...rest } = page;
    expect(equal({ ...rest, title }, { title, ...rest })).toBe(true);
    expect(equal(page, kept)).toBe(false);
  });
});

describe('how the page is looked at', () => {
  it('takes any width within bounds, and what differs is set for the size that it falls under', () => {
    const at = (width: number) => reduce(start(), widthChosen(width)).view;
    expect([at(640.4), at(900), at(1500)].map(({ width, screen }) => [width, screen])).toEqual([
      [640, 'phone'],
      [900, 'tablet'],
      [1500, 'desktop'],
    ]);
    expect([at(12).width, at(90_000).width]).toEqual([280, 2560]);
    expect(reduce(reduce(start(), widthChosen(640)), screenChosen('desktop')).view).toMatchObject({ width: null, screen: 'desktop' });
  });
  it('stays when another page is opened', () => {
    const beside = reduce(reduce(start(), besideToggled()), closed());
    expect(reduce(beside, opened({ stepId: 'stp_2', place: { funnelId: 'fnl_1', name: 'B' }, page, revision: 1, pictures: {} })).view.isBeside).toBe(true);
  });
});

describe('a page that is left and opened again', () => {
  const reopen = (state: ReturnType<typeof start>, as: PageDocument) =>
    reduce(reduce(state, closed()), opened({ stepId: 'stp_1', place: { funnelId: 'fnl_1', name: 'Gift' }, page: as, revision: 4, pictures: {} }));
  it('can still be undone and redone, step by step', () => {
    const typed = reduce(start(), type('Other', 1000));
    const again = reopen(typed, typed.page as PageDocument);
    expect(again.undo).toHaveLength(1);
    const undoneAgain = reduce(again, undone());
    expect(undoneAgain.page).toEqual(page);
    expect(reduce(undoneAgain, redone()).page).toEqual(typed.page);
  });
  it('cannot, if somebody else has changed it meanwhile', () => {
    const typed = reduce(start(), type('Other', 1000));
    expect(reopen(typed, { ...page, title: 'Theirs' }).undo).toEqual([]);
  });
});
