import { type ElementOf, plainText } from '../elements';
import { EmailSchema } from '../shop';

type Asked = Pick<ElementOf<'form'>, 'fields' | 'consent'>;
type Field = Asked['fields'][number];

const LONGEST = { text: 200, long: 2000 } as const;
/** How a box that is ticked is kept, and the answers of a list are told apart. */
export const TICKED = 'yes';
const BETWEEN = ', ';

/** The field in which consent is given. */
export const CONSENT = 'consent';

/** What was sent for one field, as one line of words. */
function sentFor(field: Field, body: Record<string, unknown>): string {
  const sent = body[field.key];
  const said = (Array.isArray(sent) ? sent : [sent]).filter((each): each is string => typeof each === 'string').map((each) => each.trim());
  if (field.kind === 'several') return (field.choices ?? []).filter((choice) => said.includes(choice)).join(BETWEEN);
  if (field.kind === 'check') return said[0] ? TICKED : '';
  return said[0] || (field.kind === 'hidden' ? (field.value ?? '') : '');
}

/** What is wrong with what was sent for a field, in words; undefined if nothing is. */
function wrongWith(field: Field, value: string): string | undefined {
  if (value === '') return field.required && field.kind !== 'hidden' ? 'Please fill this in.' : undefined;
  const longest = field.kind === 'long' ? LONGEST.long : LONGEST.text;
  switch (field.kind) {
    case 'email': {
      const email = EmailSchema.safeParse(value);
      return email.success ? undefined : (email.error.issues[0]?.message ?? 'Enter an e-mail address.');
    }
    case 'choice':
      return field.choices?.includes(value) ? undefined : 'Choose one of the answers.';
    case 'number':
      return /^-?\d{1,12}([.,]\d{1,6})?$/.test(value) ? undefined : 'Enter a number.';
    case 'date':
      return /^\d{4}-\d{2}-\d{2}$/.test(value) && !Number.isNaN(Date.parse(value)) ? undefined : 'Enter a date.';
    case 'phone':
      return /^\+?[\d\s()/.-]{5,30}$/.test(value) ? undefined : 'Enter a phone number, for example +351 210 000 000.';
    case 'several':
    case 'check':
      return undefined;
    case 'text':
    case 'long':
    case 'hidden':
      return value.length > longest ? `Keep this under ${longest.toLocaleString('en')} characters.` : undefined;
    default:
      return field.kind satisfies never;
  }
}

/** Reads what was sent for a form's fields, and what is wrong with it, field by field. */
export function readAnswers({ fields, consent }: Asked, body: Record<string, unknown>): { values: Record<string, string>; errors: Record<string, string> } {
  const values: Record<string, string> = {};
  const errors: Record<string, string> = {};
  for (const field of fields) {
    const value = sentFor(field, body);
    // More than may be kept is given back as it was typed, so that it can be made shorter.
    values[field.key] = value.slice(0, LONGEST.long + 1000);
    const wrong = wrongWith(field, value);
    if (wrong) errors[field.key] = wrong;
  }
  if (consent) {
    const given = body[CONSENT] !== undefined && body[CONSENT] !== '';
    if (given) values[CONSENT] = TICKED;
    else if (consent.required) errors[CONSENT] = 'Please tick this to go on.';
  }
  return { values, errors };
}

/** One answer as it is kept: by its field, with the label as it stood when it was given. */
export interface Answer {
  field: string;
  label: string;
  value: string;
}

const OF_CONTACT: ReadonlySet<string> = new Set(['firstName', 'lastName', 'email']);

/** What of the answers is kept beside the contact's own name and address; consent with its very wording. */
export function answersOf({ fields, consent }: Asked, values: Record<string, string>): Answer[] {
  const given = fields.filter(({ key }) => !OF_CONTACT.has(key) && values[key]).map(({ key, label }) => ({ field: key, label, value: values[key] as string }));
  return consent && values[CONSENT] ? [...given, { field: CONSENT, label: plainText(consent.words), value: TICKED }] : given;
}
