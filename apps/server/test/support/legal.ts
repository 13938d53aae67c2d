import type { LegalTexts, Seller } from '@ruta/core/shop';

/** What a shop in Portugal has to say before its funnels go live; it has written no terms. */
export const LEGAL: { seller: Seller; legal: LegalTexts } = {
  seller: { name: 'Perigee Lane, Lda.', address: 'Rua do Luar 14\n3000-000 Coimbra', representedBy: '', register: '', taxNumber: 'PT500000000', phone: '' },
  legal: { privacy: 'We keep what you order, and nothing else.', withdrawal: 'You may withdraw within 14 days.' },
};
