import type { Product } from '@ruta/core/catalog';

/** Kinds of products, as sheets offer them. */
export const KIND_CHOICES: ReadonlyArray<[Product['kind'], string]> = [
  ['digital', 'Digital: files, a link, a course'],
  ['physical', 'Physical: shipped'],
  ['service', 'Service: your time'],
];

/** Tax classes, as sheets offer them. */
export const TAX_CLASS_CHOICES: ReadonlyArray<[Product['taxClass'], string]> = [
  ['standard', 'Standard'],
  ['reduced', 'Reduced, printed books'],
  ['digital', 'Electronic publications'],
  ['exempt', 'Exempt'],
];
