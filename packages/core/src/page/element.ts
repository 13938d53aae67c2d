import { z } from 'zod';
import { idSchema } from '../ids';
import { WordsSchema } from './inline';

/** Where a picture comes from: an uploaded file, or the picture of the step's product. */
export const PictureSourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('file'), fileId: idSchema('file') }),
  z.object({ kind: z.literal('product') }),
  z.object({ kind: z.literal('gift') }),
]);
export type PictureSource = z.infer<typeof PictureSourceSchema>;

/** What a button or link does. */
export const ActionSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('next') }),
  z.object({ kind: z.literal('step'), stepId: idSchema('step') }),
  z.object({ kind: z.literal('address'), url: z.url({ protocol: /^(https?|mailto)$/, error: 'Enter a full address beginning with https://' }) }),
  z.object({ kind: z.literal('scroll'), target: z.enum(['form', 'order-form']) }),
]);
export type Action = z.infer<typeof ActionSchema>;

/** One field of a form. `firstName` and `email` fill the contact; others are kept as answers under their label. */
export const FormFieldSchema = z.object({
  key: z.string().regex(/^[a-z][a-zA-Z0-9]{0,30}$/, 'A field’s key is letters and digits.'),
  label: z.string().trim().min(1, 'Give the field a label.').max(120),
  kind: z.enum(['text', 'email', 'choice']),
  required: z.boolean(),
  choices: z.array(z.string().min(1).max(80)).max(30).optional(),
});
export interface FormField extends z.infer<typeof FormFieldSchema> {}

const id = idSchema('element');
const alt = z.string().max(250, 'Keep the text alternative under 250 characters.');

/** What an element about the step's product can show. */
export const PRODUCT_PARTS = ['description', 'included', 'preview', 'policy'] as const;

/** Every element a page can hold. */
export const ElementSchema = z.discriminatedUnion('type', [
  z.object({ id, type: z.literal('headline'), level: z.literal([1, 2, 3]), size: z.enum(['large', 'medium', 'small']), words: WordsSchema }),
  z.object({ id, type: z.literal('text'), style: z.enum(['body', 'lead', 'small', 'eyebrow']), words: WordsSchema }),
  z.object({ id, type: z.literal('picture'), source: PictureSourceSchema.nullable(), alt, shape: z.enum(['natural', 'wide', 'square', 'round']) }),
  z.object({ id, type: z.literal('button'), style: z.enum(['main', 'quiet', 'link']), words: WordsSchema, action: ActionSchema }),
  z.object({ id, type: z.literal('list'), marker: z.enum(['check', 'dot', 'number']), items: z.array(WordsSchema).min(1).max(40) }),
  z.object({ id, type: z.literal('testimonial'), words: WordsSchema, name: z.string().max(120), detail: z.string().max(120) }),
  z.object({
    id,
    type: z.literal('faq'),
    items: z
      .array(z.object({ question: z.string().min(1).max(200), answer: WordsSchema }))
      .min(1)
      .max(30),
  }),
  z.object({ id, type: z.literal('price'), note: WordsSchema }),
  z.object({ id, type: z.literal('product'), shows: z.array(z.enum(PRODUCT_PARTS)).min(1, 'Show at least one thing.') }),
  z.object({ id, type: z.literal('form'), fields: z.array(FormFieldSchema).min(1).max(20), button: WordsSchema, note: WordsSchema }),
  z.object({
    id,
    type: z.literal('order-form'),
    button: WordsSchema,
    consent: WordsSchema,
    askLastName: z.boolean(),
    askCountry: z.boolean(),
    askQuantity: z.boolean().optional(),
    askTaxNumber: z.boolean().optional(),
    hideCode: z.boolean().optional().describe('Discount codes can then only come with a link'),
  }),
  z.object({ id, type: z.literal('order-summary'), title: WordsSchema }),
  z.object({ id, type: z.literal('receipt'), title: WordsSchema }),
  z.object({ id, type: z.literal('downloads'), title: WordsSchema }),
  z.object({ id, type: z.literal('guarantee'), title: WordsSchema, words: WordsSchema }),
  z.object({ id, type: z.literal('logo') }),
  z.object({ id, type: z.literal('divider') }),
  z.object({ id, type: z.literal('spacer'), size: z.enum(['small', 'medium', 'large']) }),
]);
export type PageElement = z.infer<typeof ElementSchema>;
export type ElementType = PageElement['type'];
export type ElementOf<T extends ElementType> = Extract<PageElement, { type: T }>;

/** Whether an element is of a type, so that its own fields can be read. */
export function isElementOf<T extends ElementType>(element: PageElement, type: T): element is ElementOf<T> {
  return element.type === type;
}

/** Names of the elements as people see them. */
export const ELEMENT_NAMES: Record<ElementType, string> = {
  headline: 'Headline',
  text: 'Text',
  picture: 'Picture',
  button: 'Button',
  list: 'List',
  testimonial: 'Testimonial',
  faq: 'Questions',
  price: 'Price',
  product: 'Product details',
  form: 'Form',
  'order-form': 'Order form',
  'order-summary': 'Order summary',
  receipt: 'Receipt',
  downloads: 'Downloads',
  guarantee: 'Guarantee',
  logo: 'Logo',
  divider: 'Divider',
  spacer: 'Spacer',
};
