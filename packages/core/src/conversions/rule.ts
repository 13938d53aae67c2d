import { z } from 'zod';
import { MessageCountsSchema } from '../messages';
import { AmountSchema } from '../money';
import { KEY_NAMES } from './matchingKeys';
import { CONVERSION_MOMENTS, MOMENT_NAMES } from './moments';
import { readTemplate } from './template';

/** What a conversion is said to be worth. */
export const ConversionValueSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({ kind: z.literal('own') }).describe('What was paid, or the price of what was looked at'),
  z.object({ kind: z.literal('estimate'), amount: AmountSchema }),
  z.object({ kind: z.literal('average') }).describe('What those who sent the same forms have paid so far, divided by their number'),
]);
export type ConversionValue = z.infer<typeof ConversionValueSchema>;

const token = z.string().trim().max(500, 'Keep the token under 500 characters.');

/** Where conversions go. A further one is one more member here and one file in the server's `destinations`. */
export const DestinationSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('skylark'),
    pixelId: z
      .string()
      .trim()
      .regex(/^[A-Za-z0-9-]{4,40}$/, 'Enter the id of the pixel as Skylark shows it: letters, digits and dashes.'),
    isInBrowser: z.boolean().describe('The pixel stands on pages too; each conversion has one id, by which it is counted once'),
  }),
  z.object({
    kind: z.literal('http'),
    url: z
      .url({ protocol: /^https?$/, error: 'Enter an address that begins with https://' })
      .max(1000)
      .refine((url) => !/^https?:\/\/[^/]*@/.test(url), 'Leave name and password out of the address; the token is for that.'),
    template: z
      .string()
      .max(5000)
      .superRefine((text, context) => {
        const read = readTemplate(text);
        if ('message' in read) context.addIssue({ code: 'custom', message: read.message });
      }),
  }),
]);
export type Destination = z.infer<typeof DestinationSchema>;

export const NewConversionRuleSchema = z
  .object({
    name: z.string().trim().min(1, 'Give it a name.').max(80, 'Keep the name under 80 characters.'),
    isOn: z.boolean(),
    moment: z.enum(MOMENT_NAMES),
    formIds: z.array(z.string()).max(100).describe('Of these forms only; of all if none is named'),
    funnelId: z.string().nullable().describe('In this funnel only'),
    destination: DestinationSchema,
    token: token.optional().describe('Never sent back; without one the kept one stays'),
    event: z.string().trim().min(1, 'Say what it is called there.').max(60),
    value: ConversionValueSchema,
    keys: z.array(z.enum(KEY_NAMES)),
    testCode: z.string().trim().max(60).nullable().describe('While there is one, everything is sent as a test'),
  })
  .superRefine(({ value, moment, destination, keys }, context) => {
    if (value.kind === 'own' && !CONVERSION_MOMENTS[moment].hasValue)
      context.addIssue({ code: 'custom', path: ['value'], message: 'This moment has no value of its own. Choose an estimate, an average, or none.' });
    if (value.kind === 'average' && !('ofForms' in CONVERSION_MOMENTS[moment]))
      context.addIssue({ code: 'custom', path: ['value'], message: 'An average is known of leads only. Choose an estimate, the own value, or none.' });
    if (destination.kind === 'skylark' && keys.length === 0)
      context.addIssue({ code: 'custom', path: ['keys'], message: 'Choose at least one: without any, Skylark knows nobody again.' });
  });
export type NewConversionRule = z.infer<typeof NewConversionRuleSchema>;

export const ConversionRuleSchema = z.object({
  ...NewConversionRuleSchema.shape,
  ...MessageCountsSchema.shape,
  id: z.string(),
  createdAt: z.int(),
  hasToken: z.boolean(),
  last: z.object({ at: z.int(), status: z.int().nullable(), answer: z.string().nullable() }).nullable().describe('The last answer; null before the first'),
});
export type ConversionRule = z.infer<typeof ConversionRuleSchema>;

/** What rules can choose from: live funnels, and the forms on their pages. */
export const RuleChoicesSchema = z.object({
  funnels: z.array(z.object({ id: z.string(), name: z.string(), slug: z.string() })),
  forms: z.array(z.object({ id: z.string(), funnelId: z.string(), stop: z.string(), button: z.string() })),
});
export type RuleChoices = z.infer<typeof RuleChoicesSchema>;
