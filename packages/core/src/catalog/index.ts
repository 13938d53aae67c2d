export * from './currentPrice';
export * from './descriptionText';
export * from './kinds';
export * from './oneEdition';
export * from './picture';
export * from './price';
export * from './priceWords';
export * from './product';
