import { z } from 'zod';
import type { Facts } from './facts';

/** Yes, no, or not known. */
export type Truth = boolean | undefined;

/** Names that a description needs: conditions keep ids, so that a renamed product is named as it is called now. */
export interface FactNames {
  money: (amount: number) => string;
  product: (id: string) => string;
  edition: (id: string) => string;
  price: (id: string) => string;
  country: (code: string) => string;
  step: (id: string) => string;
}

/** Written out, so that a schema made of two shapes reads as one. */
type Flat<T> = { [K in keyof T]: T[K] };

/** What a record says beside its name and fields. */
interface FactTraits<Fields extends z.ZodRawShape> {
  /** What is asked, as the editor of conditions lists it. */
  name: string;
  /** Whether it holds; undefined if what it asks for is not known. */
  test: (asked: z.infer<z.ZodObject<Fields>>, facts: Facts) => Truth;
  /** In plain words, as it follows “buyers who …”. */
  describe: (asked: z.infer<z.ZodObject<Fields>>, names: FactNames) => string;
}

/** One thing that can be asked of a buyer. */
export interface FactRecord<Name extends string, Fields extends z.ZodRawShape> extends FactTraits<Fields> {
  fact: Name;
  schema: z.ZodObject<Flat<{ fact: z.ZodLiteral<Name> } & Fields>>;
}

/**
 * The record of one fact; its schema gets the name by which conditions find it. A further fact is one more file with
 * one of these, and its name in the tuple of `registry.ts`.
 */
export function factRecord<const Name extends string, Fields extends z.ZodRawShape>(
  fact: Name,
  fields: Fields,
  traits: FactTraits<NoInfer<Fields>>,
): FactRecord<Name, Fields> {
  const schema = z.object({ fact: z.literal(fact), ...fields });
  return { ...traits, fact, schema: schema as unknown as FactRecord<Name, Fields>['schema'] };
}

/** Asks a known value, and leaves an unknown one unknown. */
export function known<T>(value: T | undefined, test: (value: T) => boolean): Truth {
  return value === undefined ? undefined : test(value);
}

/** A list of words in quotes: `“a”, “b” or “c”`. */
export function anyOf(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)}`;
}
