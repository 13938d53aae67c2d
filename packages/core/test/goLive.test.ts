import { describe, expect, it } from 'vitest';
import { goLiveNeeds, missingToGoLive, NO_SELLER } from '../src/shop';

const settings = {
  name: 'Perigee Lane',
  country: 'PT',
  contactEmail: 'ines@perigeelane.test',
  seller: { ...NO_SELLER, name: 'Perigee Lane, Lda.', address: 'Rua do Luar 14', taxNumber: 'PT500000000' },
  legal: { privacy: 'We keep what you order.', withdrawal: 'You may withdraw within 14 days.' },
};
const needsOf = (changes: Partial<Parameters<typeof goLiveNeeds>[0]> = {}) =>
  goLiveNeeds({ settings, sells: true, takesPayments: true, marked: [], hasTestOrder: true, testLink: '/funnels', ...changes });
const missing = (changes: Parameters<typeof needsOf>[0], anyway: boolean) => missingToGoLive(needsOf(changes), anyway).map(({ need }) => need);

describe('going live', () => {
  it('cannot do without a way to pay, text of its own and the legal pages of its country', () => {
    expect(missing({}, true)).toEqual([]);
    expect(missing({ takesPayments: false }, true)).toEqual(['payments']);
    expect(missing({ marked: [{ name: 'Gift, Sign-up', link: '/funnels/f/page/s' }] }, true)).toEqual(['text']);
    expect(missing({ settings: { ...settings, legal: { ...settings.legal, privacy: 'Kept by [whom].' } } }, true)).toEqual(['legal-pages']);
  });
  it('advises terms and a test purchase, which can be waived', () => {
    expect(missing({ hasTestOrder: false }, false)).toEqual(['terms', 'test-purchase']);
    expect(missing({ hasTestOrder: false }, true)).toEqual([]);
    expect(missing({ settings: { ...settings, legal: { ...settings.legal, terms: 'You agree.' } } }, false)).toEqual([]);
  });
  it('needs no way to pay where nothing costs money', () => {
    expect(missing({ sells: false, takesPayments: false }, true)).toEqual([]);
  });
  it('names three pages and counts the rest', () => {
    const marked = ['a', 'b', 'c', 'd', 'e'].map((name) => ({ name, link: `/${name}` }));
    expect(needsOf({ marked }).find(({ need }) => need === 'text')).toMatchObject({
      detail: 'Replace the text of the template on “a”, “b”, “c” and 2 more pages, and publish.',
      link: '/a',
    });
  });
});
