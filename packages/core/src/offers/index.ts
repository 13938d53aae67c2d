export * from './bump';
export * from './deadline';
export * from './factNames';
export * from './offer';
export * from './offerAt';
export * from './offered';
export * from './offerLine';
export * from './ownPrice';
