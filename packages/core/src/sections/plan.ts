import { type ElementOf, type ElementType, elementRecordOf, type PageElement, type Trade, type Words } from '../elements';
import type { NewId } from '../ids';
import type { Column, Section } from '../page';

/** An element without its id, as a plan of a section states it. */
export type Part = { [T in ElementType]: Omit<ElementOf<T>, 'id'> }[ElementType];

/** A section before it has ids; what is left out is the usual. */
export interface SectionPlan {
  name: string;
  ground?: Section['ground'];
  space?: Section['space'];
  align?: Section['align'];
  width?: Section['width'];
  columns: Array<{ span: number; parts: Part[]; panel?: Column['panel'] }>;
  /** Whatever else a section can be: its pattern, place, overlap. */
  more?: Partial<Pick<Section, 'pattern' | 'inset' | 'overlap' | 'tall' | 'place'>>;
}

/** What ready sections are for, in the order of the library. */
export const SECTION_PURPOSES = {
  header: 'Header',
  opening: 'Opening',
  benefits: 'Benefits',
  included: 'What is included',
  steps: 'How it works',
  story: 'Story and words',
  about: 'Who is behind it',
  proof: 'Proof',
  comparison: 'Comparison',
  price: 'Price',
  guarantee: 'Guarantee',
  questions: 'Questions',
  form: 'Form',
  appointment: 'Appointment',
  deadline: 'Deadline',
  media: 'Pictures and video',
  closing: 'Last call',
  after: 'After the purchase',
  footer: 'Footer',
} as const;
export type SectionPurpose = keyof typeof SECTION_PURPOSES;

/** A ready section that can be added to any page. A further one is one more record in the file of its purpose, in `ready`. */
export interface ReadySection {
  key: string;
  purpose: SectionPurpose;
  name: string;
  /** The trade its drawing is of; none for one that suits all. */
  trade?: Trade;
  plan: () => SectionPlan;
}

/** Makes a section from a plan, with fresh ids. */
export function buildSection(plan: SectionPlan, newId: NewId): Section {
  return {
    id: newId('section'),
    name: plan.name,
    ground: plan.ground ?? 'plain',
    space: plan.space ?? 'normal',
    align: plan.align ?? 'start',
    width: plan.width ?? 'normal',
    backdropId: null,
    ...plan.more,
    columns: plan.columns.map(
      ({ span, parts, panel }): Column => ({
        id: newId('column'),
        span,
        ...(panel ? { panel } : {}),
        elements: parts.map((each) => ({ id: newId('element'), ...each }) as PageElement),
      }),
    ),
  };
}

/** A part of a plan: an element as it is when it is new, with what is different here. */
export function part<T extends ElementType>(type: T, fields: Partial<Omit<ElementOf<T>, 'id' | 'type'>> = {}): Part {
  return { type, ...elementRecordOf(type).create(), ...fields } as Part;
}

/** One column over the whole width. */
export const one = (...parts: Part[]) => [{ span: 12, parts }];
export const headlinePart = (level: 1 | 2 | 3, size: 'large' | 'medium' | 'small', words: Words) => part('headline', { level, size, words });
export const textPart = (style: ElementOf<'text'>['style'], words: Words) => part('text', { style, words });
