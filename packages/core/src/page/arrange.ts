import { type ScreenSize, type Sizes, withSizeChange } from '../elements';
import type { Operation } from './operation';
import { findElement, type PageDocument, sectionsIn } from './page';

interface Part {
  id: string;
  sizes: Sizes | undefined;
}

/** What stands beside a part on its floor: the elements of its column, the columns of its section, the sections of its page or pop-up. */
function siblingsOf(page: PageDocument, id: string): { parts: Part[]; change: (id: string, sizes: Sizes | undefined) => Operation } | null {
  const section = page.sections.find((each) => each.id === id);
  if (section) {
    const all = page.sections.filter((each) => each.popUpId === section.popUpId);
    return { parts: all.map(({ id, sizes }) => ({ id, sizes })), change: (sectionId, sizes) => ({ kind: 'changeSection', sectionId, changes: { sizes } }) };
  }
  const holder = page.sections.find((each) => each.columns.some((column) => column.id === id));
  if (holder)
    return {
      parts: holder.columns.map(({ id, sizes }) => ({ id, sizes })),
      change: (columnId, sizes) => ({ kind: 'changeColumn', columnId, changes: { sizes } }),
    };
  const place = findElement(page, id);
  if (!place) return null;
  return {
    parts: place.column.elements.map((element) => ({ id: element.id, sizes: element.layout?.sizes })),
    change: (elementId, sizes) => ({
      kind: 'changeElement',
      elementId,
      changes: { layout: { ...findElement(page, elementId)?.element.layout, sizes } },
    }),
  };
}

/** Parts in the order in which one size of screen shows them. */
const inOrder = (parts: readonly Part[], size: ScreenSize): Part[] => parts.toSorted((a, b) => (a.sizes?.[size]?.order ?? 0) - (b.sizes?.[size]?.order ?? 0));

/** Moves a part among what stands beside it on one size of screen only; null if it is at the end already. */
export function reorderAt(page: PageDocument, id: string, size: ScreenSize, by: 1 | -1): Operation | null {
  const siblings = siblingsOf(page, id);
  if (!siblings) return null;
  const order = inOrder(siblings.parts, size);
  const from = order.findIndex((part) => part.id === id);
  const moved = order[from];
  if (!moved || !order[from + by]) return null;
  const next = order.toSpliced(from, 1).toSpliced(from + by, 0, moved);
  return { kind: 'several', operations: next.map((part, index) => siblings.change(part.id, withSizeChange(part.sizes, size, { order: index + 1 }))) };
}

/** Gives what stands beside a part the same order on one size as on every other. */
export function resetOrderAt(page: PageDocument, id: string, size: ScreenSize): Operation | null {
  const siblings = siblingsOf(page, id);
  if (!siblings) return null;
  return { kind: 'several', operations: siblings.parts.map((part) => siblings.change(part.id, withSizeChange(part.sizes, size, { order: undefined }))) };
}

/** Takes a pop-up away with everything it shows. */
export const removePopUp = (page: PageDocument, popUpId: string): Operation => ({
  kind: 'several',
  operations: [
    ...sectionsIn(page, popUpId).map((section): Operation => ({ kind: 'removeSection', sectionId: section.id })),
    { kind: 'changeSettings', changes: { popUps: page.popUps?.filter(({ id }) => id !== popUpId) } },
  ],
});
