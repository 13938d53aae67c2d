// by hand: records are found through the registry, by their type.
export * from './action';
export * from './address';
export * from './bindName';
export { newQuestion, UNWRITTEN_QUESTION } from './faq';
export { addressFields, FormFieldSchema } from './form';
export { ORDER_PARTS, type OrderPart, orderParts } from './orderForm';
export { type PictureSource, PictureSourceSchema } from './picture';
export { PRODUCT_PARTS } from './product';
export { type ElementPath, type ElementRecord, elementRecord, wordsAt } from './record';
export * from './registry';
export * from './show';
export * from './words';
