import fc from 'fast-check';
import { newElement } from '../../src/elements';
import { type IdKind, makeId } from '../../src/ids';
import { allElements, applyOperation, type Operation, type PageDocument } from '../../src/page';
import { buildSection, SECTIONS } from '../../src/sections';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));

/** What somebody did to a page, as numbers to be shrunk. */
export const pageEdits = fc.array(fc.tuple(fc.nat(7), fc.nat(30), fc.nat(30)), { maxLength: 6 });

/** A page after some edits of every kind. */
export const edited = (base: PageDocument, list: Array<[number, number, number]>): PageDocument =>
  list.reduce((page, [choice, a, b]) => {
    const elements = allElements(page);
    const element = elements[a % elements.length];
    const columns = page.sections.flatMap((each) => each.columns);
    const column = columns[b % columns.length];
    const at = page.sections[a % page.sections.length];
    if (!element || !column || !at) return page;
    const operations: Operation[] = [
      { kind: 'changeElement', elementId: element.id, changes: { layout: b % 3 === 0 ? undefined : { space: b % 2 ? 'small' : 'large' } } },
      { kind: 'removeElement', elementId: element.id },
      { kind: 'moveElement', elementId: element.id, columnId: column.id, index: b },
      { kind: 'insertElement', columnId: column.id, index: a, element: newElement('divider', newId) },
      { kind: 'insertSection', index: a % 5, section: buildSection((SECTIONS[b] as (typeof SECTIONS)[number]).plan(), newId) },
      { kind: 'moveSection', sectionId: at.id, index: b % page.sections.length },
      { kind: 'changeSection', sectionId: at.id, changes: { tall: b % 2 ? true : undefined, ground: b % 2 ? 'dark' : 'plain' } },
      { kind: 'changeSettings', changes: { title: `Title ${a}`, iconId: b % 3 === 0 ? null : undefined } },
    ];
    return applyOperation(page, operations[choice] as Operation).page;
  }, base);
