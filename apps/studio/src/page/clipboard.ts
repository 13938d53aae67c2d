import type { PictureInfo } from '@ruta/core/catalog';
import { ElementSchema, type PageElement } from '@ruta/core/elements';
import { copySection, filesOn, findElement, type Operation, type PageDocument, type Section, SectionSchema } from '@ruta/core/page';
import { z } from 'zod';
import { newId } from '../base/newId';
import type { Selection } from './editorSlice';

/** Where what was copied waits: every window of this browser can paste it, on any page of any funnel. */
const KEY = 'ruta.copied';

const CopiedSchema = z.object({
  sections: z.array(SectionSchema),
  elements: z.array(ElementSchema),
  pictures: z.record(z.string(), z.object({ id: z.string(), width: z.int(), height: z.int(), widths: z.array(z.int()) })),
});

/** The parts that are chosen, in the order of the page; elements only where no section is among them. */
export function chosenParts(page: PageDocument, ids: readonly string[]): { sections: Section[]; elements: PageElement[] } {
  const sections = page.sections.filter(({ id }) => ids.includes(id));
  const elements = page.sections.flatMap((section) => section.columns.flatMap((column) => column.elements.filter(({ id }) => ids.includes(id))));
  return { sections, elements: sections.length > 0 ? [] : elements };
}

/** Copies what is chosen. @returns how much, in words; null if nothing is chosen */
export function copyParts(page: PageDocument, ids: readonly string[], pictures: Record<string, PictureInfo>): string | null {
  const { sections, elements } = chosenParts(page, ids);
  const count = sections.length + elements.length;
  if (count === 0) return null;
  const shown = filesOn({ ...page, sections: sections.length > 0 ? sections : page.sections });
  const used = Object.fromEntries(shown.flatMap((id) => (pictures[id] ? [[id, pictures[id]]] : [])));
  try {
    localStorage.setItem(KEY, JSON.stringify({ sections, elements, pictures: used }));
  } catch {
    return 'There is no room to copy so much';
  }
  const noun = sections.length > 0 ? 'section' : 'element';
  return count === 1 ? `One ${noun} is copied` : `${count} ${noun}s are copied`;
}

/** A part that no longer asks another one which version is shown: that one may not be on this page. */
const alone = <T extends { show?: { kind: string } | undefined }>(part: T): T => (part.show?.kind === 'otherwise' ? { ...part, show: undefined } : part);

/**
 * What was copied, put after what is selected.
 * @returns the change, the id of the first new part, and the pictures it shows; null if nothing was copied
 */
export function pasteParts(
  page: PageDocument,
  selection: Selection,
): { operation: Operation; selected: NonNullable<Selection>; pictures: PictureInfo[] } | null {
  const read = CopiedSchema.safeParse(copied());
  if (!read.success) return null;
  const { sections, elements, pictures } = read.data;
  const place = selection?.kind === 'element' ? findElement(page, selection.id) : undefined;
  const home = place?.section ?? page.sections.find(({ id }) => id === selection?.id) ?? page.sections.at(-1);
  const known = Object.values(pictures);
  if (sections.length > 0) {
    const at = home ? page.sections.indexOf(home) + 1 : 0;
    const fresh = sections.map((section) => ({ ...alone(copySection(section, newId)), popUpId: home?.popUpId }));
    const operations = fresh.map((section, index): Operation => ({ kind: 'insertSection', index: at + index, section }));
    return { operation: { kind: 'several', operations }, selected: { kind: 'section', id: (fresh[0] as Section).id }, pictures: known };
  }
  const column = place?.column ?? home?.columns[0];
  if (!column || elements.length === 0) return null;
  const at = place ? place.index + 1 : column.elements.length;
  const fresh = elements.map((element) => ({ ...alone(element), id: newId('element') }));
  const operations = fresh.map((element, index): Operation => ({ kind: 'insertElement', columnId: column.id, index: at + index, element }));
  return { operation: { kind: 'several', operations }, selected: { kind: 'element', id: (fresh[0] as PageElement).id }, pictures: known };
}

/** What is kept to be pasted; null if that is nothing, or cannot be read any more. */
function copied(): unknown {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? 'null');
  } catch {
    return null;
  }
}

/** Takes several parts away at once. */
export function removeParts(page: PageDocument, ids: readonly string[]): Operation | null {
  const { sections } = chosenParts(page, ids);
  const elements = page.sections.flatMap((section) =>
    sections.includes(section) ? [] : section.columns.flatMap((column) => column.elements.filter(({ id }) => ids.includes(id))),
  );
  const operations = [
    ...elements.map(({ id }): Operation => ({ kind: 'removeElement', elementId: id })),
    ...sections.map(({ id }): Operation => ({ kind: 'removeSection', sectionId: id })),
  ];
  return operations.length > 0 ? { kind: 'several', operations } : null;
}
