import { z } from 'zod';

/** The pages on which a shop says who it is and by what rules it sells, in the order in which they are linked. */
export const LEGAL_PAGES = ['imprint', 'privacy', 'terms', 'withdrawal', 'refunds'] as const;
export const LegalPageKindSchema = z.enum(LEGAL_PAGES);
export type LegalPageKind = z.infer<typeof LegalPageKindSchema>;

/** What each is called, on screens, in links and above its text. */
export const LEGAL_NAMES: Record<LegalPageKind, string> = {
  imprint: 'Imprint',
  privacy: 'Privacy',
  terms: 'Terms',
  withdrawal: 'Right of withdrawal',
  refunds: 'Refunds',
};

const line = (most: number) => z.string().trim().max(most, `Keep this under ${most} characters.`);

/** Who sells: the person or company that buyers make a contract with. */
export const SellerSchema = z.object({
  name: line(120).describe('As it is registered'),
  address: line(400).describe('Street, postcode and town, country; a line each'),
  representedBy: line(120).describe('Who speaks for a company; empty for a person'),
  register: line(160).describe('Which register, and the number in it'),
  taxNumber: line(40).describe('VAT number, or the number that receipts have to name'),
  phone: line(40),
});
export type Seller = z.infer<typeof SellerSchema>;
export const NO_SELLER: Seller = { name: '', address: '', representedBy: '', register: '', taxNumber: '', phone: '' };

/** The texts of the legal pages, in plain paragraphs; what has none is not shown and not linked. */
export const LegalTextsSchema = z.partialRecord(LegalPageKindSchema, z.string().max(100_000, 'Keep a page under 100,000 characters.'));
export type LegalTexts = z.infer<typeof LegalTextsSchema>;

/** What legal pages are made of, as the shop's settings have it. */
export interface LegalSettings {
  country: string;
  contactEmail: string;
  seller?: Seller | undefined;
  legal?: LegalTexts | undefined;
}

/** Where a legal page stands on the shop's site, under every domain of the shop. */
export const legalPath = (kind: LegalPageKind): string => `/legal/${kind}`;

export interface LegalLink {
  kind: LegalPageKind;
  name: string;
  path: string;
}

/** The legal pages that a shop has, for its footers, checkouts and mails. */
export const legalLinks = (settings: LegalSettings): LegalLink[] =>
  LEGAL_PAGES.filter((kind) => hasLegalPage(settings, kind)).map((kind) => ({ kind, name: LEGAL_NAMES[kind], path: legalPath(kind) }));

/** The imprint is there once it says who sells and where; every other page once it has a text. */
function hasLegalPage({ seller, legal }: LegalSettings, kind: LegalPageKind): boolean {
  if (kind === 'imprint' && seller?.name && seller.address) return true;
  return Boolean(legal?.[kind]?.trim());
}

/** What a text still leaves open, as its square brackets say; each once. */
export const gapsIn = (text: string): string[] =>
  [...new Set([...text.matchAll(/\[([^[\]\n]{1,200})\]/g)].map(([, gap]) => (gap ?? '').trim()))].filter(Boolean);

/** A legal page as it is shown. */
export interface LegalPage {
  title: string;
  parts: Array<{ kind: 'heading' | 'paragraph'; text: string }>;
}

const HEADING_MOST = 80;
/** A line by itself that is no sentence stands above what follows. */
const isHeading = (text: string, index: number, all: readonly string[]): boolean =>
  text.length <= HEADING_MOST && !text.includes('\n') && !/[.!?:;,\])]$/.test(text) && index < all.length - 1;

/** A legal page of a shop; null if it has none of this kind. */
export function legalPage(settings: LegalSettings, kind: LegalPageKind): LegalPage | null {
  if (!hasLegalPage(settings, kind)) return null;
  const texts = (settings.legal?.[kind] ?? '')
    .split(/\n\s*\n/)
    .map((text) => text.trim())
    .filter(Boolean);
  const written = texts.map((text, index) => ({ kind: isHeading(text, index, texts) ? ('heading' as const) : ('paragraph' as const), text }));
  return { title: LEGAL_NAMES[kind], parts: kind === 'imprint' ? [...sellerParts(settings), ...written] : written };
}

/** Who sells, line by line: on the imprint, and below mails. */
export function sellerLines({ seller, contactEmail }: Pick<LegalSettings, 'seller' | 'contactEmail'>): string[] {
  if (!seller?.name) return [];
  return [
    seller.name,
    ...seller.address.split('\n').map((each) => each.trim()),
    seller.representedBy && `Represented by ${seller.representedBy}`,
    contactEmail,
    seller.phone,
    seller.register,
    seller.taxNumber && `Tax number ${seller.taxNumber}`,
  ].filter(Boolean);
}

const sellerParts = (settings: LegalSettings): LegalPage['parts'] => {
  const text = sellerLines(settings).join('\n');
  return text ? [{ kind: 'paragraph', text }] : [];
};

/**
 * The European Union, Iceland, Liechtenstein and Norway; the United Kingdom has kept the same rules.
 * Who sells: Directive 2000/31/EC, Article 5. Privacy: Regulation (EU) 2016/679, Article 13. Withdrawal: Directive 2011/83/EU, Article 6.
 */
const EUROPE = 'AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IS IT LI LT LU LV MT NL NO PL PT RO SE SI SK GB'.split(' ');
/** Countries whose law asks distance sellers to say who they are: of Switzerland the act against unfair competition, Article 3 s. */
const NAMED_SELLERS = new Set([...EUROPE, 'CH', 'JP', 'KR', 'TR']);
/** Countries whose law asks whoever keeps personal data to say what for. */
const PRIVACY = new Set([
  ...EUROPE,
  'CH',
  'JP',
  'KR',
  'TR',
  'AR',
  'AU',
  'BR',
  'CA',
  'CL',
  'CN',
  'CO',
  'IL',
  'IN',
  'MX',
  'NZ',
  'PE',
  'SG',
  'TH',
  'TW',
  'US',
  'ZA',
]);
const WITHDRAWAL = new Set(EUROPE);

/** Which legal pages the law of the seller's country asks for; of those about buying only where something is sold. */
export const legalPagesAsked = (country: string, sells: boolean): LegalPageKind[] =>
  LEGAL_PAGES.filter((kind) => {
    if (kind === 'imprint') return NAMED_SELLERS.has(country);
    if (kind === 'privacy') return PRIVACY.has(country);
    return kind === 'withdrawal' && sells && WITHDRAWAL.has(country);
  });

/** A legal page that a shop's country asks for and that is missing, or is there with gaps. */
export interface LegalLack {
  kind: LegalPageKind;
  name: string;
  /** What the text leaves open; empty if there is no page at all. */
  gaps: string[];
}

/** What a shop lacks of what its country asks for, and every page with gaps: nobody is shown "[your address]". */
export function legalLacks(settings: LegalSettings, sells: boolean): LegalLack[] {
  const asked = new Set(legalPagesAsked(settings.country, sells));
  return LEGAL_PAGES.flatMap((kind) => {
    const gaps = gapsIn(settings.legal?.[kind] ?? '');
    const isMissing = asked.has(kind) && !hasLegalPage(settings, kind);
    return isMissing || gaps.length > 0 ? [{ kind, name: LEGAL_NAMES[kind], gaps }] : [];
  });
}
