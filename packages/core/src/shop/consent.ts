import { z } from 'zod';

/** What code of the seller's own, and what ad platforms, may need a visitor's consent for. */
export const CONSENT_CATEGORIES = ['statistics', 'marketing'] as const;
export const ConsentCategorySchema = z.enum(CONSENT_CATEGORIES);
export type ConsentCategory = z.infer<typeof ConsentCategorySchema>;

const words = (most: number) => z.string().trim().min(1, 'Say something here.').max(most, `Keep this under ${most} characters.`);
const CategorySchema = z.object({ isAsked: z.boolean(), words: words(300) });

/** The question that visitors are asked before anything runs that is not needed for the shop itself. */
export const ConsentSettingsSchema = z.object({
  isOn: z.boolean(),
  title: words(120),
  text: words(800),
  policyUrl: z.union([z.literal(''), z.url({ protocol: /^https?$/, error: 'Enter an address that begins with https://' }).max(500)]),
  statistics: CategorySchema,
  marketing: CategorySchema,
});
export type ConsentSettings = z.infer<typeof ConsentSettingsSchema>;

/** The question as it is asked: with what ad platforms are told by the rules of the day, in words made of them. */
export const AskedConsentSchema = ConsentSettingsSchema.extend({ told: z.string().optional() });
export type AskedConsent = z.infer<typeof AskedConsentSchema>;

/** The question as it is asked. What is told stands in it where somebody is asked for marketing; whoever answered before it changed is asked again. */
export const askedConsent = (settings: ConsentSettings, told: string): AskedConsent => (settings.marketing.isAsked && told ? { ...settings, told } : settings);

export const DEFAULT_CONSENT: ConsentSettings = {
  isOn: false,
  title: 'May we remember a little more?',
  text: 'This shop works without it: nothing is kept in your browser but what your cart or your order needs, and visits are counted without knowing who comes back. You can change your mind at the foot of every page.',
  policyUrl: '',
  statistics: { isAsked: true, words: 'A number is kept in your browser, so that we know a returning visitor and see which pages help.' },
  marketing: { isAsked: true, words: 'Ad platforms are told what their ads led to.' },
};

/** What a visitor answered. What is not asked is not agreed to. */
export const ConsentChoiceSchema = z.object({ statistics: z.boolean(), marketing: z.boolean() });
export type ConsentChoice = z.infer<typeof ConsentChoiceSchema>;

/** An answer with the wording that was answered, by its fingerprint. */
export const GivenConsentSchema = ConsentChoiceSchema.extend({ at: z.int().describe('Unix time in milliseconds'), wording: z.string() });
export type GivenConsent = z.infer<typeof GivenConsentSchema>;

/** Which categories the settings ask for; none while the question is switched off. */
export const askedCategories = (settings: ConsentSettings | undefined): ConsentCategory[] =>
  settings?.isOn ? CONSENT_CATEGORIES.filter((category) => settings[category].isAsked) : [];

/**
 * Whether something of a category may run for a visitor: all may where nobody is asked; else what was agreed to, by
 * whichever wording.
 */
export function mayRun(settings: ConsentSettings | undefined, given: ConsentChoice | null | undefined, category: ConsentCategory): boolean {
  if (!settings || askedCategories(settings).length === 0) return true;
  return settings[category].isAsked && given?.[category] === true;
}

/** One answer as the list of proofs tells it. */
export const ConsentProofSchema = GivenConsentSchema.extend({
  id: z.string(),
  visitorId: z.string(),
  email: z.string().nullable().describe('Whose it is, if they left an address since'),
  page: z.string().describe('Path of the page it was answered on'),
});
export type ConsentProof = z.infer<typeof ConsentProofSchema>;

export const ConsentProofsSchema = z.object({
  wordings: z.array(z.object({ id: z.string(), at: z.int().describe('First shown'), settings: AskedConsentSchema })),
  latest: z.array(ConsentProofSchema).describe('The newest, at most 50'),
  count: z.object({ answers: z.int(), statistics: z.int(), marketing: z.int() }).describe('Of the last 30 days'),
});
export type ConsentProofs = z.infer<typeof ConsentProofsSchema>;
