import type { NewId } from '../ids';
import type { PageDocument, Section } from './page';

/** A section with ids of its own, so that a copy can be changed by itself. */
export function copySection(section: Section, newId: NewId): Section {
  return {
    ...section,
    id: newId('section'),
    columns: section.columns.map((column) => ({
      ...column,
      id: newId('column'),
      elements: column.elements.map((element) => ({ ...element, id: newId('element') })),
    })),
  };
}

/** A page with ids of its own. */
export function copyPage(page: PageDocument, newId: NewId): PageDocument {
  return { ...page, sections: page.sections.map((section) => copySection(section, newId)) };
}
