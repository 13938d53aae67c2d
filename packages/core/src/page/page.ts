import { z } from 'zod';
import {
  boundValuesOf,
  bringUpElement,
  ElementSchema,
  elementRecordOf,
  FocusSchema,
  filesOf,
  type PageElement,
  PERSONAL_VALUES,
  plainText,
  ShowSchema,
  SizesSchema,
  wordPlaces,
  wordsAt,
} from '../elements';
import { idSchema } from '../ids';
import { OwnCodeSchema } from '../shop';
import { PATTERN_NAMES } from './patterns';
import { PopUpSchema } from './popUp';

export const ColumnSchema = z.object({
  id: idSchema('column'),
  /** Share of the row in twelfths at desktop width; columns stack on a phone. */
  span: z.int().min(2).max(12),
  panel: z.enum(['sheet', 'line', 'tint', 'accent']).optional().describe('What it stands on'),
  sizes: SizesSchema.optional(),
  elements: z.array(ElementSchema).max(60),
});
export type Column = z.infer<typeof ColumnSchema>;

export const SectionSchema = z.object({
  id: idSchema('section'),
  name: z.string().trim().min(1, 'Give the section a name.').max(60),
  ground: z.enum(['plain', 'tint', 'dark', 'sheet']),
  space: z.enum(['tight', 'normal', 'wide']),
  align: z.enum(['start', 'center']),
  width: z.enum(['narrow', 'normal']),
  /** A picture behind the whole section; its ground colour stands under it and where it is missing. */
  backdropId: idSchema('file').nullable().default(null),
  /** How strongly the ground's colour lies over the picture, so that words on it can be read. */
  veil: z.enum(['none', 'light', 'strong']).optional(),
  focus: FocusSchema.optional().describe('The point of the picture that stays in sight'),
  pattern: z.enum(PATTERN_NAMES).optional(),
  inset: z.literal(true).optional().describe('A sheet within the page instead of its full width'),
  overlap: z.literal(true).optional().describe('Its content hangs over into the next section'),
  tall: z.literal(true).optional().describe('At least as high as the screen'),
  place: z.enum(['start', 'center', 'end', 'stretch']).optional().describe('Where columns of unlike height stand'),
  sizes: SizesSchema.optional(),
  popUpId: idSchema('popUp').optional().describe('The pop-up it is shown in; none for the page itself'),
  linkedTo: idSchema('ownSection').optional().describe('The own section that it is: what changes there changes here'),
  show: ShowSchema.optional(),
  columns: z.array(ColumnSchema).min(1, 'A section has at least one column.').max(6, 'A section holds at most six columns.'),
});
export type Section = z.infer<typeof SectionSchema>;

/** The version of page documents that is written now; older ones are brought up when they are read. */
export const PAGE_VERSION = 1;

/** A page: sections, each with columns, each with elements. Saved as it stands; never HTML. */
export const PageDocumentSchema = z
  .object({
    version: z.literal(PAGE_VERSION),
    title: z.string().trim().min(1, 'Give the page a public title.').max(120, 'Keep the title under 120 characters.'),
    description: z.string().trim().max(300, 'Keep the description under 300 characters.'),
    indexed: z.boolean(),
    shareImageId: idSchema('file').nullable().optional().describe('Shown where the page’s link is shared'),
    iconId: idSchema('file').nullable().optional().describe('Stands in the browser’s tab'),
    code: OwnCodeSchema.optional(),
    popUps: z.array(PopUpSchema).max(12, 'A page has at most twelve pop-ups.').optional(),
    sections: z.array(SectionSchema).max(60, 'A page holds at most 60 sections.'),
  })
  .superRefine((page, context) => {
    const seen = new Set<string>();
    const once = (id: string, path: Array<string | number>) => {
      if (seen.has(id)) context.addIssue({ code: 'custom', path, message: `The id ${id} stands twice on this page.` });
      seen.add(id);
    };
    page.sections.forEach((section, s) => {
      once(section.id, ['sections', s, 'id']);
      section.columns.forEach((column, c) => {
        once(column.id, ['sections', s, 'columns', c, 'id']);
        column.elements.forEach((element, e) => {
          once(element.id, ['sections', s, 'columns', c, 'elements', e, 'id']);
        });
      });
    });
  });
export type PageDocument = z.infer<typeof PageDocumentSchema>;

/** All elements of a page, in reading order. */
/** Everything that is written on a page and read by people or search engines, without what is bound to a value. */
export const wordsOfPage = (page: PageDocument): string[] => [
  page.title,
  page.description,
  ...allElements(page).flatMap((element) => wordPlaces(element).map((path) => plainText(wordsAt(element, path), () => ''))),
];

export function allElements(page: PageDocument): PageElement[] {
  return page.sections.flatMap((section) => section.columns.flatMap((column) => column.elements));
}

/** The sections that a pop-up shows, or those of the page itself; one whose pop-up is gone is the page's own again. */
export function sectionsIn(page: PageDocument, popUpId: string | null): Section[] {
  const known = new Set(page.popUps?.map(({ id }) => id));
  return page.sections.filter((section) => (section.popUpId && known.has(section.popUpId) ? section.popUpId : null) === popUpId);
}

/** Ids of all files that a page's document names. */
export function filesOn(page: PageDocument): string[] {
  const own = [page.shareImageId, page.iconId, ...page.sections.map((section) => section.backdropId)].filter((id) => typeof id === 'string');
  return [...new Set([...own, ...allElements(page).flatMap(filesOf)])];
}

export interface ElementPlace {
  section: Section;
  column: Column;
  element: PageElement;
  index: number;
}

/** Finds an element and where it stands; undefined if the page has no such element. */
export function findElement(page: PageDocument, elementId: string): ElementPlace | undefined {
  for (const section of page.sections) {
    for (const column of section.columns) {
      const index = column.elements.findIndex((element) => element.id === elementId);
      const element = column.elements[index];
      if (element) return { section, column, element, index };
    }
  }
  return undefined;
}

/** Whether a page shows something that differs from visitor to visitor. */
export function isPersonalPage(page: PageDocument): boolean {
  return allElements(page).some((element) => elementRecordOf(element.type).personal || boundValuesOf(element).some((value) => PERSONAL_VALUES.has(value)));
}

/**
 * A stored page as the present version has it: each element brought up by its own record, then read by the schema.
 * @throws ZodError if it is no page of any version
 */
export function readPage(stored: unknown): PageDocument {
  const page = stored as { version?: number; sections?: Array<{ columns?: Array<{ elements?: unknown[] }> }> };
  const version = page.version ?? 1;
  const sections = page.sections?.map((section) => ({
    ...section,
    columns: section.columns?.map((column) => ({ ...column, elements: column.elements?.map((element) => bringUpElement(element, version)) })),
  }));
  return PageDocumentSchema.parse({ ...page, version: PAGE_VERSION, sections });
}
