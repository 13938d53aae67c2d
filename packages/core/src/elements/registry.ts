import { z } from 'zod';
import type { NewId } from '../ids';
import type { Action } from './action';
import { appointment } from './appointment';
import { badges } from './badges';
import { button } from './button';
import { comparison } from './comparison';
import { countdown } from './countdown';
import { divider } from './divider';
import { downloads } from './downloads';
import { faq } from './faq';
import { form } from './form';
import { guarantee } from './guarantee';
import { headline } from './headline';
import { html } from './html';
import { iconList } from './iconList';
import { list } from './list';
import { logo } from './logo';
import { logos } from './logos';
import { navigation } from './navigation';
import { offers } from './offers';
import { orderForm } from './orderForm';
import { orderSummary } from './orderSummary';
import { picture } from './picture';
import { price } from './price';
import { priceTable } from './priceTable';
import { product } from './product';
import { progress } from './progress';
import { receipt } from './receipt';
import { type ElementPath, wordsAt } from './record';
import { share } from './share';
import { spacer } from './spacer';
import { steps } from './steps';
import { testimonial } from './testimonial';
import { testimonials } from './testimonials';
import { text } from './text';
import { video } from './video';
import type { BoundValue } from './words';

/** Every type of element, in the order in which the editor offers them. */
export const ELEMENTS = [
  headline,
  text,
  picture,
  video,
  button,
  list,
  iconList,
  steps,
  testimonial,
  testimonials,
  logos,
  badges,
  faq,
  price,
  priceTable,
  comparison,
  product,
  form,
  appointment,
  orderForm,
  orderSummary,
  offers,
  countdown,
  progress,
  receipt,
  downloads,
  guarantee,
  share,
  navigation,
  logo,
  html,
  divider,
  spacer,
] as const;

/** The schemas of records, each at its place in the tuple. */
function schemasOf<T extends ReadonlyArray<{ schema: z.ZodObject }>>(records: T) {
  return records.map((record) => record.schema) as unknown as { -readonly [I in keyof T]: T[I]['schema'] };
}

/** Every element a page can hold. */
export const ElementSchema = z.discriminatedUnion('type', schemasOf(ELEMENTS));
export type PageElement = z.infer<(typeof ELEMENTS)[number]['schema']>;
export type ElementType = PageElement['type'];
export type ElementOf<T extends ElementType> = Extract<PageElement, { type: T }>;

const byType = new Map<string, (typeof ELEMENTS)[number]>(ELEMENTS.map((record) => [record.type, record]));

/** What the core knows of a type of element. @throws RangeError for a type that no record has */
export function elementRecordOf(type: string): (typeof ELEMENTS)[number] {
  const record = byType.get(type);
  if (!record) throw new RangeError(`There is no element “${type}”.`);
  return record;
}

/** Whether an element is of a type, so that its own fields can be read. */
export function isElementOf<T extends ElementType>(element: PageElement, type: T): element is ElementOf<T> {
  return element.type === type;
}

/** Where an element's words stand, the first one first. */
export function wordPlaces(element: PageElement): ElementPath[] {
  return (elementRecordOf(element.type).words as (element: PageElement) => ElementPath[])(element);
}

/** The bound values that an element's words hold, wherever they stand. */
export function boundValuesOf(element: PageElement): BoundValue[] {
  return wordPlaces(element).flatMap((path) => wordsAt(element, path).flatMap((node) => (node.type === 'bound' ? [node.value] : [])));
}

/** A new element of a type with words to start from. */
export function newElement(type: ElementType, newId: NewId): PageElement {
  return { id: newId('element'), type, ...elementRecordOf(type).create() } as PageElement;
}

/** A stored element as the present version has it; one of an unknown type is left for the schema to refuse. */
export function bringUpElement(stored: unknown, version: number): unknown {
  const record = byType.get((stored as { type?: string } | null)?.type ?? '');
  return record?.bringUp ? record.bringUp(stored as Record<string, unknown>, version) : stored;
}

/** What parts of an element lead to when they are pressed, in order; the place in this list names each one. */
export function actionsOf(element: PageElement): Action[] {
  if (element.type === 'button') return [element.action];
  if (element.type === 'picture') return element.action ? [element.action] : [];
  if (element.type === 'navigation') return element.items.map(({ action }) => action);
  return [];
}

/** An element whose parts lead elsewhere. */
export function withActions(element: PageElement, change: (action: Action) => Action): PageElement {
  if (element.type === 'button') return { ...element, action: change(element.action) };
  if (element.type === 'picture') return element.action ? { ...element, action: change(element.action) } : element;
  if (element.type === 'navigation') return { ...element, items: element.items.map((item) => ({ ...item, action: change(item.action) })) };
  return element;
}

/** Ids of the files that an element shows. */
export function filesOf(element: PageElement): string[] {
  switch (element.type) {
    case 'picture':
      return element.source?.kind === 'file' ? [element.source.fileId] : [];
    case 'video':
      return [...(element.posterId ? [element.posterId] : []), ...(element.source?.kind === 'file' ? [element.source.fileId] : [])];
    case 'testimonial':
      return element.pictureId ? [element.pictureId] : [];
    case 'testimonials':
    case 'logos':
      return element.items.flatMap(({ pictureId }) => pictureId ?? []);
    default:
      return [];
  }
}
