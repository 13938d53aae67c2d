import { z } from 'zod';
import { idSchema } from '../ids';
import { LayoutSchema } from './layout';
import { ShowSchema } from './show';
import type { Words } from './words';

/** Where something stands inside an element: `['words']`, `['items', 2, 'answer']`. */
export type ElementPath = Array<string | number>;

export const ElementIdSchema = idSchema('element');

/** Written out, so that a schema made of two shapes reads as one. */
type Flat<T> = { [K in keyof T]: T[K] };
type ElementShape<Type extends string, Fields extends z.ZodRawShape> = Flat<
  { id: typeof ElementIdSchema; type: z.ZodLiteral<Type>; show: z.ZodOptional<typeof ShowSchema>; layout: z.ZodOptional<typeof LayoutSchema> } & Fields
>;

/** What a record says beside its type and fields. */
interface ElementTraits<Fields extends z.ZodRawShape> {
  /** Its name as people see it. */
  name: string;
  /** A new one, with words to start from. */
  create: () => z.infer<z.ZodObject<Fields>>;
  /** Where its words stand, the first one first: what is typed on the page itself, and what may hold bound values. */
  words: (element: z.infer<z.ZodObject<Fields>>) => ElementPath[];
  /** It shows what differs from visitor to visitor, so that its page cannot be kept as one text for everybody. */
  personal?: boolean;
  /** Brings up what an older version stored, before the schema reads it. */
  bringUp?: (stored: Record<string, unknown>, version: number) => Record<string, unknown>;
}

/** Everything the core knows of one type of element. */
export interface ElementRecord<Type extends string, Fields extends z.ZodRawShape> extends ElementTraits<Fields> {
  type: Type;
  schema: z.ZodObject<ElementShape<Type, Fields>>;
}

/**
 * The record of one type of element: its type and fields, then what else is known of it. The schema gets the id,
 * the type, to whom it is shown and how it stands, as every element has them. A further element is one more file with one of these, and its name in the tuple of
 * `registry.ts`.
 */
export function elementRecord<const Type extends string, Fields extends z.ZodRawShape>(type: Type, fields: Fields) {
  const schema = z.object({
    id: ElementIdSchema,
    type: z.literal(type),
    show: ShowSchema.optional(),
    layout: LayoutSchema.optional(),
    ...fields,
  }) as unknown as ElementRecord<Type, Fields>['schema'];
  return (traits: ElementTraits<Fields>): ElementRecord<Type, Fields> => ({ ...traits, type, schema });
}

/** The one place of words of an element that has no others. */
export const onlyWords = () => [['words']];

/** The value at a path inside an element, if its words stand there. */
export function wordsAt(element: object, path: ElementPath): Words {
  let value: unknown = element;
  for (const key of path) value = (value as Record<string | number, unknown> | undefined)?.[key];
  return Array.isArray(value) ? (value as Words) : [];
}

/** The places of words in a list of items, item by item: `['items', 0, 'title']`, `['items', 0, 'words']`, … */
export const itemWords = (items: readonly unknown[], ...fields: string[]): ElementPath[] =>
  items.flatMap((_, index) => fields.map((field) => ['items', index, field]));
