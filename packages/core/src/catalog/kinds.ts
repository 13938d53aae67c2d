import { z } from 'zod';

/** Tax classes of goods; each country gives every class a rate. */
export const TaxClassSchema = z.enum(['standard', 'reduced', 'digital', 'exempt']);
export type TaxClass = z.infer<typeof TaxClassSchema>;

export const ProductKindSchema = z.enum(['digital', 'physical', 'service']);
export type ProductKind = z.infer<typeof ProductKindSchema>;
