import type { PageElement } from '../elements';
import { equal } from '../json';
import { applyOperation, type Operation } from './operation';
import type { Column, PageDocument, Section } from './page';

/**
 * The small operations that make one page of another: applied in their order to `before` they give `after`. They are plain
 * JSON, so that they can be kept. What has lost a field is put in its place as a whole, since a field that is not there
 * cannot be written down.
 */
export function operationsBetween(before: PageDocument, after: PageDocument): Operation[] {
  const { sections: _before, ...was } = before;
  const { sections: _after, ...is } = after;
  if (losesField(was, is)) return [{ kind: 'replacePage', page: after }];
  const operations: Operation[] = [];
  let page = before;
  const act = (operation: Operation) => {
    operations.push(operation);
    page = applyOperation(page, operation).page;
  };
  const settings = changesBetween(was, is);
  if (Object.keys(settings).length > 0) act({ kind: 'changeSettings', changes: settings });

  const stays = new Map(after.sections.map((section) => [section.id, section]));
  for (const section of before.sections) {
    const next = stays.get(section.id);
    if (!next || isMadeAnew(section, next)) act({ kind: 'removeSection', sectionId: section.id });
  }
  // What leaves its column goes first: nothing may stand on the page twice on the way.
  const homes = new Map(after.sections.flatMap(({ columns }) => columns.flatMap(({ id, elements }) => elements.map((element) => [element.id, id] as const))));
  for (const { id: columnId, elements } of page.sections.flatMap(({ columns }) => columns)) {
    for (const { id } of elements) if (homes.get(id) !== columnId) act({ kind: 'removeElement', elementId: id });
  }
  after.sections.forEach((section, index) => {
    const at = page.sections.findIndex(({ id }) => id === section.id);
    if (at < 0) act({ kind: 'insertSection', index, section });
    else if (at !== index) act({ kind: 'moveSection', sectionId: section.id, index });
  });
  for (const section of after.sections) {
    const now = page.sections.find(({ id }) => id === section.id) as Section;
    for (const operation of withinSection(now, section)) act(operation);
  }
  return operations;
}

type Fields = Record<string, unknown>;

/** The fields that are another in `after`. */
function changesBetween(before: object, after: object): Fields {
  return Object.fromEntries(Object.entries(after).filter(([key, value]) => !equal(value, (before as Fields)[key])));
}

const losesField = (before: object, after: object): boolean =>
  Object.entries(before).some(([key, value]) => value !== undefined && (after as Fields)[key] === undefined);

const bare = ({ columns: _columns, ...section }: Section) => section;
const bareColumn = ({ elements: _elements, ...column }: Column) => column;

/** A section is put in its place as a whole where it has lost a field. */
const isMadeAnew = (before: Section, after: Section): boolean => losesField(bare(before), bare(after));

function withinSection(before: Section, after: Section): Operation[] {
  const operations: Operation[] = [];
  const changes = changesBetween(bare(before), bare(after));
  if (Object.keys(changes).length > 0) operations.push({ kind: 'changeSection', sectionId: after.id, changes });
  if (equal(before.columns, after.columns)) return operations;
  const isSameShape =
    before.columns.length === after.columns.length &&
    before.columns.every((column, index) => {
      const next = after.columns[index] as Column;
      return column.id === next.id && !losesField(bareColumn(column), bareColumn(next));
    });
  if (!isSameShape) return [...operations, { kind: 'setColumns', sectionId: after.id, columns: after.columns }];
  after.columns.forEach((column, index) => {
    operations.push(...withinColumn(before.columns[index] as Column, column));
  });
  return operations;
}

function withinColumn(before: Column, after: Column): Operation[] {
  const operations: Operation[] = [];
  const changes = changesBetween(bareColumn(before), bareColumn(after));
  if (Object.keys(changes).length > 0) operations.push({ kind: 'changeColumn', columnId: after.id, changes });
  const next = new Map(after.elements.map((element) => [element.id, element]));
  const isKept = (element: PageElement) => {
    const is = next.get(element.id);
    return is !== undefined && is.type === element.type && !losesField(element, is);
  };
  const order = before.elements.filter(isKept).map(({ id }) => id);
  for (const element of before.elements) if (!isKept(element)) operations.push({ kind: 'removeElement', elementId: element.id });
  const was = new Map(before.elements.map((element) => [element.id, element]));
  after.elements.forEach((element, index) => {
    const at = order.indexOf(element.id);
    if (at < 0) {
      operations.push({ kind: 'insertElement', columnId: after.id, index, element });
      order.splice(index, 0, element.id);
      return;
    }
    if (at !== index) {
      operations.push({ kind: 'moveElement', elementId: element.id, columnId: after.id, index });
      order.splice(at, 1);
      order.splice(index, 0, element.id);
    }
    const differing = changesBetween(was.get(element.id) as PageElement, element);
    if (Object.keys(differing).length > 0) operations.push({ kind: 'changeElement', elementId: element.id, changes: differing });
  });
  return operations;
}
