import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newElement, words } from '../src/elements';
import { type IdKind, makeId } from '../src/ids';
import { applyOperation, differences, mergePages, type Operation, operationsBetween, type PageDocument, PageDocumentSchema } from '../src/page';
import { salesPage } from '../src/templates';
import { edited, pageEdits } from './support/pageEdits';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const base = salesPage({ name: 'Course', pictureIds: [] }, newId);
const done = (page: PageDocument, ...operations: Operation[]) => operations.reduce((current, each) => applyOperation(current, each).page, page);
const section = (index: number) => base.sections[index] as PageDocument['sections'][number];
const elementsIn = (index: number) => section(index).columns.flatMap((column) => column.elements);
const rename = (index: number, name: string): Operation => ({ kind: 'changeSection', sectionId: section(index).id, changes: { name } });
const write = (elementId: string, text: string): Operation => ({ kind: 'changeElement', elementId, changes: { words: words(text) } });

describe('two edits of one page', () => {
  const headline = elementsIn(1).find(({ type }) => type === 'headline')?.id as string;
  const lead = elementsIn(1).find(({ type }) => type === 'text')?.id as string;
  it('are put together where they touched different things', () => {
    const mine = done(base, write(headline, 'Mine'), { kind: 'changeSettings', changes: { title: 'My title' } });
    const theirs = done(base, write(lead, 'Theirs'), rename(2, 'Their name'), { kind: 'moveSection', sectionId: section(4).id, index: 2 });
    const both = done(theirs, write(headline, 'Mine'), { kind: 'changeSettings', changes: { title: 'My title' } });
    expect(mergePages(base, mine, theirs)).toEqual(both);
    expect(mergePages(base, theirs, mine)).toEqual(both);
  });
  it('both add, and both additions stand after what they were put after', () => {
    const column = section(1).columns[0]?.id as string;
    const [a, b] = [newElement('divider', newId), newElement('spacer', newId)];
    const merged = mergePages(
      base,
      done(base, { kind: 'insertElement', columnId: column, index: 1, element: a }),
      done(base, { kind: 'insertElement', columnId: column, index: 3, element: b }),
    );
    const [first, second, third] = section(1).columns[0]?.elements.map(({ id }) => id) ?? [];
    expect(merged?.sections[1]?.columns[0]?.elements.map(({ id }) => id)).toEqual([first, a.id, second, third, b.id]);
  });
  it('keep a move of one and the words of the other', () => {
    const target = section(3).columns[0]?.id as string;
    const mine = done(base, { kind: 'moveElement', elementId: headline, columnId: target, index: 0 });
    const merged = mergePages(base, mine, done(base, write(headline, 'Theirs')));
    expect(merged?.sections[3]?.columns[0]?.elements[0]).toMatchObject({ id: headline, words: words('Theirs') });
  });
  it.each<[string, Operation[], Operation[]]>([
    ['the same words', [write(headline, 'Mine')], [write(headline, 'Theirs')]],
    ['what the other took away', [write(headline, 'Mine')], [{ kind: 'removeElement', elementId: headline }]],
    ['in a section the other took away', [write(headline, 'Mine')], [{ kind: 'removeSection', sectionId: section(1).id }]],
    ['two orders', [{ kind: 'moveSection', sectionId: section(1).id, index: 3 }], [{ kind: 'moveSection', sectionId: section(4).id, index: 1 }]],
    [
      'two places',
      [{ kind: 'moveElement', elementId: headline, columnId: section(3).columns[0]?.id as string, index: 0 }],
      [{ kind: 'moveElement', elementId: headline, columnId: section(2).columns[0]?.id as string, index: 0 }],
    ],
  ])('that both changed %s are left to a person', (_name, mine, theirs) => {
    expect(mergePages(base, done(base, ...mine), done(base, ...theirs))).toBeNull();
    expect(mergePages(base, done(base, ...theirs), done(base, ...mine))).toBeNull();
  });
  it('that one side alone made are that side’s, and a merged page is always a page', () => {
    fc.assert(
      fc.property(pageEdits, pageEdits, (a, b) => {
        const [mine, theirs] = [edited(base, a), edited(base, b)];
        expect(mergePages(base, mine, base)).toEqual(mine);
        expect(mergePages(base, base, theirs)).toEqual(theirs);
        const merged = mergePages(base, mine, theirs);
        if (merged) expect(PageDocumentSchema.safeParse(merged).error).toBeUndefined();
      }),
    );
  });
});

describe('what makes one page of another', () => {
  const across = (before: PageDocument, after: PageDocument) => {
    // Kept as JSON, so that nothing may be said by a field that is not there.
    const operations = JSON.parse(JSON.stringify(operationsBetween(before, after))) as Operation[];
    return { operations, page: done(before, ...operations) };
  };
  it('is as small as the change was', () => {
    const headline = elementsIn(1)[0]?.id as string;
    expect(operationsBetween(base, base)).toEqual([]);
    expect(operationsBetween(base, done(base, write(headline, 'Other words')))).toEqual([write(headline, 'Other words')]);
    const moved: Operation = { kind: 'moveSection', sectionId: section(4).id, index: 1 };
    expect(operationsBetween(base, done(base, moved))).toEqual([moved]);
  });
  it('leads there from whatever was done, fields that are lost included', () => {
    fc.assert(
      fc.property(pageEdits, pageEdits, (a, b) => {
        const [before, after] = [edited(base, a), edited(base, b)];
        expect(across(before, after).page).toEqual(after);
      }),
    );
  });
  it('follows a page that was changed elsewhere meanwhile', () => {
    const headline = elementsIn(1)[0]?.id as string;
    const operations = operationsBetween(base, done(base, write(headline, 'Other words')));
    const later = done(base, rename(2, 'Renamed'), { kind: 'removeSection', sectionId: section(4).id });
    expect(done(later, ...operations)).toEqual(done(later, write(headline, 'Other words')));
  });
});

describe('what would change', () => {
  it('is told section by section, in words', () => {
    const [headline, text] = elementsIn(1);
    const added = newElement('divider', newId);
    const after = done(
      base,
      { kind: 'changeSettings', changes: { title: 'Another' } },
      write(headline?.id as string, 'New words'),
      { kind: 'removeElement', elementId: text?.id as string },
      { kind: 'insertElement', columnId: section(2).columns[0]?.id as string, index: 0, element: added },
      { kind: 'changeSection', sectionId: section(3).id, changes: { ground: 'dark' } },
      { kind: 'removeSection', sectionId: section(4).id },
    );
    expect(differences(base, after).map(({ section: where, what }) => `${where ?? 'Page'}: ${what}`)).toEqual([
      'Page: Public title changed',
      'Opening: Headline: “[product name]” became “New words”',
      'Opening: Text “[description]” was taken away',
      'What you get: Divider is new',
      'Price: Ground, space or columns changed',
      'Questions: The section was taken away',
    ]);
  });
  it('is nothing between two that are the same', () => {
    expect(differences(base, structuredClone(base))).toEqual([]);
  });
});
