import { randomBytes } from 'node:crypto';
import { oneEdition, type Price, type ProductInput, ProductInputSchema } from '@ruta/core/catalog';
import { makeId } from '@ruta/core/ids';
import type { z } from 'zod';

export const newId = (kind: Parameters<typeof makeId>[0]) => makeId(kind, Date.now(), randomBytes(10));

/** What a seller types for a product with one price, or several. */
export function selling(name: string, price: Price | Price[], changes: Partial<z.input<typeof ProductInputSchema>> = {}): ProductInput {
  return ProductInputSchema.parse({ name, editions: oneEdition(newId, [price].flat()), ...changes });
}

/** The same as it might be sent, right or wrong. */
export function sentProduct(name: string, price: unknown, changes: object = {}): object {
  return { name, editions: [{ id: newId('edition'), prices: [{ id: newId('price'), price }] }], ...changes };
}
