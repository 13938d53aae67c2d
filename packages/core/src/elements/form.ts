import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** What a field asks for, and how it is filled in. */
export const FIELD_KINDS = {
  text: 'A line of words',
  long: 'Several lines of words',
  email: 'E-mail',
  phone: 'Phone number',
  number: 'A number',
  date: 'A date',
  choice: 'One of several answers',
  several: 'Any of several answers',
  check: 'A box to tick',
  hidden: 'Hidden, filled from the link or by you',
} as const;
export type FieldKind = keyof typeof FIELD_KINDS;

/** One field of a form. `firstName`, `lastName` and `email` fill the contact; others are kept as answers, by their key. */
export const FormFieldSchema = z.object({
  key: z.string().regex(/^[a-z][a-zA-Z0-9]{0,30}$/, 'A field’s key is letters and digits.'),
  label: z.string().trim().min(1, 'Give the field a label.').max(120),
  kind: z.enum(Object.keys(FIELD_KINDS) as [FieldKind, ...FieldKind[]]),
  required: z.boolean(),
  choices: z.array(z.string().min(1).max(80)).max(30).optional(),
  /** Of a hidden field: what it holds where the link says nothing. */
  value: z.string().max(200).optional(),
  stage: z.int().min(0).max(5).optional().describe('In which stage it stands, from 0'),
});
export type FieldOfForm = z.infer<typeof FormFieldSchema>;

/** What happens when it was sent. */
export const FormAfterSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('route') }),
  z.object({ kind: z.literal('message'), words: z.string().trim().min(1, 'Write what is said.').max(600) }),
  z.object({ kind: z.literal('address'), url: z.url({ protocol: /^https?$/, error: 'Enter an address that begins with https://' }).max(1000) }),
]);

export type AfterForm = z.infer<typeof FormAfterSchema>;

/** Most stages that a form can have. */
export const MOST_STAGES = 6;

/** What every new form asks. */
export const addressFields = (): FieldOfForm[] => [
  { key: 'firstName', label: 'First name', kind: 'text', required: true },
  { key: 'email', label: 'E-mail', kind: 'email', required: true },
];

export const form = elementRecord('form', {
  fields: z.array(FormFieldSchema).min(1).max(30),
  button: WordsSchema,
  note: WordsSchema,
  name: z.string().max(80).optional().describe('By which it is told from other forms'),
  consent: z.object({ words: WordsSchema, required: z.boolean() }).optional().describe('A box to tick; its wording is kept with the answer'),
  stages: z.array(z.string().trim().min(1, 'Give the stage a name.').max(80)).min(2).max(MOST_STAGES).optional(),
  tags: z.array(z.string().trim().min(1).max(60)).max(20).optional().describe('Given to who sends it'),
  after: FormAfterSchema.optional(),
})({
  name: 'Form',
  create: () => ({ fields: addressFields(), button: words('Send'), note: [] }),
  words: ({ consent }) => [['button'], ...(consent ? [['consent', 'words']] : []), ['note']],
});
