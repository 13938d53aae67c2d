import { z } from 'zod';
import { LEGAL_NAMES, type LegalSettings, legalLacks, legalLinks } from './legalPages';
import { ModeSchema } from './shop';

/** What test mode means for whoever pays in it, as checkouts, orders and mails say it. */
export const TEST_MODE_WORDS = 'Test mode: no money is charged, and a test receipt goes to the test mailbox.';
export const TEST_ORDER_WORDS = 'Test order: no money is charged, and a test receipt goes to the test mailbox.';

export const GoLiveNeedSchema = z.object({
  need: z.enum(['payments', 'text', 'legal-pages', 'terms', 'test-purchase']),
  done: z.boolean(),
  required: z.boolean().describe('Whether the shop cannot go live without it; otherwise it is advised'),
  title: z.string(),
  detail: z.string(),
  link: z.string().describe('Where it is done in the studio'),
});
export type GoLiveNeed = z.infer<typeof GoLiveNeedSchema>;

export const GoLiveSchema = z.object({ mode: ModeSchema, needs: z.array(GoLiveNeedSchema) });
export type GoLive = z.infer<typeof GoLiveSchema>;

export const ModeChangeSchema = z.object({
  mode: ModeSchema,
  anyway: z.boolean().default(false).describe('Go live although something that is advised is missing'),
});

/** What is known of a shop that wants to go live. */
export interface GoLiveFacts {
  settings: LegalSettings;
  /** Something that costs money is in the catalog. */
  sells: boolean;
  /** Whether somebody can pay in live mode, and whether somebody has in test mode. */
  takesPayments: boolean;
  /** The published pages on which text of a template still stands. */
  marked: ReadonlyArray<{ name: string; link: string }>;
  hasTestOrder: boolean;
  /** Where a test purchase is made. */
  testLink: string;
}

const MOST_NAMED = 3;
const listed = (names: readonly string[]): string =>
  names
    .slice(0, MOST_NAMED)
    .map((name) => `“${name}”`)
    .join(', ') + (names.length > MOST_NAMED ? ` and ${names.length - MOST_NAMED} more pages` : '');

/** What a shop needs before it takes real money: what the law and the checkout cannot do without, and what is advised. */
export function goLiveNeeds({ settings, sells, takesPayments, marked, hasTestOrder, testLink }: GoLiveFacts): GoLiveNeed[] {
  const lacks = legalLacks(settings, sells);
  const names = lacks.map(({ name }) => `“${name}”`).join(', ');
  const hasTerms = legalLinks(settings).some(({ kind }) => kind === 'terms');
  return [
    {
      need: 'payments',
      done: takesPayments,
      required: sells,
      title: 'A way to pay',
      detail: takesPayments ? 'Card payments are connected.' : 'Connect a payment processor, so customers can pay.',
      link: '/connections',
    },
    {
      need: 'text',
      done: marked.length === 0,
      required: true,
      title: 'Your own text',
      detail:
        marked.length === 0
          ? 'No published page shows text of a template.'
          : `Replace the text of the template on ${listed(marked.map(({ name }) => name))}, and publish.`,
      link: marked[0]?.link ?? '/funnels',
    },
    {
      need: 'legal-pages',
      done: lacks.length === 0,
      required: true,
      title: 'Legal pages',
      detail: lacks.length === 0 ? 'Everything that your country asks for is there.' : `Write ${names}: your country asks for it, or it has gaps.`,
      link: '/settings/legal',
    },
    {
      need: 'terms',
      done: hasTerms,
      required: false,
      title: LEGAL_NAMES.terms,
      detail: hasTerms ? 'Customers agree to them at the checkout.' : 'Without terms, customers are not asked to agree to any.',
      link: '/settings/legal',
    },
    {
      need: 'test-purchase',
      done: hasTestOrder,
      required: false,
      title: 'A test purchase',
      detail: hasTestOrder ? 'You have bought in test mode.' : 'Buy from yourself with a test card. Check the page, the receipt and the files.',
      link: testLink,
    },
  ];
}

/** What keeps a shop from going live: what is required and missing, and what is advised unless it is waived. */
export const missingToGoLive = (needs: readonly GoLiveNeed[], anyway: boolean): GoLiveNeed[] =>
  needs.filter(({ done, required }) => !done && (required || !anyway));
