import { describe, expect, it } from 'vitest';
import { newElement, SCREEN_SIZES, type ScreenSize, words } from '../src/elements';
import { type IdKind, makeId } from '../src/ids';
import { applyOperation, differences, mergePages, newColumn, type Operation, type PageDocument, reorderAt, resetOrderAt } from '../src/page';
import { buildSection } from '../src/sections';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const text = (line: string) =>
  ({ ...newElement('text', newId), words: words(line) }) as PageDocument['sections'][number]['columns'][number]['elements'][number];
const [a, b, c] = [text('a'), text('b'), text('c')];
const [left, right] = [
  { ...newColumn(newId, 6), elements: [a, b, c] },
  { ...newColumn(newId, 6), elements: [text('d')] },
];
const base: PageDocument = {
  version: 1,
  title: 'A page',
  description: '',
  indexed: true,
  sections: [{ ...buildSection({ name: 'One', columns: [{ span: 12, parts: [] }] }, newId), columns: [left, right] }],
};
const done = (page: PageDocument, ...operations: Array<Operation | null>) =>
  operations.reduce((current, each) => (each ? applyOperation(current, each).page : current), page);

/** The order in which a size of screen shows the elements of the left column. */
const shown = (page: PageDocument, size: ScreenSize): string[] =>
  (page.sections[0]?.columns[0]?.elements ?? [])
    .toSorted((x, y) => (x.layout?.sizes?.[size]?.order ?? 0) - (y.layout?.sizes?.[size]?.order ?? 0))
    .map((element) => ('words' in element && element.words[0]?.type === 'text' ? element.words[0].text : ''));

describe('elements of a column', () => {
  it.each(SCREEN_SIZES)('are put in another order on a %s only', (size) => {
    const moved = done(base, reorderAt(base, c.id, size, -1));
    const again = done(moved, reorderAt(moved, c.id, size, -1));
    expect([shown(moved, size), shown(again, size)]).toEqual([
      ['a', 'c', 'b'],
      ['c', 'a', 'b'],
    ]);
    for (const other of SCREEN_SIZES.filter((each) => each !== size)) expect(shown(again, other)).toEqual(['a', 'b', 'c']);
    expect(reorderAt(again, c.id, size, -1)).toBeNull();
    expect(shown(done(again, resetOrderAt(again, a.id, size)), size)).toEqual(['a', 'b', 'c']);
  });
  it('keep what else differs there when their order is taken back', () => {
    const hidden = done(base, { kind: 'changeElement', elementId: a.id, changes: { layout: { space: 'large', sizes: { phone: { hide: true } } } } });
    const moved = done(hidden, reorderAt(hidden, a.id, 'phone', 1));
    const reset = done(moved, resetOrderAt(moved, a.id, 'phone'));
    expect(reset.sections[0]?.columns[0]?.elements[0]?.layout).toEqual({ space: 'large', sizes: { phone: { hide: true } } });
  });
});

describe('columns of a section', () => {
  it('change places on a phone: the picture first, the words after it', () => {
    const moved = done(base, reorderAt(base, right.id, 'phone', -1));
    expect(moved.sections[0]?.columns.map(({ sizes }) => sizes?.phone?.order)).toEqual([2, 1]);
    expect(reorderAt(base, 'col_gone00', 'phone', 1)).toBeNull();
    expect(resetOrderAt(base, 'col_gone00', 'phone')).toBeNull();
  });
  it('that both sides changed in different ways are put together', () => {
    const mine = done(base, { kind: 'changeColumn', columnId: left.id, changes: { panel: 'sheet' } });
    const theirs = done(base, {
      kind: 'setColumns',
      sectionId: base.sections[0]?.id as string,
      columns: [
        { ...left, span: 8 },
        { ...right, span: 4 },
      ],
    });
    expect(mergePages(base, mine, theirs)?.sections[0]?.columns.map(({ span, panel }) => [span, panel])).toEqual([
      [8, 'sheet'],
      [4, undefined],
    ]);
  });
  it('that one side took away with what the other wrote in them are left to a person', () => {
    const mine = done(base, { kind: 'setColumns', sectionId: base.sections[0]?.id as string, columns: [left] });
    const theirs = done(base, { kind: 'insertElement', columnId: right.id, index: 0, element: text('e') });
    expect(mergePages(base, mine, theirs)).toBeNull();
  });
});

describe('several changes that are one', () => {
  it('are done in order and undone backwards, even where they build on each other', () => {
    const element = text('new');
    const several: Operation = {
      kind: 'several',
      operations: [
        { kind: 'insertElement', columnId: right.id, index: 0, element },
        { kind: 'changeElement', elementId: element.id, changes: { words: words('newer') } },
        { kind: 'moveElement', elementId: element.id, columnId: left.id, index: 1 },
        { kind: 'removeElement', elementId: a.id },
      ],
    };
    const { page, inverse } = applyOperation(base, several);
    expect(shown(page, 'desktop')).toEqual(['newer', 'b', 'c']);
    expect(applyOperation(page, inverse).page).toEqual(base);
  });
  it('change nothing where one of them cannot be done', () => {
    const before = structuredClone(base);
    expect(() =>
      applyOperation(base, {
        kind: 'several',
        operations: [
          { kind: 'removeElement', elementId: a.id },
          { kind: 'removeElement', elementId: a.id },
        ],
      }),
    ).toThrow(RangeError);
    expect(base).toEqual(before);
  });
});

describe('what would change', () => {
  const told = (after: PageDocument) => differences(base, after).map(({ what }) => what);
  it.each<[string, Operation, string[]]>([
    ['a moved element', { kind: 'moveElement', elementId: a.id, columnId: left.id, index: 2 }, ['The order in it changed']],
    ['an order on a phone', reorderAt(base, c.id, 'phone', -1) as Operation, ['Text was set otherwise', 'Text was set otherwise', 'Text was set otherwise']],
    ['a width', { kind: 'changeColumn', columnId: left.id, changes: { span: 7 } }, ['Ground, space or columns changed']],
    ['a name for the team', { kind: 'changeSection', sectionId: base.sections[0]?.id as string, changes: { name: 'Other' } }, []],
    ['words', { kind: 'changeElement', elementId: b.id, changes: { words: words('x'.repeat(80)) } }, [`Text: “b” became “${'x'.repeat(59)}…”`]],
    ['words where none were', { kind: 'changeElement', elementId: b.id, changes: { words: [] } }, ['Text: “b” became “”']],
    ['a pop-up', { kind: 'changeSettings', changes: { popUps: [] } }, ['Pop-ups changed']],
  ])('by %s', (_name, operation, expected) => {
    expect(told(done(base, operation))).toEqual(expected);
  });
});
