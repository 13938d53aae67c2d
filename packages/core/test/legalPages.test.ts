import { describe, expect, it } from 'vitest';
import { withoutTerms, withTermsLinked, words } from '../src/elements';
import { gapsIn, LEGAL_PAGES, legalLacks, legalLinks, legalPage, legalPagesAsked, NO_SELLER, startingText } from '../src/shop';

const shop = { name: 'Perigee Lane', country: 'PT', contactEmail: 'ines@perigeelane.test' };
const seller = { ...NO_SELLER, name: 'Perigee Lane, Lda.', address: 'Rua do Luar 14\n3000-000 Coimbra', taxNumber: 'PT500000000' };

describe('legal pages', () => {
  it('are asked for by the country of the seller, those about buying where something is sold', () => {
    expect(legalPagesAsked('PT', true)).toEqual(['imprint', 'privacy', 'withdrawal']);
    expect(legalPagesAsked('GB', false)).toEqual(['imprint', 'privacy']);
    expect(legalPagesAsked('CH', true)).toEqual(['imprint', 'privacy']);
    expect(legalPagesAsked('US', true)).toEqual(['privacy']);
    expect(legalPagesAsked('AQ', true)).toEqual([]);
  });

  it('begin with texts that name what only the seller knows, and nothing that the shop knows already', () => {
    for (const kind of LEGAL_PAGES) {
      const bare = gapsIn(startingText(kind, shop));
      const known = gapsIn(startingText(kind, { ...shop, seller }));
      expect(bare.length, kind).toBeGreaterThan(0);
      expect(known.join(), kind).not.toMatch(/your name|your address/);
    }
    expect(gapsIn(startingText('withdrawal', { ...shop, seller }))).toEqual(['Change the last sentence if you bear it.']);
    expect(startingText('privacy', { ...shop, seller })).toContain('Perigee Lane, Lda., Rua do Luar 14, 3000-000 Coimbra, is responsible');
  });

  it('are there once they say something, and lack what is open', () => {
    expect(legalLinks(shop)).toEqual([]);
    expect(legalLacks(shop, true).map(({ kind }) => kind)).toEqual(['imprint', 'privacy', 'withdrawal']);
    const half = { ...shop, seller, legal: { privacy: 'Ask [whom?]', withdrawal: '  ', terms: 'Ours.' } };
    expect(legalLinks(half).map(({ path }) => path)).toEqual(['/legal/imprint', '/legal/privacy', '/legal/terms']);
    expect(legalLacks(half, true)).toEqual([
      { kind: 'privacy', name: 'Privacy', gaps: ['whom?'] },
      { kind: 'withdrawal', name: 'Right of withdrawal', gaps: [] },
    ]);
    // Who sells and where is an imprint by itself.
    expect(legalPage(half, 'imprint')?.parts[0]?.text).toBe(
      'Perigee Lane, Lda.\nRua do Luar 14\n3000-000 Coimbra\nines@perigeelane.test\nTax number PT500000000',
    );
    expect(legalPage(half, 'withdrawal')).toBeNull();
  });

  it('show a short line by itself as a heading, and everything else as it was typed', () => {
    const legal = { terms: 'How you order\n\nBy pressing the button.\n\nSigned in Coimbra' };
    expect(legalPage({ ...shop, legal }, 'terms')?.parts).toEqual([
      { kind: 'heading', text: 'How you order' },
      { kind: 'paragraph', text: 'By pressing the button.' },
      { kind: 'paragraph', text: 'Signed in Coimbra' },
    ]);
  });
});

describe('words about terms', () => {
  it('lead to them where there are some, and are left out where there are none', () => {
    const consent = words('By paying you accept the terms. The receipt comes by mail.');
    expect(withTermsLinked(consent, '/legal/terms')).toEqual([
      { type: 'text', text: 'By paying you accept the ' },
      { type: 'text', text: 'terms', link: '/legal/terms' },
      { type: 'text', text: '. The receipt comes by mail.' },
    ]);
    expect(withoutTerms(consent)).toEqual(words('The receipt comes by mail.'));
    expect(withoutTerms(words('By paying you accept the terms.'))).toEqual([]);
    // Of a seller who keeps them elsewhere.
    const elsewhere = [{ type: 'text' as const, text: 'Our terms', link: 'https://example.test' }];
    expect(withoutTerms(elsewhere)).toBe(elsewhere);
    expect(withTermsLinked(elsewhere, '/legal/terms')).toBe(elsewhere);
  });
});
