import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** One field of a form. `firstName`, `lastName` and `email` fill the contact; others are kept as answers. */
export const FormFieldSchema = z.object({
  key: z.string().regex(/^[a-z][a-zA-Z0-9]{0,30}$/, 'A field’s key is letters and digits.'),
  label: z.string().trim().min(1, 'Give the field a label.').max(120),
  kind: z.enum(['text', 'email', 'choice']),
  required: z.boolean(),
  choices: z.array(z.string().min(1).max(80)).max(30).optional(),
});
interface FormField extends z.infer<typeof FormFieldSchema> {}

/** What every new form asks. */
export const addressFields = (): FormField[] => [
  { key: 'firstName', label: 'First name', kind: 'text', required: true },
  { key: 'email', label: 'E-mail', kind: 'email', required: true },
];

export const form = elementRecord('form', { fields: z.array(FormFieldSchema).min(1).max(20), button: WordsSchema, note: WordsSchema })({
  name: 'Form',
  create: () => ({ fields: addressFields(), button: words('Send'), note: [] }),
  words: () => [['button'], ['note']],
});
