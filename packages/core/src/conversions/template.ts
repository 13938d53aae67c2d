/** What can stand in the body for another program, between double braces. */
export const TEMPLATE_VALUES = {
  'event.name': 'What it is called there',
  'event.id': 'Its id, the same in browser and server',
  'event.time': 'When it happened, in seconds since 1970',
  'event.date': 'The same as a date: 2026-03-31T18:00:00.000Z',
  value: 'In whole units of the currency',
  currency: 'For example EUR',
  'order.number': 'Number of the order',
  'lead.event': 'Id of the lead’s own event, of one that was marked',
  page: 'Address of the page it happened on',
  campaign: 'Name of the campaign',
  source: 'Where they came from',
  test: 'The test code, while there is one',
  'key.email': 'Hashed',
  'key.phone': 'Hashed',
  'key.firstName': 'Hashed',
  'key.lastName': 'Hashed',
  'key.country': 'Hashed',
  'key.click': 'As it came',
  'key.browser': 'As it came',
  'key.address': 'As it is',
  'key.agent': 'As it is',
} as const;
export type TemplateValue = keyof typeof TEMPLATE_VALUES;
export type TemplateValues = Partial<Record<TemplateValue, string | number>>;

export const DEFAULT_TEMPLATE = `{
  "event": "{{event.name}}",
  "id": "{{event.id}}",
  "time": "{{event.time}}",
  "value": "{{value}}",
  "currency": "{{currency}}",
  "email": "{{key.email}}"
}`;

const WHOLE = /^\{\{\s*([\w.]+)\s*\}\}$/;
const PART = /\{\{\s*([\w.]+)\s*\}\}/g;

type Json = null | boolean | number | string | Json[] | { [name: string]: Json };

/** What keeps a text from being JSON, with its line where the parser says where it stopped. */
function notJson(text: string, error: unknown): string {
  const at = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
  if (at === undefined || Number(at) >= text.length) return 'This is not JSON: it ends too early. Look whether a bracket or a quote is missing.';
  const line = text.slice(0, Number(at)).split('\n').length;
  return `This is not JSON: look at line ${line}, for a comma too many, or a quote or bracket that is missing.`;
}

/** Reads a body with its places. @returns what is wrong with it in words, or the body */
export function readTemplate(text: string): { body: Json } | { message: string } {
  let body: Json;
  try {
    body = JSON.parse(text) as Json;
  } catch (error) {
    return { message: notJson(text, error) };
  }
  if (typeof body !== 'object' || body === null) return { message: 'Write an object: { … }.' };
  const unknown = [...text.matchAll(PART)].map(([, name = '']) => name).find((name) => !Object.hasOwn(TEMPLATE_VALUES, name));
  return unknown === undefined ? { body } : { message: `Nothing is called {{${unknown}}}. Take one of the names below.` };
}

/**
 * A body with its values put in. A text that is one place alone becomes the value as it is, a number stays one; what is not
 * known is left out, with the field it stands in.
 */
export function fillTemplate(body: Json, values: TemplateValues): Json | undefined {
  if (typeof body === 'string') {
    const whole = WHOLE.exec(body)?.[1];
    if (whole !== undefined) return values[whole as TemplateValue];
    return body.replace(PART, (_place, name: string) => String(values[name as TemplateValue] ?? ''));
  }
  if (Array.isArray(body)) return body.map((part) => fillTemplate(part, values)).filter((part) => part !== undefined);
  if (typeof body === 'object' && body !== null) {
    return Object.fromEntries(
      Object.entries(body).flatMap(([name, part]) => {
        const filled = fillTemplate(part, values);
        return filled === undefined ? [] : [[name, filled]];
      }),
    );
  }
  return body;
}
