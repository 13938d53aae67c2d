export * from './currentPrice';
export * from './product';
