export * from './readSpend';
export * from './spend';
