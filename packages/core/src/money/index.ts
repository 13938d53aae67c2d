export * from './currency';
export * from './money';
export * from './percent';
