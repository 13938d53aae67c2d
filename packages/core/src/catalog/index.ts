export * from './currentPrice';
export * from './picture';
export * from './product';
