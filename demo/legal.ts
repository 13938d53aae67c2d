import { LEGAL_PAGES, type LegalTexts, type Seller, startingText } from '@ruta/core/shop';

/** Who sells in the sample shop; all of it made up. */
export const SELLER: Seller = {
  name: 'Perigee Lane, Lda.',
  address: 'Rua do Luar 14\n3000-000 Coimbra\nPortugal',
  representedBy: 'Inês Avelar',
  register: 'Conservatória do Registo Comercial de Coimbra, 500 000 000',
  taxNumber: 'PT500000000',
  phone: '+351 239 000 000',
};

/** What the starting texts leave open, as this shop fills it in. */
const FILLED: Array<[gap: RegExp, words: string]> = [
  [/\[Say whether you take part[^\]]*\]/, 'We do not take part in dispute resolution before a consumer board. The complaints book is at our office.'],
  [/\[your payment processor\]/, 'Quayside'],
  [/\[your hosting company\]/, 'our hosting company in Lisbon'],
  [/\[your carrier[^\]]*\]/, 'the national post'],
  [/\[Name advertising platforms[^\]]*\]/, 'Skylark hears of a purchase only from visitors who agreed to it. Nothing leaves the European Economic Area.'],
  [/\[number of years[^\]]*\]/, 'ten'],
  [/for \[number\] days/, 'for 60 days'],
  [/within \[number\] working days/, 'within two working days'],
  [/\[the data protection authority[^\]]*\]/, 'the data protection authority of Portugal'],
  [/ ?\[Change the last sentence[^\]]*\]/, ''],
  [/\[Say within how many days[^\]]*\]/, 'We refund every course within 30 days, whatever the reason.'],
];

/** The sample shop's legal pages: the texts that every shop can begin with, filled in. */
export const legalTexts = (): LegalTexts => {
  const shop = { name: 'Perigee Lane', country: 'PT', contactEmail: 'ines@perigeelane.test', seller: SELLER };
  return Object.fromEntries(LEGAL_PAGES.map((kind) => [kind, FILLED.reduce((text, [gap, words]) => text.replace(gap, words), startingText(kind, shop))]));
};
