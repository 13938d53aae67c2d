import { z } from 'zod';

type RawIssue = z.core.$ZodRawIssue;

const NEEDED: Partial<Record<string, string>> = {
  string: 'Enter some text.',
  number: 'Enter a number.',
  int: 'Enter a whole number.',
  nan: 'Enter a number.',
  boolean: 'Say yes or no.',
  date: 'Enter a date.',
  array: 'A list belongs here.',
};

const FORMATS: Partial<Record<string, string>> = {
  email: 'Enter an e-mail address such as name@example.test.',
  url: 'Enter a whole address that begins with https://.',
  date: 'Enter a date such as 2026-03-31.',
  datetime: 'Enter a date and time such as 2026-03-31T12:00:00Z.',
  time: 'Enter a time such as 18:30.',
  safeint: 'Enter a whole number.',
};

const MOST_NAMED = 8;
const count = (number: number | bigint) => number.toLocaleString('en');

function tooMany({ origin, maximum, inclusive }: z.core.$ZodRawIssue<z.core.$ZodIssueTooBig>): string {
  if (origin === 'string') return `Use at most ${count(maximum)} characters.`;
  if (origin === 'array' || origin === 'set') return `At most ${count(maximum)} fit here.`;
  return inclusive === false ? `Enter less than ${count(maximum)}.` : `Enter at most ${count(maximum)}.`;
}

function tooFew({ origin, minimum, inclusive }: z.core.$ZodRawIssue<z.core.$ZodIssueTooSmall>): string {
  if (origin === 'string') return minimum === 1 ? 'Fill this in.' : `Use at least ${count(minimum)} characters.`;
  if (origin === 'array' || origin === 'set') return minimum === 1 ? 'Add at least one.' : `Add at least ${count(minimum)}.`;
  return inclusive === false ? `Enter more than ${count(minimum)}.` : `Enter at least ${count(minimum)}.`;
}

/** What is wrong with something that was typed or sent, as a person would say it. */
export function plainWords(issue: RawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'This is missing.' : (NEEDED[issue.expected] ?? 'This does not fit here.');
    case 'too_big':
      return tooMany(issue);
    case 'too_small':
      return tooFew(issue);
    case 'invalid_value':
      return issue.values.length <= MOST_NAMED && issue.values.length > 1
        ? `Choose one of these: ${issue.values.join(', ')}.`
        : 'Choose one of those on offer.';
    case 'invalid_format':
      return FORMATS[issue.format] ?? 'This is not written as it should be.';
    case 'unrecognized_keys':
      return `Nothing is known here of ${issue.keys.map((key) => `“${key}”`).join(', ')}.`;
    case 'not_multiple_of':
      return `Enter a multiple of ${count(issue.divisor)}.`;
    case 'invalid_union':
      return issue.discriminator ? 'There is no such kind.' : 'This does not fit here.';
    default:
      return 'This does not fit here.';
  }
}

/** Has every schema speak in plain words where it has none of its own. To be called once, where a program begins. */
export function speakPlainly(): void {
  z.config({ customError: plainWords });
}
