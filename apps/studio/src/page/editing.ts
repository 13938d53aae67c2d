import { type ElementType, newElement, type PageElement } from '@ruta/core/elements';
import { copySection, findElement, type Operation, type PageDocument } from '@ruta/core/page';
import { newId } from '../base/newId';
import type { Selection } from './editorSlice';
import type { MoveRequest } from './Outline';

/** The operation that moves what was dragged to where it was dropped; null if that changes nothing. */
export function moveTo(page: PageDocument, move: MoveRequest): Operation | null {
  if (move.kind === 'section') {
    const over = findElement(page, move.overId)?.section.id ?? move.overId;
    const index = page.sections.findIndex((section) => section.id === over);
    return index < 0 ? null : { kind: 'moveSection', sectionId: move.id, index };
  }
  const target = findElement(page, move.overId);
  if (target) return { kind: 'moveElement', elementId: move.id, columnId: target.column.id, index: target.index };
  const section = page.sections.find((candidate) => candidate.id === move.overId);
  const column = section?.columns[0];
  return column ? { kind: 'moveElement', elementId: move.id, columnId: column.id, index: 0 } : null;
}

/** The operation that moves the selected thing one place up or down; an element goes on into the next column or section. */
export function nudge(page: PageDocument, selection: Selection, by: 1 | -1): Operation | null {
  if (!selection) return null;
  if (selection.kind === 'section') {
    const index = page.sections.findIndex((section) => section.id === selection.id) + by;
    return index < 0 || index >= page.sections.length ? null : { kind: 'moveSection', sectionId: selection.id, index };
  }
  const place = findElement(page, selection.id);
  if (!place) return null;
  const index = place.index + by;
  if (index >= 0 && index < place.column.elements.length) return { kind: 'moveElement', elementId: selection.id, columnId: place.column.id, index };
  const columns = page.sections.flatMap((section) => section.columns);
  const next = columns[columns.findIndex((column) => column.id === place.column.id) + by];
  return next ? { kind: 'moveElement', elementId: selection.id, columnId: next.id, index: by === 1 ? 0 : next.elements.length } : null;
}

/** The operation that puts a copy of the selected thing right after it, and the copy's id. */
export function duplicate(page: PageDocument, selection: Selection): { operation: Operation; id: string } | null {
  if (!selection) return null;
  if (selection.kind === 'section') {
    const index = page.sections.findIndex((section) => section.id === selection.id);
    const section = page.sections[index];
    if (!section) return null;
    const copy = copySection(section, newId);
    return { operation: { kind: 'insertSection', index: index + 1, section: copy }, id: copy.id };
  }
  const place = findElement(page, selection.id);
  if (!place) return null;
  const element = { ...place.element, id: newId('element') };
  return { operation: { kind: 'insertElement', columnId: place.column.id, index: place.index + 1, element }, id: element.id };
}

export function removal(selection: Selection): Operation | null {
  if (!selection) return null;
  return selection.kind === 'section' ? { kind: 'removeSection', sectionId: selection.id } : { kind: 'removeElement', elementId: selection.id };
}

/** The operation that adds an element after what is selected, or at the end of the page's last section with content. */
export function addElement(page: PageDocument, selection: Selection, type: ElementType): { operation: Operation; element: PageElement } | null {
  const element = newElement(type, newId);
  const place = selection?.kind === 'element' ? findElement(page, selection.id) : undefined;
  if (place) return { operation: { kind: 'insertElement', columnId: place.column.id, index: place.index + 1, element }, element };
  const section =
    page.sections.find((candidate) => candidate.id === selection?.id) ?? page.sections.find((candidate) => candidate.space !== 'tight') ?? page.sections[0];
  const column = section?.columns[0];
  return column ? { operation: { kind: 'insertElement', columnId: column.id, index: column.elements.length, element }, element } : null;
}

/** The operation that puts a version beside a part which is shown to all whom that part is not shown to, and its id. */
export function otherwiseOf(page: PageDocument, selection: Selection): { operation: Operation; id: string } | null {
  const copy = duplicate(page, selection);
  if (!copy || !selection) return null;
  const show = { kind: 'otherwise' as const, of: selection.id };
  const { operation } = copy;
  if (operation.kind === 'insertSection')
    return { ...copy, operation: { ...operation, section: { ...operation.section, name: `${operation.section.name.slice(0, 48)}, otherwise`, show } } };
  if (operation.kind === 'insertElement') return { ...copy, operation: { ...operation, element: { ...operation.element, show } } };
  return null;
}
