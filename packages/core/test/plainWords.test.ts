import { beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { plainWords, speakPlainly } from '../src/words';

beforeAll(speakPlainly);

const areas = import.meta.glob('../src/*/index.ts', { eager: true }) as Record<string, Record<string, unknown>>;
const isSchema = (value: unknown): value is z.ZodType => typeof value === 'object' && value !== null && '_zod' in value;
const schemas = Object.entries(areas).flatMap(([file, area]) =>
  Object.entries(area).flatMap(([name, value]) => (isSchema(value) ? [{ name: `${file.split('/')[2]} ${name}`, schema: value }] : [])),
);

const WRONG: unknown[] = [
  undefined,
  null,
  7,
  -1,
  1.5,
  1e300,
  Number.NaN,
  '',
  'x',
  ' ',
  'x'.repeat(100_000),
  true,
  [],
  Array(20_001).fill('x'),
  {},
  { kind: 'nothing' },
];
/** All that a schema says of what is wrong with it, and with each of its fields. */
function saidBy(schema: z.ZodType): string[] {
  const said = (input: unknown) => {
    const read = schema.safeParse(input);
    return read.success ? [] : read.error.issues.flatMap(flat);
  };
  const shape = (schema as Partial<z.ZodObject>).shape ?? {};
  const fields = Object.keys(shape);
  return [
    ...WRONG.flatMap(said),
    ...fields.flatMap((field) => WRONG.flatMap((input) => said({ [field]: input }))),
    ...said({ unknown: 1, ...Object.fromEntries(fields.map((field) => [field, {}])) }),
  ];
}
const flat = (issue: z.core.$ZodIssue): string[] => [issue.message, ...(issue.code === 'invalid_union' ? issue.errors.flat().flatMap(flat) : [])];

const RAW = /expected|received|[Ii]nvalid|Too (big|small)|Unrecognized|undefined|NaN|\[object|must match|regex|discriminator|JSON pointer/;

describe('whatever is wrong', () => {
  it('is said as a person would, of everything that is typed, sent or brought in by a file', () => {
    expect(schemas.length).toBeGreaterThan(150);
    const said = new Map<string, string>();
    for (const { name, schema } of schemas) for (const message of saidBy(schema)) said.set(message, name);
    const unkind = [...said].filter(([message]) => RAW.test(message) || !/^[A-Z0-9“].*([.?!”]|https:\/\/)$/su.test(message));
    expect(unkind).toEqual([]);
    // The list itself, so that whoever adds a message reads it among the others.
    expect([...said.keys()].sort()).toMatchSnapshot();
    // A few hundred schemas, each told a hundred wrong things.
  }, 120_000);

  it('has words for whatever a schema has none of its own for', () => {
    const said = (schema: z.ZodType, input: unknown) => schema.safeParse(input).error?.issues[0]?.message;
    expect(said(z.string(), undefined)).toBe('This is missing.');
    expect(said(z.number(), '7')).toBe('Enter a number.');
    expect(said(z.int(), 1.5)).toBe('Enter a whole number.');
    expect(said(z.string().max(1200), 'x'.repeat(1201))).toBe('Use at most 1,200 characters.');
    expect(said(z.string().min(1), '')).toBe('Fill this in.');
    expect(said(z.string().min(3), 'x')).toBe('Use at least 3 characters.');
    expect(said(z.number().max(10), 11)).toBe('Enter at most 10.');
    expect(said(z.number().gt(0), 0)).toBe('Enter more than 0.');
    expect(said(z.number().lt(5), 5)).toBe('Enter less than 5.');
    expect(said(z.number().multipleOf(5), 6)).toBe('Enter a multiple of 5.');
    expect(said(z.array(z.string()).min(1), [])).toBe('Add at least one.');
    expect(said(z.array(z.string()).max(1), ['a', 'b'])).toBe('At most 1 fit here.');
    expect(said(z.enum(['day', 'week']), 'year')).toBe('Choose one of these: day, week.');
    expect(said(z.literal('day'), 'year')).toBe('Choose one of those on offer.');
    expect(said(z.email(), 'x')).toBe('Enter an e-mail address such as name@example.test.');
    expect(said(z.url(), 'x')).toBe('Enter a whole address that begins with https://.');
    expect(said(z.iso.date(), '31.3.2026')).toBe('Enter a date such as 2026-03-31.');
    expect(said(z.string().regex(/^a$/), 'b')).toBe('This is not written as it should be.');
    expect(said(z.strictObject({}), { other: 1 })).toBe('Nothing is known here of “other”.');
    expect(said(z.discriminatedUnion('kind', [z.object({ kind: z.literal('a') })]), { kind: 'z' })).toBe('There is no such kind.');
    expect(said(z.union([z.string(), z.number()]), null)).toBe('This does not fit here.');
    expect(plainWords({ code: 'custom', input: 1 } as Parameters<typeof plainWords>[0])).toBe('This does not fit here.');
    // A schema's own words come first.
    expect(said(z.string('Enter your name.'), undefined)).toBe('Enter your name.');
  });
});
