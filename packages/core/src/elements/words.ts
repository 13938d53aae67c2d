import { z } from 'zod';
import { AddressSchema } from './address';

/** Values that a page takes from the shop, the step's product or the buyer, so that words follow when those change. */
export const BOUND_VALUES = {
  'product.name': 'product name',
  'product.price': 'price',
  'product.regularPrice': 'old price',
  'product.description': 'description',
  'gift.name': 'gift name',
  'buyer.firstName': 'first name',
  'order.number': 'order number',
  'order.total': 'order total',
  'shop.name': 'shop name',
  'shop.email': 'shop e-mail',
} as const;
export type BoundValue = keyof typeof BOUND_VALUES;

/** Which bound values differ from visitor to visitor, so that a page with them cannot be kept in memory as one text. */
export const PERSONAL_VALUES: ReadonlySet<BoundValue> = new Set(['buyer.firstName', 'order.number', 'order.total']);

const boundKeys = Object.keys(BOUND_VALUES) as [BoundValue, ...BoundValue[]];

/** A run of words, a value that is filled in when the page is shown, or a line break. */
export const InlineSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('text'),
    text: z.string().min(1).max(4000, 'This text is over 4,000 characters.'),
    bold: z.boolean().optional(),
    italic: z.boolean().optional(),
    placeholder: z.literal(true).optional().describe('Words of a template, to be replaced before they go live'),
    link: AddressSchema.optional().describe('Where these words lead'),
  }),
  z.object({ type: z.literal('bound'), value: z.enum(boundKeys), fallback: z.string().max(120).optional() }),
  z.object({ type: z.literal('break') }),
]);
export type Inline = z.infer<typeof InlineSchema>;

/** Words of an element: inline nodes in order. */
export const WordsSchema = z.array(InlineSchema).max(200, 'This text has too many parts.');
export type Words = z.infer<typeof WordsSchema>;

/** Words from a plain string, or from strings and bound values in turn: `words('Hello ', { bound: 'buyer.firstName' })`. */
export function words(...parts: Array<string | { bound: BoundValue; fallback?: string }>): Words {
  return parts.map((part) =>
    typeof part === 'string'
      ? { type: 'text', text: part }
      : { type: 'bound', value: part.bound, ...(part.fallback === undefined ? {} : { fallback: part.fallback }) },
  );
}

/** Words that only say what is to be written in their place. */
export const placeholder = (text: string): Words => [{ type: 'text', text, placeholder: true }];

/** Words as a person has written them: what stood there as a placeholder is theirs now. */
export const asWritten = (content: Words): Words =>
  content.map((node) => {
    if (node.type !== 'text' || !node.placeholder) return node;
    const { placeholder: _mark, ...written } = node;
    return written;
  });

/** Plain text of words; bound values come from `resolve`, or show as their name in brackets where it gives nothing. */
export function plainText(content: Words, resolve?: (value: BoundValue) => string | undefined): string {
  return content
    .map((node) => {
      if (node.type === 'text') return node.text;
      if (node.type === 'break') return ' ';
      return resolve?.(node.value) ?? node.fallback ?? `[${BOUND_VALUES[node.value]}]`;
    })
    .join('');
}

/** The words that something pressed is labelled with; a link inside a button would lead nowhere. */
const LABELS = new Set(['button', 'yes', 'no', 'next']);

const PRESSED = new Set(['button', 'navigation']);

/** Whether words of an element can hold links: all but those that stand on something that is pressed. */
export const takesLinks = (type: string, path: ReadonlyArray<string | number>): boolean => !PRESSED.has(type) && !path.some((key) => LABELS.has(String(key)));
