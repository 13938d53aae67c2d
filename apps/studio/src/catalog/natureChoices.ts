import { type Product, TAX_CLASS_NAMES } from '@ruta/core/catalog';

/** Kinds of products, as sheets offer them. */
export const KIND_CHOICES: ReadonlyArray<[Product['kind'], string]> = [
  ['digital', 'Digital: files, a link, a course'],
  ['physical', 'Physical: shipped'],
  ['service', 'Service: your time'],
];

/** Tax classes, as sheets offer them. */
export const TAX_CLASS_CHOICES: ReadonlyArray<[Product['taxClass'], string]> = [
  ['standard', TAX_CLASS_NAMES.standard],
  ['reduced', `${TAX_CLASS_NAMES.reduced}, printed books`],
  ['digital', TAX_CLASS_NAMES.digital],
  ['exempt', TAX_CLASS_NAMES.exempt],
];
