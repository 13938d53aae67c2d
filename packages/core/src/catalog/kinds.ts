import { z } from 'zod';

/** Tax classes of goods; each country gives every class a rate. */
export const TaxClassSchema = z.enum(['standard', 'reduced', 'digital', 'exempt']);
export type TaxClass = z.infer<typeof TaxClassSchema>;

/** What each tax class is called, on every screen. */
export const TAX_CLASS_NAMES: Record<TaxClass, string> = {
  standard: 'Standard',
  reduced: 'Reduced',
  digital: 'Electronic publications',
  exempt: 'Exempt',
};

export const ProductKindSchema = z.enum(['digital', 'physical', 'service']);
export type ProductKind = z.infer<typeof ProductKindSchema>;
