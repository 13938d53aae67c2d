import { type PageElement, withActions } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument, Section } from './page';

type Rename = (id: string) => string;

/** Remembers which id each part had, so that one which is shown otherwise follows the copy of the other. */
function renaming(newId: NewId): { make: (kind: 'section' | 'element', id: string) => string; of: Rename } {
  const made = new Map<string, string>();
  return {
    make: (kind, id) => {
      const fresh = made.get(id) ?? newId(kind);
      made.set(id, fresh);
      return fresh;
    },
    of: (id) => made.get(id) ?? id,
  };
}

const follow = <T extends { show?: { kind: 'when' } | { kind: 'otherwise'; of: string } | undefined }>(part: T, of: Rename): T =>
  part.show?.kind === 'otherwise' ? { ...part, show: { ...part.show, of: of(part.show.of) } } : part;

/** A press that scrolls to a section goes on doing so in the copy. */
const anchored = (element: PageElement, of: Rename): PageElement =>
  withActions(element, (action) => (action.kind === 'section' ? { ...action, sectionId: of(action.sectionId) } : action));

function copied(sections: readonly Section[], newId: NewId): Section[] {
  const ids = renaming(newId);
  // A linked section is the same on every page that shows it, with the ids of its parts.
  const fresh = sections.map((section) =>
    section.linkedTo !== undefined
      ? section
      : {
          ...section,
          id: ids.make('section', section.id),
          columns: section.columns.map((column) => ({
            ...column,
            id: newId('column'),
            elements: column.elements.map((element) => ({ ...element, id: ids.make('element', element.id) })),
          })),
        },
  );
  return fresh.map((section) => ({
    ...follow(section, ids.of),
    columns: section.columns.map((column) => ({ ...column, elements: column.elements.map((element) => anchored(follow(element, ids.of), ids.of)) })),
  }));
}

/** A section with ids of its own, so that a copy can be changed by itself: it is linked to nothing. */
export const copySection = (section: Section, newId: NewId): Section => copied([{ ...section, linkedTo: undefined }], newId)[0] as Section;

/** A page with ids of its own. */
export const copyPage = (page: PageDocument, newId: NewId): PageDocument => ({ ...page, sections: copied(page.sections, newId) });

/** A page whose buttons lead to other steps. */
export const leadingTo = (page: PageDocument, stepOf: (stepId: string) => string): PageDocument => ({
  ...page,
  sections: page.sections.map((section) => ({
    ...section,
    columns: section.columns.map((column) => ({
      ...column,
      elements: column.elements.map((element) =>
        withActions(element, (action) => (action.kind === 'step' ? { ...action, stepId: stepOf(action.stepId) } : action)),
      ),
    })),
  })),
});
