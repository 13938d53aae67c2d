export * from './discount';
export * from './quote';
export * from './quoteProduct';
export * from './shippingTable';
export * from './taxRatesEu';
export * from './taxTable';
