export * from './currency';
export * from './money';
