import type { PageElement } from '../elements';
import type { Column, PageDocument, Section } from './page';
import { findElement } from './page';

type Settings = Pick<PageDocument, 'title' | 'description' | 'indexed' | 'shareImageId' | 'iconId' | 'code' | 'popUps'>;

/** One small change of a page. Every operation has an inverse that is an operation too. */
export type Operation =
  | { kind: 'insertSection'; index: number; section: Section }
  | { kind: 'removeSection'; sectionId: string }
  | { kind: 'moveSection'; sectionId: string; index: number }
  | { kind: 'changeSection'; sectionId: string; changes: Partial<Omit<Section, 'id' | 'columns'>> }
  | { kind: 'changeColumn'; columnId: string; changes: Partial<Omit<Column, 'id' | 'elements'>> }
  /** Puts other columns in the place of a section's: added, taken away, widened. */
  | { kind: 'setColumns'; sectionId: string; columns: Column[] }
  | { kind: 'insertElement'; columnId: string; index: number; element: PageElement }
  | { kind: 'removeElement'; elementId: string }
  | { kind: 'moveElement'; elementId: string; columnId: string; index: number }
  | { kind: 'changeElement'; elementId: string; changes: Record<string, unknown> }
  | { kind: 'changeSettings'; changes: Partial<Settings> }
  /** Several changes that are one to a person: done in order, undone backwards. */
  | { kind: 'several'; operations: Operation[] }
  /** Puts another version in its place. */
  | { kind: 'replacePage'; page: PageDocument };

export interface Applied {
  page: PageDocument;
  /** Applied to `page`, gives back the page before. */
  inverse: Operation;
}

/**
 * Applies an operation. Pure: the page given is untouched and unchanged parts are shared.
 * @throws RangeError if the operation names a part that the page does not have
 */
export function applyOperation(page: PageDocument, operation: Operation): Applied {
  switch (operation.kind) {
    case 'insertSection': {
      const sections = insertAt(page.sections, operation.index, operation.section);
      return { page: { ...page, sections }, inverse: { kind: 'removeSection', sectionId: operation.section.id } };
    }
    case 'removeSection': {
      const index = sectionIndex(page, operation.sectionId);
      const section = page.sections[index] as Section;
      return { page: { ...page, sections: page.sections.toSpliced(index, 1) }, inverse: { kind: 'insertSection', index, section } };
    }
    case 'moveSection': {
      const from = sectionIndex(page, operation.sectionId);
      const section = page.sections[from] as Section;
      const sections = insertAt(page.sections.toSpliced(from, 1), operation.index, section);
      return { page: { ...page, sections }, inverse: { kind: 'moveSection', sectionId: section.id, index: from } };
    }
    case 'changeSection': {
      const index = sectionIndex(page, operation.sectionId);
      const section = page.sections[index] as Section;
      const inverse = { kind: 'changeSection', sectionId: section.id, changes: previous(section, operation.changes) } as const;
      return { page: { ...page, sections: page.sections.with(index, { ...section, ...operation.changes }) }, inverse };
    }
    case 'changeColumn': {
      const place = columnPlace(page, operation.columnId);
      const changed = { ...place.column, ...operation.changes };
      return {
        page: withColumns(page, place.section, place.section.columns.with(place.index, changed)),
        inverse: { kind: 'changeColumn', columnId: operation.columnId, changes: previous(place.column, operation.changes) },
      };
    }
    case 'setColumns': {
      const section = page.sections[sectionIndex(page, operation.sectionId)] as Section;
      return {
        page: withColumns(page, section, operation.columns),
        inverse: { kind: 'setColumns', sectionId: section.id, columns: section.columns },
      };
    }
    case 'insertElement': {
      const changed = changeColumn(page, operation.columnId, (elements) => insertAt(elements, operation.index, operation.element));
      return { page: changed, inverse: { kind: 'removeElement', elementId: operation.element.id } };
    }
    case 'removeElement': {
      const place = elementPlace(page, operation.elementId);
      const changed = changeColumn(page, place.column.id, (elements) => elements.toSpliced(place.index, 1));
      return { page: changed, inverse: { kind: 'insertElement', columnId: place.column.id, index: place.index, element: place.element } };
    }
    case 'moveElement': {
      const place = elementPlace(page, operation.elementId);
      const without = changeColumn(page, place.column.id, (elements) => elements.toSpliced(place.index, 1));
      const changed = changeColumn(without, operation.columnId, (elements) => insertAt(elements, operation.index, place.element));
      return { page: changed, inverse: { kind: 'moveElement', elementId: place.element.id, columnId: place.column.id, index: place.index } };
    }
    case 'changeElement': {
      const place = elementPlace(page, operation.elementId);
      const changed = { ...place.element, ...operation.changes, id: place.element.id, type: place.element.type } as PageElement;
      return {
        page: changeColumn(page, place.column.id, (elements) => elements.with(place.index, changed)),
        inverse: { kind: 'changeElement', elementId: place.element.id, changes: previous(place.element, operation.changes) },
      };
    }
    case 'changeSettings':
      return {
        page: { ...page, ...operation.changes },
        inverse: { kind: 'changeSettings', changes: previous(page, operation.changes) },
      };
    case 'several': {
      let changed = page;
      const inverses: Operation[] = [];
      for (const each of operation.operations) {
        const applied = applyOperation(changed, each);
        changed = applied.page;
        inverses.unshift(applied.inverse);
      }
      return { page: changed, inverse: { kind: 'several', operations: inverses } };
    }
    case 'replacePage':
      return { page: operation.page, inverse: { kind: 'replacePage', page } };
    default:
      return operation satisfies never;
  }
}

/** The values that `changes` is about to replace. */
function previous<T extends object>(before: T, changes: object): Partial<T> {
  return Object.fromEntries(Object.keys(changes).map((key) => [key, before[key as keyof T]])) as Partial<T>;
}

function insertAt<T>(items: readonly T[], index: number, item: T): T[] {
  return items.toSpliced(Math.max(0, Math.min(index, items.length)), 0, item);
}

function sectionIndex(page: PageDocument, sectionId: string): number {
  const index = page.sections.findIndex((section) => section.id === sectionId);
  if (index < 0) throw new RangeError(`This page has no section ${sectionId}.`);
  return index;
}

function elementPlace(page: PageDocument, elementId: string) {
  const place = findElement(page, elementId);
  if (!place) throw new RangeError(`This page has no element ${elementId}.`);
  return place;
}

function columnPlace(page: PageDocument, columnId: string): { section: Section; column: Column; index: number } {
  for (const section of page.sections) {
    const index = section.columns.findIndex((column) => column.id === columnId);
    const column = section.columns[index];
    if (column) return { section, column, index };
  }
  throw new RangeError(`This page has no column ${columnId}.`);
}

const withColumns = (page: PageDocument, section: Section, columns: Column[]): PageDocument => ({
  ...page,
  sections: page.sections.map((each) => (each.id === section.id ? { ...each, columns } : each)),
});

function changeColumn(page: PageDocument, columnId: string, change: (elements: PageElement[]) => PageElement[]): PageDocument {
  const { section, column, index } = columnPlace(page, columnId);
  return withColumns(page, section, section.columns.with(index, { ...column, elements: change(column.elements) }));
}
